import type { ChangeDto } from './change.ts';
import type { EntrySlice } from './slices.ts';
import type { JobDto, RevisionDto } from './source.ts';

/** Messages of the event stream. Those of kind `change` carry the id of the change log, from which a stream can be resumed. */
export type EventDto =
  | {
      readonly kind: 'change';
      readonly projectId: string;
      readonly change: ChangeDto;
      /** Parts of the project's entries that may be otherwise now. */
      readonly slices: readonly EntrySlice[];
    }
  | { readonly kind: 'job'; readonly projectId: string; readonly job: JobDto }
  | {
      readonly kind: 'geometry';
      readonly projectId: string;
      readonly revisionId: string;
      readonly chunks: number;
      readonly state: RevisionDto['geometryState'];
    }
  | { readonly kind: 'sources'; readonly projectId: string }
  /** The list of projects is another: made, renamed, put away, brought back. */
  | { readonly kind: 'projects'; readonly projectId: string }
  /** The price folder holds other lists than before. */
  | { readonly kind: 'prices'; readonly projectId: null }
  /** A stream is open: the first message of each. What no log holds (work on files, pictures) is to be read again. */
  | { readonly kind: 'here'; readonly projectId: null; readonly after: number }
  /** More happened than is told one by one: everything is to be read again. */
  | { readonly kind: 'readAgain'; readonly projectId: null };

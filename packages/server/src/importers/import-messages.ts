import type { Finding, Problem } from '@tally/core';

/** What an import worker is started with. */
export interface ImportOrder {
  readonly filePath: string;
  /** Folder of the file store. */
  readonly storeRoot: string;
  /** Table of the revision before, for the elements' identity. */
  readonly beforePath: string | null;
  readonly nextKey: number;
  /** Id the revision will have; its picture is stored under it. */
  readonly revisionId: string;
  /** Only the picture is wanted: the figures were stored before a stop. */
  readonly pictureOf: string | null;
  /** The project measures shapes: the figures wait for the picture, so that nothing is unknown when the revision counts. */
  readonly isPictureFirst: boolean;
}

export interface ImportFigures {
  readonly tableHash: string;
  readonly elements: number;
  readonly matched: number;
  readonly known: number;
  readonly nextKey: number;
  readonly schema: string;
  readonly lengthUnit: string;
  readonly findings: readonly Finding[];
  /** Chunks of the picture if it is whole already, else null. */
  readonly chunks: number | null;
}

export type ImportMessage =
  | { readonly kind: 'progress'; readonly stage: string; readonly share: number }
  | { readonly kind: 'figures'; readonly figures: ImportFigures }
  | { readonly kind: 'chunk'; readonly chunks: number; readonly share: number }
  | { readonly kind: 'done'; readonly chunks: number; readonly findings: readonly Finding[] }
  | { readonly kind: 'failed'; readonly problem: Problem };

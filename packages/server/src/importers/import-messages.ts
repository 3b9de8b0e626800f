import type { Finding, ListPreviewDto, ListProfile, Problem } from '@tally/core';

/** What the worker that reads a file is asked. */
export interface ReadingOrder {
  readonly filePath: string;
  /** Folder of the file store. */
  readonly storeRoot: string;
  /** What identity the elements get; null if only what is to be drawn is asked. */
  readonly identity: {
    /** Table of the revision before. */
    readonly beforePath: string | null;
    /** Keys of all elements the source had. */
    readonly keysPath: string | null;
    readonly nextKey: number;
  } | null;
}

/** What the worker that reads a list is started with. */
export interface ListOrder {
  readonly filePath: string;
  readonly storeRoot: string;
  readonly profile: ListProfile;
  readonly identity: NonNullable<ReadingOrder['identity']>;
  /** Nothing is stored: only what it would be is asked. */
  readonly isPreview: boolean;
}

/** What a list would be, with all its codes. */
export type ListReply =
  | {
      readonly kind: 'preview';
      readonly preview: Omit<ListPreviewDto, 'known'> & { readonly codes: readonly string[] };
    }
  | { readonly kind: 'failed'; readonly problem: Problem };

/** What the worker that draws a file is started with. */
export interface DrawingOrder {
  readonly filePath: string;
  readonly storeRoot: string;
  /** The picture is stored under it. */
  readonly revisionId: string;
  readonly drawn: readonly DrawnElement[];
}

/** An element that has a picture. */
export interface DrawnElement {
  /** Number of its record in the file. */
  readonly id: number;
  /** Its row in the table. */
  readonly row: number;
  readonly globalId: string;
  readonly ifcClass: string;
  readonly name: string | null;
}

export interface ImportFigures {
  readonly tableHash: string;
  readonly keysHash: string;
  readonly elements: number;
  readonly matched: number;
  readonly known: number;
  readonly nextKey: number;
  readonly schema: string;
  readonly lengthUnit: string;
  /** When the file says that it was written; null where it does not. */
  readonly fileTime: string | null;
  readonly findings: readonly Finding[];
}

export type ReadingMessage =
  | ProgressMessage
  | { readonly kind: 'read'; readonly figures: ImportFigures | null; readonly drawn: readonly DrawnElement[] };

export type DrawingMessage =
  | ProgressMessage
  | { readonly kind: 'chunk'; readonly chunks: number }
  | { readonly kind: 'drawn'; readonly chunks: number; readonly findings: readonly Finding[] };

type ProgressMessage =
  | { readonly kind: 'progress'; readonly stage: string; readonly share: number }
  | { readonly kind: 'failed'; readonly problem: Problem };

import type { Finding } from '../checks/finding.ts';
import type { SourceKind } from '../elements/model-element.ts';
import type { Problem } from '../result/result.ts';

export interface RevisionDto {
  readonly id: string;
  readonly sourceId: string;
  readonly number: number;
  readonly fileName: string;
  readonly state: 'counting' | 'waiting' | 'kept' | 'rejected';
  readonly elements: number;
  readonly matched: number;
  readonly schema: string;
  readonly lengthUnit: string;
  /** When its file says that it was written; null where it does not. */
  readonly fileTime: string | null;
  /** Lines that its findings make, those of one cause one line. */
  readonly findingLines: number;
  readonly geometryState: 'pending' | 'running' | 'done' | 'failed';
  readonly chunks: number;
  readonly createdAt: string;
}

/** A revision with what the checks find in it. */
export interface CheckedRevision extends Omit<RevisionDto, 'findingLines'> {
  readonly findings: readonly Finding[];
}

export interface SourceDto {
  readonly id: string;
  readonly name: string;
  readonly kind: SourceKind;
  readonly revisions: readonly RevisionDto[];
}

export interface JobDto {
  readonly id: string;
  readonly projectId: string;
  readonly fileName: string;
  readonly state: 'queued' | 'running' | 'done' | 'failed' | 'stopped';
  readonly stage: string;
  readonly share: number;
  readonly problem: Problem | null;
  readonly revisionId: string | null;
}

/** The drop folder of a project: its path, and what in it cannot be taken. */
export interface DropFolderDto {
  readonly path: string;
  readonly troubles: readonly { readonly name: string; readonly reason: string }[];
  /** Folders beside it that belong to no project in use. */
  readonly unknownFolders: readonly string[];
}

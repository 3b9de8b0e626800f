import type { Entry, EntryDiff, Finding, MoveDto, PracticeRow, Problem, Shortfall, SourceKind } from '@tally/core';
import {
  bigserial,
  boolean,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  uniqueIndex,
} from 'drizzle-orm/pg-core';

const createdAt = timestamp('created_at', { withTimezone: true, mode: 'string' }).notNull().defaultNow();

export const projects = pgTable('projects', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  currency: text('currency').notNull(),
  /** Sequence number of the last change. */
  seq: integer('seq').notNull().default(0),
  /** What the total of its plan lacks, as of its last calculation. */
  shortfall: jsonb('shortfall').$type<Shortfall>(),
  /** When it was put away; null for one that is in use. */
  putAwayAt: timestamp('put_away_at', { withTimezone: true, mode: 'string' }),
  /** First ElementKey that is still free. */
  nextKey: integer('next_key').notNull().default(1),
  createdAt,
});

/** What the elements of a project are decided to be priced with, for its successors to ask; of one that is kept out nothing. */
export const practices = pgTable('practices', {
  projectId: text('project_id')
    .primaryKey()
    .references(() => projects.id, { onDelete: 'cascade' }),
  rows: jsonb('rows').$type<readonly PracticeRow[]>().notNull(),
});

/** What a project is made of now: the change log read to its end. */
export const entries = pgTable(
  'entries',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    kind: text('kind').notNull(),
    id: text('id').notNull(),
    body: jsonb('body').notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.kind, t.id] })],
);

/** Every change ever made, append-only. */
export const changeLog = pgTable(
  'change_log',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    seq: integer('seq').notNull(),
    author: text('author').notNull(),
    cause: text('cause').notNull(),
    diff: jsonb('diff').$type<EntryDiff>().notNull(),
    /** Sequence number of the change this one takes back. */
    undoes: integer('undoes'),
    /** The option that it was made in; null for the project itself. */
    option: text('option'),
    /** How many entries it touches, and whether another revision of a source counts by it: what lists of changes tell without reading it. */
    entryCount: integer('entry_count').notNull().default(0),
    isRevision: boolean('is_revision').notNull().default(false),
    createdAt,
  },
  (t) => [uniqueIndex('change_log_project_seq').on(t.projectId, t.seq)],
);

/** Price libraries that projects share. */
export const books = pgTable('books', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  createdAt,
});

/** Immutable versions of books, by their content. */
export const bookVersions = pgTable(
  'book_versions',
  {
    bookId: text('book_id')
      .notNull()
      .references(() => books.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    hash: text('hash').notNull(),
    entries: jsonb('entries').$type<Entry[]>().notNull(),
    note: text('note').notNull(),
    author: text('author').notNull(),
    createdAt,
  },
  (t) => [primaryKey({ columns: [t.bookId, t.number] })],
);

/** How a change moved the total; written when the plan has been recalculated. */
export const moves = pgTable(
  'moves',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    /** The option whose total it moved; empty for the plan of the project itself. */
    option: text('option').notNull().default(''),
    seq: integer('seq').notNull(),
    move: jsonb('move').$type<MoveDto>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.option, t.seq] })],
);

export const sources = pgTable('sources', {
  id: text('id').primaryKey(),
  kind: text('kind').$type<SourceKind>().notNull().default('model'),
  projectId: text('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  createdAt,
});

export const revisions = pgTable('revisions', {
  id: text('id').primaryKey(),
  projectId: text('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  sourceId: text('source_id')
    .notNull()
    .references(() => sources.id, { onDelete: 'cascade' }),
  number: integer('number').notNull(),
  fileName: text('file_name').notNull(),
  fileHash: text('file_hash').notNull(),
  tableHash: text('table_hash').notNull(),
  /** File of the keys of all elements its source had until then; null for revisions of an older version of the server. */
  keysHash: text('keys_hash'),
  readerVersion: text('reader_version').notNull(),
  /** `ready`, `waiting` for a yes, or `rejected`. Which ready one counts is an entry of kind `counting`. */
  state: text('state').$type<'ready' | 'waiting' | 'rejected'>().notNull(),
  elements: integer('elements').notNull(),
  matched: integer('matched').notNull(),
  schema: text('schema').notNull(),
  lengthUnit: text('length_unit').notNull(),
  /** When its file says that it was written; null where it does not, and for revisions of an older version of the server. */
  fileTime: text('file_time'),
  findings: jsonb('findings').$type<Finding[]>().notNull(),
  geometryState: text('geometry_state').$type<'pending' | 'running' | 'done' | 'failed'>().notNull().default('pending'),
  chunks: integer('chunks').notNull().default(0),
  createdAt,
});

export const jobs = pgTable('jobs', {
  id: text('id').primaryKey(),
  projectId: text('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' }),
  /** The option that the revision counts in; null for the project itself. */
  option: text('option'),
  sourceId: text('source_id'),
  fileName: text('file_name').notNull(),
  fileHash: text('file_hash').notNull(),
  author: text('author').notNull(),
  state: text('state').$type<'queued' | 'running' | 'done' | 'failed' | 'stopped'>().notNull(),
  stage: text('stage').notNull().default(''),
  share: real('share').notNull().default(0),
  problem: jsonb('problem').$type<Problem>(),
  /** Times it was begun; a job that cannot be done is not begun for ever. */
  attempts: integer('attempts').notNull().default(0),
  revisionId: text('revision_id'),
  createdAt,
});

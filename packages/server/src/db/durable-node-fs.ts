import { fsyncSync } from 'node:fs';
import type { PGlite } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';

interface NodeStream {
  readonly nfd: number;
}
interface EmscriptenModule {
  NODEFS: { stream_ops: { fsync?: (stream: NodeStream) => number } };
}

/**
 * A data folder whose commits reach the disk. The database's file layer has no fsync of its own, so a power cut could take
 * back what was answered as saved. Reaches into the module's internals: the version is pinned and a test counts the calls.
 */
export class DurableNodeFS extends NodeFS {
  /** fsync calls so far, for the test. */
  static calls = 0;

  override async init(pg: PGlite, options: Parameters<NodeFS['init']>[1]) {
    const base = await super.init(pg, options);
    const preRun = [
      ...((base.emscriptenOpts.preRun as unknown as ((m: EmscriptenModule) => void)[]) ?? []),
      (module: EmscriptenModule) => {
        module.NODEFS.stream_ops.fsync = (stream) => {
          DurableNodeFS.calls++;
          fsyncSync(stream.nfd);
          return 0;
        };
      },
    ];
    return { emscriptenOpts: { ...base.emscriptenOpts, preRun: preRun as never } };
  }
}

/** Start parameters of the database as it ships, without `-F` (no fsync) and with a sync method its file layer has. */
export const DURABLE_START = [
  '--single',
  '-O',
  '-j',
  '-c',
  'search_path=public',
  '-c',
  'exit_on_error=false',
  '-c',
  'log_checkpoints=false',
  '-c',
  'max_worker_processes=0',
  '-c',
  'max_parallel_workers=0',
  '-c',
  'max_parallel_workers_per_gather=0',
  '-c',
  'io_method=sync',
  '-c',
  'max_parallel_maintenance_workers=0',
  '-c',
  'wal_sync_method=fsync',
];

import { join } from 'node:path';

/** Where the file store keeps what; usable from any thread. */
export class FileStorePaths {
  constructor(readonly root: string) {}

  originalPath(hash: string): string {
    return join(this.root, 'originals', `${hash}.ifc`);
  }

  tablePath(hash: string): string {
    return join(this.root, 'tables', `${hash}.tbl.gz`);
  }

  keysPath(hash: string): string {
    return join(this.root, 'keys', `${hash}.json.gz`);
  }

  /** A frozen plan; what a baseline names is never deleted. */
  baselinePath(hash: string): string {
    return join(this.root, 'baselines', `${hash}.gz`);
  }

  picturePath(revisionId: string, chunk: number): string {
    return join(this.root, 'pictures', revisionId, `${chunk}.gz`);
  }
}

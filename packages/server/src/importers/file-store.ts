import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync, mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { FileStorePaths } from './file-store-paths.ts';
import { syncFile } from './sync-file.ts';

/** Files beside the database: originals and element tables by content hash, pictures by revision. Files appear whole or not at all. */
export class FileStore extends FileStorePaths {
  constructor(root: string) {
    super(root);
    for (const folder of ['originals', 'tables', 'keys', 'pictures', 'uploads'])
      mkdirSync(join(root, folder), { recursive: true });
    // Uploads that a stop cut off are worth nothing.
    rmSync(join(root, 'uploads'), { recursive: true, force: true });
    mkdirSync(join(root, 'uploads'));
  }

  uploadPath(): string {
    return join(this.root, 'uploads', randomUUID());
  }

  /** Takes an uploaded file into the originals; returns its hash. */
  async keepOriginal(path: string): Promise<string> {
    const hash = await hashFile(path);
    if (existsSync(this.originalPath(hash))) rmSync(path, { force: true });
    else {
      syncFile(path);
      renameSync(path, this.originalPath(hash));
      syncFile(join(this.root, 'originals'));
    }
    return hash;
  }
}

/** SHA-256 of a file, hexadecimal. */
export function hashFile(path: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const hash = createHash('sha256');
    createReadStream(path)
      .on('data', (part) => hash.update(part))
      .on('end', () => resolve(hash.digest('hex')))
      .on('error', reject);
  });
}

/** True if a file that is named by the hash of its content is there as it was written. */
export async function isFileWhole(path: string): Promise<boolean> {
  return existsSync(path) && (await hashFile(path)) === basename(path).split('.')[0];
}

/** Writes a file under another name first and lets it reach the disk, so that a half-written one is never found. */
export function writeWhole(path: string, bytes: Uint8Array): void {
  mkdirSync(join(path, '..'), { recursive: true });
  const draft = `${path}.${randomUUID()}.part`;
  writeFileSync(draft, bytes);
  syncFile(draft);
  renameSync(draft, path);
  syncFile(dirname(path));
}

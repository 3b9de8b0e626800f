import { closeSync, fsyncSync, openSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

/** Lets what was written to a file, or named in a folder, reach the disk. What cannot be synced, as folders on some systems, is left. */
export function syncFile(path: string): void {
  let file: number | null = null;
  try {
    file = openSync(path, 'r');
    fsyncSync(file);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code !== 'EISDIR' && code !== 'EPERM' && code !== 'EACCES' && code !== 'EINVAL') throw error;
  } finally {
    if (file !== null) closeSync(file);
  }
}

/** Lets a folder reach the disk, with all that is in it unless only its names are meant. */
export function syncFolder(folder: string, isDeep = true): void {
  if (isDeep)
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) syncFolder(path);
      else if (entry.isFile()) syncFile(path);
    }
  syncFile(folder);
}

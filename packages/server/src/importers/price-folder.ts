import { copyFileSync, existsSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import { hashFile } from './file-store.ts';

/** A spreadsheet in the price folder. */
export interface PriceFile {
  readonly fileName: string;
  /** When it was changed last, ISO 8601. */
  readonly at: string;
  readonly hash: string;
}

const SHEET = /\.(xlsx|csv)$/i;

/** The folder that price lists are put into, by hand or by another program. It is looked at when somebody asks. */
export class PriceFolder {
  private readonly hashes = new Map<string, { readonly stamp: string; readonly hash: string }>();

  constructor(readonly path: string) {
    mkdirSync(path, { recursive: true });
  }

  /** Spreadsheets in the folder, the newest first. */
  async list(): Promise<PriceFile[]> {
    const files: PriceFile[] = [];
    for (const fileName of readdirSync(this.path)) {
      const path = join(this.path, fileName);
      const stat = SHEET.test(fileName) && existsSync(path) ? statSync(path) : null;
      if (!stat?.isFile()) continue;
      const stamp = `${stat.mtimeMs}/${stat.size}`;
      const known = this.hashes.get(fileName);
      const hash = known?.stamp === stamp ? known.hash : await hashFile(path);
      this.hashes.set(fileName, { stamp, hash });
      files.push({ fileName, at: stat.mtime.toISOString(), hash });
    }
    return files.sort((a, b) => (a.at < b.at ? 1 : -1));
  }

  /** Copies a file of the folder; false if there is none of this name. */
  copy(fileName: string, to: string): boolean {
    const path = join(this.path, basename(fileName));
    if (!SHEET.test(fileName) || !existsSync(path)) return false;
    copyFileSync(path, to);
    return true;
  }
}

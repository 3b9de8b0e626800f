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

/** How often the folder is looked at. */
const LOOK_MS = 5_000;

/** The folder that price lists are put into, by hand or by another program. It is watched, whether a page is open or not. */
export class PriceFolder {
  private timer: NodeJS.Timeout | null = null;
  private readonly hashes = new Map<string, { readonly stamp: string; readonly hash: string }>();

  constructor(readonly path: string) {
    mkdirSync(path, { recursive: true });
  }

  /** Tells when a spreadsheet came, went or changed. */
  watch(onChange: () => void): void {
    let before = this.stamp();
    this.timer = setInterval(() => {
      const now = this.stamp();
      if (now !== before) onChange();
      before = now;
    }, LOOK_MS).unref();
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** What the folder holds, in one text: names, sizes, times. */
  private stamp(): string {
    return readdirSync(this.path)
      .flatMap((name) => {
        const stat = SHEET.test(name) ? statSync(join(this.path, name), { throwIfNoEntry: false }) : undefined;
        return stat?.isFile() ? [`${name}/${stat.size}/${stat.mtimeMs}`] : [];
      })
      .join('|');
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
      // One that may not be read stands in nobody's way.
      const hash = known?.stamp === stamp ? known.hash : await hashFile(path).catch(() => null);
      if (hash === null) continue;
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

import {
  closeSync,
  copyFileSync,
  existsSync,
  fstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';

const SCAN_MS = 700;
/** A file that does not end as it should is taken all the same when it has not changed for so long. */
const PATIENCE_MS = 15_000;

export interface DropWatcherOptions {
  readonly folder: string;
  readonly uploadPath: () => string;
  /** Takes a copy of a complete file into a project. */
  readonly take: (projectId: string, fileName: string, copy: string) => Promise<void>;
  readonly log: (error: unknown) => void;
}

interface Seen {
  readonly stamp: string;
  readonly since: number;
  isTaken: boolean;
}

/** Watches the drop folders, one per project, as a network folder would be: whoever puts a file there, it is taken when complete. */
export class DropWatcher {
  private readonly seen = new Map<string, Seen>();
  private timer: NodeJS.Timeout | null = null;
  private isScanning = false;

  constructor(private readonly options: DropWatcherOptions) {
    mkdirSync(options.folder, { recursive: true });
  }

  start(): void {
    this.timer = setInterval(() => void this.scan(), SCAN_MS);
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Folder where a project's designers put their files. */
  projectFolder(projectId: string): string {
    const folder = join(this.options.folder, projectId);
    mkdirSync(folder, { recursive: true });
    return folder;
  }

  /** Looks once through all folders. */
  async scan(): Promise<void> {
    if (this.isScanning) return;
    this.isScanning = true;
    try {
      for (const entry of readdirSync(this.options.folder, { withFileTypes: true }))
        if (entry.isDirectory()) await this.scanProject(entry.name);
    } catch (error) {
      this.options.log(error);
    } finally {
      this.isScanning = false;
    }
  }

  private async scanProject(projectId: string): Promise<void> {
    const folder = join(this.options.folder, projectId);
    for (const name of readdirSync(folder)) {
      if (!/\.ifc$/i.test(name)) continue;
      const path = join(folder, name);
      const { size, mtimeMs } = statSync(path);
      const stamp = `${size}/${mtimeMs}`;
      const known = this.seen.get(path);
      if (known?.stamp !== stamp) {
        this.seen.set(path, { stamp, since: Date.now(), isTaken: false });
        continue;
      }
      if (known.isTaken || !(endsAsItShould(path) || Date.now() - known.since > PATIENCE_MS)) continue;
      known.isTaken = true;
      const copy = this.options.uploadPath();
      copyFileSync(path, copy);
      if (existsSync(copy)) await this.options.take(projectId, name, copy).catch(this.options.log);
    }
  }
}

/** True if the last words of a STEP file are there. */
function endsAsItShould(path: string): boolean {
  const file = openSync(path, 'r');
  try {
    const { size } = fstatSync(file);
    const tail = Buffer.alloc(Math.min(size, 200));
    readSync(file, tail, 0, tail.length, size - tail.length);
    return tail.toString('latin1').includes('END-ISO-10303-21');
  } finally {
    closeSync(file);
  }
}

import {
  closeSync,
  copyFileSync,
  fstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';
import { writeWhole } from './file-store.ts';

const SCAN_MS = 700;
/** A file that does not end as it should is taken all the same when it has not changed for so long. */
const PATIENCE_MS = 15_000;

/** Something in a drop folder that cannot be taken. */
export interface DropTrouble {
  readonly name: string;
  readonly reason: string;
}

export interface DropWatcherOptions {
  readonly folder: string;
  readonly uploadPath: () => string;
  /** Takes a copy of a complete file into a project. */
  readonly bringFile: (projectId: string, fileName: string, copy: string) => Promise<void>;
  /** Whether there is a project of this id that is in use. */
  readonly isProject: (projectId: string) => Promise<boolean>;
  readonly log: (error: unknown) => void;
}

interface WatchedFile {
  readonly stamp: string;
  readonly since: number;
  isTaken: boolean;
}

/**
 * Watches the drop folders, one per project, as a network folder would be: whoever puts a file there, it is taken when complete. What
 * has been taken is known by name, size and time over a restart too; what cannot be read is told and stops no other file.
 */
export class DropWatcher {
  private readonly seen = new Map<string, WatchedFile>();
  private readonly troubles = new Map<string, Map<string, string>>();
  private readonly taken: Record<string, string>;
  private timer: NodeJS.Timeout | null = null;
  private isScanning = false;

  constructor(private readonly options: DropWatcherOptions) {
    mkdirSync(options.folder, { recursive: true });
    this.taken = readTaken(this.takenPath);
  }

  private get takenPath(): string {
    return join(this.options.folder, '.taken.json');
  }

  start(): void {
    this.timer = setInterval(() => void this.scan(), SCAN_MS);
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Folder where a project's designers put their files; it is there. */
  projectFolder(projectId: string): string {
    const folder = join(this.options.folder, projectId);
    mkdirSync(folder, { recursive: true });
    return folder;
  }

  /** What in the folder of a project cannot be taken, and why. */
  listTroubles(projectId: string): DropTrouble[] {
    return [...(this.troubles.get(projectId) ?? [])].map(([name, reason]) => ({ name, reason }));
  }

  /** Folders that no project is called like. */
  async listUnknownFolders(): Promise<string[]> {
    const unknown: string[] = [];
    for (const entry of readdirSync(this.options.folder, { withFileTypes: true }))
      if (entry.isDirectory() && !(await this.options.isProject(entry.name))) unknown.push(entry.name);
    return unknown;
  }

  /** Looks once through all folders. */
  async scan(): Promise<void> {
    if (this.isScanning) return;
    this.isScanning = true;
    try {
      for (const entry of readdirSync(this.options.folder, { withFileTypes: true }))
        if (entry.isDirectory()) await this.scanProject(entry.name).catch(this.options.log);
    } catch (error) {
      this.options.log(error);
    } finally {
      this.isScanning = false;
    }
  }

  private async scanProject(projectId: string): Promise<void> {
    const folder = join(this.options.folder, projectId);
    const troubles = new Map<string, string>();
    const names = readdirSync(folder).filter((name) => /\.ifc$/i.test(name));
    // Only where something lies is it asked whose folder it is.
    if (names.length > 0 && !(await this.options.isProject(projectId))) return;
    for (const name of names) {
      try {
        await this.look(projectId, folder, name);
      } catch (error) {
        troubles.set(name, describeTrouble(error));
      }
    }
    this.troubles.set(projectId, troubles);
  }

  private async look(projectId: string, folder: string, name: string): Promise<void> {
    const path = join(folder, name);
    const stat = statSync(path);
    if (!stat.isFile()) throw new Error('It is a folder, not a file.');
    const stamp = `${stat.size}/${stat.mtimeMs}`;
    if (this.taken[`${projectId}/${name}`] === stamp) return;
    const known = this.seen.get(path);
    if (known?.stamp !== stamp) {
      this.seen.set(path, { stamp, since: Date.now(), isTaken: false });
      return;
    }
    if (known.isTaken || !(endsAsItShould(path) || Date.now() - known.since > PATIENCE_MS)) return;
    known.isTaken = true;
    const copy = this.options.uploadPath();
    copyFileSync(path, copy);
    await this.options.bringFile(projectId, name, copy);
    this.taken[`${projectId}/${name}`] = stamp;
    writeWhole(this.takenPath, Buffer.from(JSON.stringify(this.taken)));
  }
}

/** Stamps of what was taken before; none if they cannot be read. */
function readTaken(path: string): Record<string, string> {
  try {
    return JSON.parse(readFileSync(path, 'utf8')) as Record<string, string>;
  } catch {
    return {};
  }
}

function describeTrouble(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException;
  if (code === 'ENOENT') return 'It is a link to a file that is not there.';
  if (code === 'EACCES' || code === 'EPERM') return 'It may not be read.';
  if (code === 'EISDIR') return 'It is a folder, not a file.';
  return message;
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

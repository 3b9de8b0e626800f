import { execFileSync } from 'node:child_process';

export interface ChildFigures {
  readonly seconds: number;
  /** Most memory the process held, MB. */
  readonly peakMb: number;
  readonly note: string;
}

/** Runs a measured task in a process of its own, so that its peak memory is its own. */
export function runChild(module: string, ...args: string[]): ChildFigures {
  const out = execFileSync(
    process.execPath,
    ['--max-old-space-size=8192', '--max-semi-space-size=32', module, ...args],
    { encoding: 'utf8', maxBuffer: 1e8 },
  );
  return JSON.parse(out.trim().split('\n').at(-1)!) as ChildFigures;
}

/** Seconds of a process from its start to its end, whatever it prints. */
export function runCold(args: readonly string[]): number {
  const start = performance.now();
  execFileSync(process.execPath, args, { stdio: ['ignore', 'ignore', 'inherit'] });
  return (performance.now() - start) / 1000;
}

/** Times a task and prints its figures for `runChild`. */
export async function measureChild(task: () => Promise<string>): Promise<void> {
  const start = performance.now();
  const note = await task();
  const seconds = (performance.now() - start) / 1000;
  const figures: ChildFigures = { seconds, peakMb: process.resourceUsage().maxRSS / 1024, note };
  process.stdout.write(`${JSON.stringify(figures)}\n`);
}

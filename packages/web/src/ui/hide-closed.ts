import type { TableLine } from '@tally/core';

/** Lines of a table without what stands in closed groups. */
export function hideClosed(lines: readonly TableLine[], closed: ReadonlySet<string>): readonly TableLine[] {
  if (closed.size === 0) return lines;
  const out: TableLine[] = [];
  let hidden: TableLine | null = null;
  for (const line of lines) {
    if (hidden && line.level > hidden.level) continue;
    hidden = closed.has(line.id) ? line : null;
    out.push(line);
  }
  return out;
}

import { type GroupField, isLineUnknown, type MarkedThing, type PlanGroup, type PlanLine } from '@tally/core';

/** Labels of the groups around a row, from the outermost in. */
export type RowPath = readonly { readonly by: GroupField; readonly is: string }[];

/** A row of the plan as it is shown: a group with what is below it, or a line. */
export type PlanTableRow =
  | { readonly kind: 'group'; readonly id: string; readonly group: PlanGroup; readonly level: number; readonly path: RowPath }
  | { readonly kind: 'line'; readonly id: string; readonly line: PlanLine; readonly level: number; readonly path: RowPath }; // biome-ignore format: two shapes

/** The rows of a plan in reading order; what closed groups hold is left out. */
export function listPlanRows(root: PlanGroup, by: readonly GroupField[], closed: ReadonlySet<string>): PlanTableRow[] {
  const rows: PlanTableRow[] = [];
  const visit = (group: PlanGroup, path: RowPath) => {
    for (const g of group.groups) {
      const own = [...path, { by: by[path.length]!, is: g.label }];
      rows.push({ kind: 'group', id: g.id, group: g, level: path.length, path: own });
      if (!closed.has(g.id)) visit(g, own);
    }
    for (const line of group.lines) rows.push({ kind: 'line', id: line.id, line, level: path.length, path });
  };
  visit(root, []);
  return rows;
}

/** The shown amount of a row in minor units; null where nothing of it is known. */
export function minorOfRow(row: PlanTableRow): number | null {
  if (row.kind === 'line') return isLineUnknown(row.line) ? null : row.line.minor;
  return row.group.minor;
}

/** What a mark of a row would be on; null for what no mark can be on: left over packs, and what is not priced. */
export function markedOf(row: PlanTableRow): MarkedThing | null {
  const path = row.path.map(({ by, is }) => ({ by, is }));
  if (row.kind === 'group') return row.group.cells > 0 ? { path } : null;
  const { line } = row;
  if (line.open > 0 || line.id.includes('#surplus|')) return null;
  if (line.key !== null && line.item === '') return { element: line.key };
  return line.key === null ? { path, section: line.section, item: line.item } : { element: line.key };
}

/** How much of a row is checked. */
export function checkedOf(row: PlanTableRow): 'all' | 'some' | 'none' {
  const { cells, checked, open } = row.kind === 'group' ? row.group : row.line;
  if (checked === 0) return 'none';
  return checked >= cells && open === 0 ? 'all' : 'some';
}

/** Floor area that a row's cost per m2 goes by: that of its storey where it is in one, else that of the building; null where it is not known. */
export function floorAreaOf(
  path: RowPath,
  building: {
    readonly floorAreaM2: number | null;
    readonly storeys: readonly { readonly name: string; readonly areaM2: number }[];
  },
): number | null {
  const storey = path.find((p) => p.by === 'storey');
  if (!storey) return building.floorAreaM2;
  return building.storeys.find((s) => s.name === storey.is)?.areaM2 ?? null;
}

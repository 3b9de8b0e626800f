import { ThemeProvider } from '@mui/material';
import { buildElementTable, buildTakeoffTable, listTakeoffFields, type TableLine } from '@tally/core';
import { createElement } from 'react';
import { createRoot } from 'react-dom/client';
import { sampleElement } from '../packages/core/src/testing/sample-element.ts';
import { theme } from '../packages/web/src/app/theme.ts';
import { type TableColumn, VirtualTable } from '../packages/web/src/ui/virtual-table.tsx';

/** What is counted of a table that is scrolled. */
export interface ScrolledFigures {
  /** Lines of the table, and how many of them are drawn. */
  readonly lines: number;
  readonly drawn: number;
}

const COLUMNS = ['name', 'type', 'count', 'q:Length', 'q:NetSideArea', 'q:NetVolume'];
const nextFrame = () => new Promise<number>(requestAnimationFrame);
let lines: readonly TableLine[] = [];

/** Draws a takeoff table of so many walls, grouped by storey. */
function startTable(count: number): void {
  const walls = Array.from({ length: count }, (_, i) =>
    sampleElement({
      globalId: `w${i}`,
      name: `Wall ${i}`,
      storey: `Level ${Math.floor(i / 2000)}`,
      quantities: { Length: 4 + (i % 7) / 10, NetSideArea: 12 + (i % 11), NetVolume: 3.6 + (i % 5) / 10 },
    }),
  );
  const table = buildElementTable(walls, Int32Array.from(walls.keys()));
  const fields = listTakeoffFields([table], 'element');
  const spec = {
    row: 'element',
    scope: null,
    columns: COLUMNS,
    groups: ['storey'],
    sort: null,
    isBundled: false,
  } as const;
  const built = buildTakeoffTable([table], fields, { ...spec, stepOf: () => 0.01 });
  lines = built.lines;
  const columns = built.columns.map(
    (field, i): TableColumn<TableLine> => ({
      key: field.id,
      heading: field.heading,
      width: i === 0 ? 0 : 112,
      isFigure: field.unit !== null,
      cell: (line) => (i === 0 && line.kind === 'group' ? line.label : String(line.cells[i] ?? '')),
    }),
  );
  createRoot(document.body).render(
    createElement(
      ThemeProvider,
      { theme },
      createElement(VirtualTable<TableLine>, {
        label: 'Table',
        rows: lines,
        columns,
        rowId: (l) => l.id,
        level: (l) => l.level,
        isGroup: (l) => l.kind === 'group',
      }),
    ),
  );
}

/** Scrolls by a page and a bit at each frame, down the whole table and again from its top. */
async function scrollFrames(frames: number): Promise<ScrolledFigures> {
  const scroller = [...document.querySelectorAll('*')].find((e) => e.scrollHeight > e.clientHeight + 100)!;
  for (let i = 0; i < frames; i++) {
    scroller.scrollTop = (scroller.scrollTop + 790) % (scroller.scrollHeight - scroller.clientHeight);
    await nextFrame();
  }
  return { lines: lines.length, drawn: document.querySelectorAll('[role="row"]').length };
}

Object.assign(globalThis, { startTable, scrollFrames });

import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { TableColumn } from './table-column.ts';

/** A text that was typed into a cell and is not saved yet: it is on its way, waits for those before it, or was refused. */
export interface UnsavedCell {
  /** Number of the typing it came from. */
  readonly session: number;
  /** Row and column. */
  readonly id: string;
  readonly column: string;
  readonly text: string;
  /** Why it was refused; null of the others. */
  readonly problem: string | null;
}

export interface CellSaving<R> {
  readonly unsaved: readonly UnsavedCell[];
  /** Takes a text over; a text says at once why it cannot be. What is refused later stays, with the reason. */
  readonly save: (cell: Omit<UnsavedCell, 'problem'>, row: R, column: TableColumn<R>) => string | null;
  /** What of a cell is not saved yet, the newest. */
  readonly find: (id: string, column: string) => UnsavedCell | undefined;
  /** Lets go of what was refused in a cell. */
  readonly forget: (id: string, column: string) => void;
  /** Lets go of what was refused in rows that are not shown any more: it was told, and there is no cell that it could stay in. */
  readonly forgetLost: () => void;
}

/**
 * Saves what is typed into the cells of a table one after the other, while one types on: each is made of its row as it is after those
 * before it, so that two cells of one row do not stand in each other's way. A table that goes away sends what still waits.
 * @param onRefused a text was refused after one had gone on; it stays among the unsaved
 */
export function useCellSaving<R>(
  rows: readonly R[],
  rowId: (row: R) => string,
  columns: readonly TableColumn<R>[],
  onRefused: (cell: UnsavedCell) => void,
): CellSaving<R> {
  const [unsaved, setUnsaved] = useState<readonly UnsavedCell[]>([]);
  const sending = useRef<number | null>(null);
  const seen = useRef({ rows, rowId, columns, unsaved, onRefused });
  useLayoutEffect(() => {
    seen.current = { rows, rowId, columns, unsaved, onRefused };
  });

  const settle = (cell: UnsavedCell, problem: string | null) => {
    setUnsaved((now) =>
      now.flatMap((c) => (c.session !== cell.session ? [c] : problem === null ? [] : [{ ...c, problem }])),
    );
    if (problem !== null) seen.current.onRefused({ ...cell, problem });
  };
  const follow = async (cell: UnsavedCell, outcome: Promise<string | null>) => {
    sending.current = cell.session;
    const problem = await outcome.catch(String);
    // By then what was read again for it is drawn: the next is made of that.
    await new Promise((done) => setTimeout(done, 0));
    sending.current = null;
    settle(cell, problem);
  };
  /** Sends a text that has waited; what cannot be sent any more is told. */
  const send = (cell: UnsavedCell): Promise<string | null> => {
    const row = seen.current.rows.find((r) => seen.current.rowId(r) === cell.id);
    const column = seen.current.columns.find((c) => c.key === cell.column);
    if (row === undefined || !column?.save)
      return Promise.resolve(`"${cell.text}" was not saved: its row is not shown any more.`);
    return column.edit?.(row) === cell.text ? Promise.resolve(null) : Promise.resolve(column.save(row, cell.text));
  };
  useEffect(() => {
    const next = sending.current === null ? unsaved.find((c) => c.problem === null) : undefined;
    if (next) void follow(next, send(next));
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the table goes
  useEffect(
    () => () => {
      for (const cell of seen.current.unsaved)
        if (cell.problem === null && cell.session !== sending.current) void send(cell);
    },
    [],
  );

  return {
    unsaved,
    save(typed, row, column) {
      const cell: UnsavedCell = { ...typed, problem: null };
      if (sending.current === null) {
        const outcome = column.edit?.(row) === cell.text ? null : column.save!(row, cell.text);
        // What needs no answer is done, or says at once why not.
        if (outcome === null || typeof outcome === 'string') return outcome;
        void follow(cell, outcome);
      }
      // What was refused in this cell, or has not been sent yet, is typed over.
      const isOver = (c: UnsavedCell) => c.id === cell.id && c.column === cell.column && c.session !== sending.current;
      setUnsaved((now) => [...now.filter((c) => !isOver(c)), cell]);
      return null;
    },
    find: (id, column) => unsaved.findLast((c) => c.id === id && c.column === column),
    forget: (id, column) =>
      setUnsaved((now) => now.filter((c) => c.id !== id || c.column !== column || c.problem === null)),
    forgetLost() {
      if (unsaved.every((c) => c.problem === null)) return;
      const shown = new Set(rows.map(rowId));
      if (unsaved.some((c) => c.problem !== null && !shown.has(c.id)))
        setUnsaved((now) => now.filter((c) => c.problem === null || shown.has(c.id)));
    },
  };
}

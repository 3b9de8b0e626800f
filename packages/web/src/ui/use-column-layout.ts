import {
  columnOrderingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  tableFeatures,
  type Updater,
  useTable,
} from '@tanstack/react-table';
import { useMemo } from 'react';
import { useKept } from './kept-state.ts';
import type { TableColumn } from './table-column.ts';

/** How somebody has set up the columns of a table: which are put away, in which order, how wide, px. */
export interface ColumnLayout {
  readonly order: readonly string[];
  readonly away: readonly string[];
  readonly widths: Readonly<Record<string, number>>;
  /** Headings that somebody gave columns. */
  readonly names?: Readonly<Record<string, string>>;
  /** Decimals that somebody chose for columns of figures. */
  readonly digits?: Readonly<Record<string, number>>;
}

const AS_MADE: ColumnLayout = { order: [], away: [], widths: {} };
const NO_ROWS: never[] = [];
const features = tableFeatures({ columnOrderingFeature, columnSizingFeature, columnVisibilityFeature });

/** A column for those who choose among them. */
export interface ColumnChoice {
  readonly key: string;
  readonly heading: string;
  /** The heading that somebody gave it; null for its own. */
  readonly name: string | null;
  /** Decimals that somebody chose; null for its own, absent where it has no figures to choose them for. */
  readonly digits?: number | null | undefined;
  readonly isShown: boolean;
}

/** The columns of a table as somebody has set them up; it is kept under the name. */
export function useColumnLayout<R>(name: string, columns: readonly TableColumn<R>[]) {
  const [layout, setLayout] = useKept(`${name}/columns`, AS_MADE);
  const change = (part: Partial<ColumnLayout>) => setLayout((now) => ({ ...now, ...part }));
  const apply = <T>(updater: Updater<T>, now: T): T =>
    typeof updater === 'function' ? (updater as (now: T) => T)(now) : updater;
  const keys = columns.map((c) => c.key).join('\n');
  // biome-ignore lint/correctness/useExhaustiveDependencies: the keys stand for the columns
  const definitions = useMemo(() => columns.map((c) => ({ id: c.key, header: c.heading })), [keys]);
  const state = useMemo(
    () => ({
      // What was not there when the order was made stands where the table has it.
      columnOrder: placeNew(layout.order, keys.split('\n')),
      columnVisibility: Object.fromEntries(layout.away.map((key) => [key, false])),
      columnSizing: { ...layout.widths },
    }),
    [layout, keys],
  );
  const table = useTable({
    features,
    columns: definitions,
    data: NO_ROWS,
    state,
    onColumnOrderChange: (next) => change({ order: apply(next, state.columnOrder) }),
    onColumnVisibilityChange: (next) => {
      const shown = apply(next, state.columnVisibility as Record<string, boolean>);
      change({ away: Object.keys(shown).filter((key) => shown[key] === false) });
    },
    onColumnSizingChange: (next) => change({ widths: apply(next, state.columnSizing) }),
  });
  const order = state.columnOrder;
  const { names, digits } = layout;
  const seen = table
    .getVisibleLeafColumns()
    .map((c) => c.id)
    .join('\n');
  // The same list as long as the columns are the same: rows are not drawn again for it.
  const shown = useMemo(() => {
    const picked = seen.split('\n').flatMap((key) => columns.find((c) => c.key === key) ?? []);
    return (picked.length > 0 ? picked : columns.slice(0, 1)).map((c) => {
      const [name, shown] = [names?.[c.key], digits?.[c.key]];
      return name === undefined && shown === undefined
        ? c
        : { ...c, heading: name ?? c.heading, cell: (row: R) => c.cell(row, shown) };
    });
  }, [columns, seen, names, digits]);
  return {
    /** The columns that are seen, in their order; never none. */
    columns: shown,
    widths: state.columnSizing as Readonly<Record<string, number>>,
    choices: order.flatMap((key): ColumnChoice[] => {
      const column = columns.find((c) => c.key === key);
      return column
        ? [
            {
              key,
              heading: column.heading,
              name: names?.[key] ?? null,
              digits: column.hasDigits ? (digits?.[key] ?? null) : undefined,
              isShown: !layout.away.includes(key),
            },
          ]
        : [];
    }),
    isAsMade:
      Object.keys({ ...names, ...digits }).length === 0 &&
      layout.order.length === 0 &&
      layout.away.length === 0 &&
      Object.keys(layout.widths).length === 0,
    /** Draws a column to a width, px; null takes it back to its own. */
    setWidth: (key: string, width: number | null) =>
      table.setColumnSizing(({ [key]: _, ...others }) => (width === null ? others : { ...others, [key]: width })),
    /** Calls a column otherwise; an empty text gives it its own heading again. */
    rename: (key: string, name: string) => {
      const { [key]: _, ...others } = names ?? {};
      change({ names: name.trim() === '' ? others : { ...others, [key]: name.trim() } });
    },
    /** Shows a column with so many decimals; null for its own. */
    round: (key: string, to: number | null) => {
      const { [key]: _, ...others } = digits ?? {};
      change({ digits: to === null ? others : { ...others, [key]: to } });
    },
    show: (key: string, isShown: boolean) => table.getColumn(key)?.toggleVisibility(isShown),
    /** Moves a column by one place, to the left (-1) or to the right (1). */
    move: (key: string, by: -1 | 1) => {
      const [from, to] = [order.indexOf(key), order.indexOf(key) + by];
      if (to < 0 || to >= order.length) return;
      const next = [...order];
      [next[from], next[to]] = [next[to]!, next[from]!];
      table.setColumnOrder(next);
    },
    reset: () => setLayout(AS_MADE),
  };
}

/** An order of keys with those that it does not know: each behind the one that stands before it in the table. */
export function placeNew(order: readonly string[], keys: readonly string[]): string[] {
  const known = order.filter((key) => keys.includes(key));
  keys.forEach((key, i) => {
    if (known.includes(key)) return;
    const before = keys[i - 1];
    known.splice(before === undefined ? 0 : known.indexOf(before) + 1, 0, key);
  });
  return known;
}

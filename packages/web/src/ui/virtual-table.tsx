import { Box } from '@mui/material';
import { appendToList } from '@tally/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type ClipboardEvent,
  type KeyboardEvent,
  type MouseEvent,
  type ReactNode,
  useEffect,
  useId,
  useMemo,
  useRef,
  useState,
} from 'react';
import { ColumnButton } from './column-button.tsx';
import { copyText } from './copy-text.ts';
import { fitFigures } from './fit-figures.ts';
import { useKept } from './kept-state.ts';
import type { TableColumn, TableEdit } from './table-column.ts';
import {
  type CellText,
  fillDown,
  isRange,
  moveCursor,
  NOWHERE,
  pasteBlock,
  putCursor,
  rangeOf,
  rangeToText,
} from './table-cursor.ts';
import { TableFoot, TableHead } from './table-parts.tsx';
import { columnsInRow, type EditedCell, ROW, type TableActs, TableRow } from './table-row.tsx';
import { type UnsavedCell, useCellSaving } from './use-cell-saving.ts';
import { useColumnLayout } from './use-column-layout.ts';
import { useLatest } from './use-latest.ts';

export type { TableColumn, TableEdit } from './table-column.ts';

export interface VirtualTableProps<R> {
  readonly label: string;
  readonly rows: readonly R[];
  readonly columns: readonly TableColumn<R>[];
  readonly rowId: (row: R) => string;
  readonly level?: (row: R) => number;
  readonly isGroup?: (row: R) => boolean;
  readonly isMarked?: (row: R) => boolean;
  readonly selectedId?: string | null;
  readonly onSelect?: (row: R) => void;
  /** A block pasted from a spreadsheet, or one cell filled from above; all or nothing, a text says why not. */
  readonly onPaste?: (edits: readonly TableEdit<R>[]) => Promise<string | null>;
  /** Enter or double click on a row that is not edited. */
  readonly onOpen?: (row: R) => void;
  readonly footer?: ReactNode;
  /** Name under which the place that one has scrolled to is kept. */
  readonly keep?: string;
  /** The page itself says which columns there are. */
  readonly hasOwnColumns?: boolean;
  /** A last line that stays in view, column by column. */
  readonly footerCells?: (column: TableColumn<R>) => string;
}

/**
 * A table of any length: only what is seen is drawn; arrows move, with Shift they draw a range, Enter opens or edits, a key typed on a cell
 * starts it anew, Ctrl/⌘ C copies the range (the whole table where none is drawn), Ctrl/⌘ V pastes a block, Ctrl/⌘ D fills down.
 */
export function VirtualTable<R>(props: VirtualTableProps<R>) {
  const { label, rows, rowId, selectedId, onSelect, onOpen } = props;
  const layout = useColumnLayout(`table/${props.keep ?? label}`, props.columns);
  const { columns, widths } = layout;
  const scroller = useRef<HTMLDivElement>(null);
  const id = useId();
  const [cursor, setCursor] = useState(NOWHERE);
  const size = { rows: rows.length, columns: columns.length };
  const [editing, setEditing] = useState<EditedCell | null>(null);
  /** Cells that were typed in and are saved or being saved, by the number of the typing. */
  const settled = useRef(new Set<number>());
  const sessions = useRef(0);
  const [refused, setRefused] = useState<string | null>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const [place, keepPlace] = useKept(`table/${props.keep ?? ''}`, 0);
  // Before the browser has said how large the table is, nothing can be scrolled to.
  const isReady = rows.length > 0 && (virtual.scrollRect?.height ?? 0) > 0;
  const { isScrolling, scrollOffset } = virtual;
  /** The name under which the kept place was come back to: before that, where the table stands is nowhere one has gone. */
  const restored = useRef<string | null>(null);
  useEffect(() => {
    const isPlaced = props.keep !== undefined && restored.current === props.keep;
    if (isPlaced && !isScrolling && scrollOffset !== null) keepPlace(scrollOffset);
  }, [props.keep, isScrolling, scrollOffset, keepPlace]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when there are rows
  useEffect(() => {
    if (!props.keep || !isReady || restored.current === props.keep) return;
    restored.current = props.keep;
    if (place > 0) virtual.scrollToOffset(place);
  }, [isReady, props.keep]);
  const keys = columns.map((c) => c.key).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: for other rows or columns; not for each drawing
  const fitted = useMemo(() => fitFigures(columns, rows, props.footerCells), [rows, keys]);
  const widthOf = ({ key, width }: TableColumn<R>) =>
    widths[key] !== undefined ? `${widths[key]}px` : width === 0 ? 'minmax(160px, 1fr)' : `${fitted[key] ?? width}px`;
  const template = columns.map(widthOf).join(' ');

  // What is chosen from elsewhere (a search, a link) is come to.
  const chosen = selectedId && isReady ? selectedId : null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when another one is chosen
  useEffect(() => {
    if (chosen === null || (rows[cursor.row] !== undefined && rowId(rows[cursor.row]!) === chosen)) return;
    const at = rows.findIndex((row) => rowId(row) === chosen);
    if (at < 0) return;
    setCursor((now) => putCursor(NOWHERE, at, now.column));
    virtual.scrollToIndex(at);
  }, [chosen]);

  const saving = useCellSaving(
    rows,
    rowId,
    columns,
    useLatest((cell: UnsavedCell) => {
      // Whoever has gone on is not called back: what one types now would go into the wrong cell. It stays marked where it was typed.
      const row = rows[cursor.row];
      const { activeElement } = document;
      const isHere = activeElement === document.body || scroller.current?.contains(activeElement);
      const isStillOn = row !== undefined && rowId(row) === cell.id && columns[cursor.column]?.key === cell.column;
      if (!editing && isHere && isStillOn) startEdit(row, columns[cursor.column]!, undefined, cell);
    }),
  );
  const startEdit = (row: R, column: TableColumn<R>, text?: string, refused?: UnsavedCell) => {
    const start = column.edit?.(row) ?? null;
    if (start === null) return false;
    const held = refused ?? saving.find(rowId(row), column.key);
    setEditing({
      session: ++sessions.current,
      id: rowId(row),
      column: column.key,
      text: text ?? held?.text ?? start,
      start,
      isAfterOwn: held !== undefined && held.problem === null,
      problem: text === undefined ? (held?.problem ?? null) : null,
    });
    return true;
  };
  const finishEdit = (row: R, column: TableColumn<R>) => {
    // Leaving the cell as its field goes must not save it again.
    if (!editing || !column.save) return;
    const { session, text, id: rowKey } = editing;
    if (settled.current.has(session)) return;
    const now = column.edit?.(row) ?? editing.start;
    if (now !== editing.start && now !== text && !editing.isAfterOwn) {
      // Both texts stay: the other's is told beside one's own.
      const problem = `Somebody else made it "${now}" meanwhile. Enter keeps yours, Escape theirs.`;
      setEditing({ ...editing, start: now, problem });
      return;
    }
    settled.current.add(session);
    const isAsItIs = text === now && !editing.isAfterOwn;
    const problem = isAsItIs ? null : saving.save({ session, id: rowKey, column: column.key, text }, row, column);
    if (problem !== null) {
      settled.current.delete(session);
      setEditing({ ...editing, problem });
      return;
    }
    if (isAsItIs) saving.forget(rowKey, column.key);
    setEditing(null);
    // By a key one goes on in the table; who has left the field is somewhere else already.
    if (scroller.current?.contains(document.activeElement)) scroller.current.focus();
  };
  const put = async (edits: readonly TableEdit<R>[]) => {
    if (edits.length > 0) setRefused(await props.onPaste!(edits));
  };
  /** What of texts for cells can be put in; cells that cannot be edited are passed over. */
  const toEdits = (texts: readonly CellText[]): TableEdit<R>[] =>
    texts.flatMap(({ row: at, column: c, text }) => {
      const [row, column] = [rows[at], columns[c]];
      const canEdit = row !== undefined && column && (column.edit?.(row) ?? null) !== null;
      return canEdit ? [{ row, column: column.key, text }] : [];
    });
  const onPaste = (event: ClipboardEvent) => {
    if (editing || !props.onPaste || cursor.row < 0) return;
    const text = event.clipboardData.getData('text/plain');
    if (text === '') return;
    event.preventDefault();
    void put(toEdits(pasteBlock(text, cursor, size)));
  };
  /** What a cell starts from when it is typed in; null if it cannot be. */
  const readCell = (row: number, column: number): string | null =>
    rows[row] === undefined ? null : (columns[column]?.edit?.(rows[row]) ?? null);
  const onKeyDown = (event: KeyboardEvent) => {
    if (editing) return;
    setRefused(null);
    saving.forgetLost();
    const isCommand = event.ctrlKey || event.metaKey;
    const next = moveCursor(cursor, { key: event.key, shift: event.shiftKey, command: isCommand }, size);
    const row = rows[cursor.row];
    if (next) {
      event.preventDefault();
      setCursor(next);
      // Only keys take the table along: under a mouse that is pressed nothing may move.
      virtual.scrollToIndex(next.row);
      if (next.row !== cursor.row && !event.shiftKey && rows[next.row] !== undefined) onSelect?.(rows[next.row]!);
    } else if ((event.key === 'Enter' || event.key === 'F2') && row !== undefined) {
      event.preventDefault();
      if (!startEdit(row, columns[cursor.column]!)) onOpen?.(row);
    } else if (props.onPaste && event.key === 'd' && isCommand) {
      event.preventDefault();
      void put(toEdits(fillDown(cursor, readCell)));
    } else if (row !== undefined && isTyped(event) && startEdit(row, columns[cursor.column]!, event.key)) {
      event.preventDefault();
    } else if (event.key === 'c' && isCommand && !window.getSelection()?.toString()) {
      const heading = columns.map((c) => c.heading).join('\t');
      const all = { row: rows.length - 1, column: columns.length - 1, fromRow: 0, fromColumn: 0 };
      const text = rangeToText(isRange(cursor) ? cursor : all, (r, c) => plainText(columns[c]!, rows[r]!));
      copyText(isRange(cursor) ? text : `${heading}\n${text}`).catch(() =>
        setRefused('The browser does not let the page copy.'),
      );
    }
  };
  const chooseRow = useLatest((row: R, event: MouseEvent) => {
    if (!event.shiftKey) onSelect?.(row);
  });
  const press = useLatest((row: number, column: number, event: MouseEvent) => {
    // A range is drawn, not text marked.
    if (event.shiftKey) event.preventDefault();
    setCursor((at) => putCursor(at, row, column, event.shiftKey));
  });
  const drawOver = useLatest((row: number, column: number, event: MouseEvent) => {
    if (event.buttons === 1 && !editing) setCursor((at) => putCursor(at, row, column, true));
  });
  const open = useLatest((row: R, column: TableColumn<R>) => {
    if (!startEdit(row, column)) onOpen?.(row);
  });
  const type = useLatest((text: string) => setEditing((now) => now && { ...now, text, problem: null }));
  const finish = useLatest((row: R, column: TableColumn<R>) => finishEdit(row, column));
  const giveUp = useLatest(() => {
    if (editing) {
      // The field is left by it: that must not save what was given up.
      settled.current.add(editing.session);
      saving.forget(editing.id, editing.column);
    }
    setEditing(null);
    scroller.current?.focus();
  });
  const acts = useMemo(
    (): TableActs<R> => ({ chooseRow, press, drawOver, open, type, finish, giveUp }),
    [chooseRow, press, drawOver, open, type, finish, giveUp],
  );
  const unsavedOf = useMemo(() => {
    const byRow = new Map<string, UnsavedCell[]>();
    for (const cell of saving.unsaved) appendToList(byRow, cell.id, cell);
    return byRow;
  }, [saving.unsaved]);
  const problem = editing?.problem ?? refused ?? saving.unsaved.find((cell) => cell.problem !== null)?.problem;
  const range = isRange(cursor) ? rangeOf(cursor) : null;

  return (
    <Box
      sx={{
        display: 'flex',
        flexDirection: 'column',
        minHeight: 0,
        flex: 1,
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        overflow: 'hidden',
      }}
    >
      <Box
        ref={scroller}
        role={props.level ? 'treegrid' : 'grid'}
        aria-label={label}
        aria-rowcount={rows.length}
        aria-multiselectable="true"
        aria-activedescendant={cursor.row < 0 ? undefined : `${id}-${cursor.row}-${cursor.column}`}
        tabIndex={0}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        onFocus={() => cursor.row < 0 && rows.length > 0 && setCursor(putCursor(NOWHERE, 0, 0))}
        sx={{
          overflow: 'auto',
          flex: 1,
          outlineOffset: -2,
          '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
        }}
      >
        <TableHead columns={columns} template={template} onWidth={layout.setWidth}>
          {!props.hasOwnColumns && props.columns.length > 1 && (
            <ColumnButton
              label={label}
              choices={layout.choices}
              isAsMade={layout.isAsMade}
              onShow={layout.show}
              onMove={layout.move}
              onRename={layout.rename}
              onRound={layout.round}
              onReset={layout.reset}
            />
          )}
        </TableHead>
        <Box sx={{ height: virtual.getTotalSize(), position: 'relative', minWidth: 'fit-content' }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            const rowKey = rowId(row);
            const [fromColumn, toColumn] = columnsInRow(range, item.index);
            return (
              <TableRow
                key={rowKey}
                tableId={id}
                index={item.index}
                start={item.start}
                row={row}
                columns={columns}
                template={template}
                level={props.level?.(row)}
                isGroup={props.isGroup?.(row) ?? false}
                isMarked={props.isMarked?.(row) ?? false}
                isSelected={selectedId === rowKey}
                canSelect={onSelect !== undefined}
                cursorColumn={cursor.row === item.index ? cursor.column : -1}
                fromColumn={fromColumn}
                toColumn={toColumn}
                isDrawing={range !== null}
                editing={editing?.id === rowKey ? editing : null}
                unsaved={unsavedOf.get(rowKey) ?? null}
                acts={acts}
              />
            );
          })}
        </Box>
        {props.footerCells && <TableFoot columns={columns} template={template} cell={props.footerCells} />}
      </Box>
      {problem && (
        <Box
          role="alert"
          sx={{ px: 1, py: 0.5, fontSize: 13, color: 'error.main', borderTop: 1, borderColor: 'divider' }}
        >
          {problem}
        </Box>
      )}
      {props.footer}
    </Box>
  );
}

/** A key that writes a sign, without a command key. */
const isTyped = (event: KeyboardEvent): boolean =>
  event.key.length === 1 && event.key !== ' ' && !event.ctrlKey && !event.metaKey && !event.altKey;

function plainText<R>(column: TableColumn<R>, row: R): string {
  const cell = column.text ? column.text(row) : column.cell(row);
  return typeof cell === 'string' || typeof cell === 'number' ? String(cell).replace(/[\t\n]/g, ' ') : '';
}

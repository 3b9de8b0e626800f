import { Box } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ClipboardEvent, type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import { FIGURES } from './fonts.ts';
import type { TableColumn, TableEdit } from './table-column.ts';
import { CellEditor, TableFoot, TableHead } from './table-parts.tsx';

export type { TableColumn, TableEdit } from './table-column.ts';

/** The cell that is being typed in. */
interface EditedCell {
  readonly session: number;
  readonly id: string;
  readonly column: string;
  readonly text: string;
  readonly problem: string | null;
}

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
  /** A last line that stays in view, column by column. */
  readonly footerCells?: (column: TableColumn<R>) => string;
}

const ROW = 30;

/**
 * A table of any length: only what is seen is drawn; arrows move, Enter opens or edits, a key typed on a cell starts it anew,
 * Ctrl/⌘ C copies for a spreadsheet, Ctrl/⌘ V pastes a block from one, Ctrl/⌘ D fills from above.
 */
export function VirtualTable<R>(props: VirtualTableProps<R>) {
  const { label, rows, columns, rowId, selectedId, onSelect, onOpen } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const [cursor, setCursor] = useState<{ row: number; column: number }>({ row: -1, column: 0 });
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
  const template = columns.map((c) => (c.width === 0 ? 'minmax(160px, 1fr)' : `${c.width}px`)).join(' ');

  useEffect(() => {
    if (cursor.row >= 0 && cursor.row < rows.length) virtual.scrollToIndex(cursor.row);
  }, [cursor.row, rows.length, virtual]);

  const startEdit = (row: R, column: TableColumn<R>, text?: string) => {
    const start = column.edit?.(row) ?? null;
    if (start === null) return false;
    setEditing({ session: ++sessions.current, id: rowId(row), column: column.key, text: text ?? start, problem: null });
    return true;
  };
  const finishEdit = async (row: R, column: TableColumn<R>) => {
    // Leaving the cell while its text is being saved, or as its field goes, must not save it again.
    if (!editing || !column.save) return;
    const { session, text } = editing;
    if (settled.current.has(session)) return;
    settled.current.add(session);
    const problem = text === column.edit?.(row) ? null : await Promise.resolve(column.save(row, text)).catch(String);
    if (problem) settled.current.delete(session);
    // By now another cell may be typed in, or something else on the page.
    setEditing((now) => (now?.session !== session ? now : problem ? { ...now, problem } : null));
    const { activeElement } = document;
    const isHere = activeElement === document.body || scroller.current?.contains(activeElement);
    if (!problem && isHere && !(activeElement instanceof HTMLInputElement && activeElement.value !== text))
      scroller.current?.focus();
  };
  const put = async (edits: readonly TableEdit<R>[]) => {
    if (edits.length > 0) setRefused(await props.onPaste!(edits));
  };
  /** Texts put into the cells from the cursor on to the right and down; cells that cannot be edited are passed over. */
  const editsFromCursor = (block: readonly (readonly string[])[]): TableEdit<R>[] =>
    block.flatMap((texts, dr) =>
      texts.flatMap((text, dc) => {
        const [row, column] = [rows[cursor.row + dr], columns[cursor.column + dc]];
        const canEdit = row !== undefined && column && (column.edit?.(row) ?? null) !== null;
        return canEdit ? [{ row, column: column.key, text }] : [];
      }),
    );
  const onPaste = (event: ClipboardEvent) => {
    if (editing || !props.onPaste || cursor.row < 0) return;
    const text = event.clipboardData.getData('text/plain').replace(/\r?\n$/, '');
    if (text === '') return;
    event.preventDefault();
    void put(editsFromCursor(text.split(/\r?\n/).map((line) => line.split('\t'))));
  };
  const fillDown = () => {
    const [above, column] = [rows[cursor.row - 1], columns[cursor.column]];
    if (above !== undefined && column?.edit) void put(editsFromCursor([[column.edit(above) ?? '']]));
  };
  const move = (dr: number, dc: number) => {
    const row = Math.max(0, Math.min(rows.length - 1, cursor.row + dr));
    setCursor({ row, column: Math.max(0, Math.min(columns.length - 1, cursor.column + dc)) });
    if (rows[row] !== undefined && dr !== 0) onSelect?.(rows[row]!);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (editing) return;
    setRefused(null);
    const step = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      PageDown: [15, 0],
      PageUp: [-15, 0],
      Home: [-rows.length, 0],
      End: [rows.length, 0],
    }[event.key];
    const row = rows[cursor.row];
    if (step) {
      event.preventDefault();
      move(step[0]!, step[1]!);
    } else if ((event.key === 'Enter' || event.key === 'F2') && row !== undefined) {
      event.preventDefault();
      if (!startEdit(row, columns[cursor.column]!)) onOpen?.(row);
    } else if (props.onPaste && event.key === 'd' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      fillDown();
    } else if (props.onPaste && row !== undefined && isTyped(event)) {
      event.preventDefault();
      startEdit(row, columns[cursor.column]!, event.key);
    } else if (event.key === 'c' && (event.ctrlKey || event.metaKey) && !window.getSelection()?.toString()) {
      const lines = [columns.map((c) => c.heading), ...rows.map((r) => columns.map((c) => plainText(c, r)))];
      void navigator.clipboard?.writeText(lines.map((l) => l.join('\t')).join('\n'));
    }
  };

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
        role="grid"
        aria-label={label}
        aria-rowcount={rows.length}
        tabIndex={0}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        onFocus={() => cursor.row < 0 && rows.length > 0 && setCursor({ row: 0, column: 0 })}
        sx={{
          overflow: 'auto',
          flex: 1,
          outlineOffset: -2,
          '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
        }}
      >
        <TableHead columns={columns} template={template} />
        <Box sx={{ height: virtual.getTotalSize(), position: 'relative', minWidth: 'fit-content' }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            const id = rowId(row);
            const isGroup = props.isGroup?.(row) ?? false;
            const isSelected = selectedId === id;
            return (
              <Box
                key={id}
                role="row"
                aria-selected={isSelected}
                aria-rowindex={item.index + 1}
                onClick={() => {
                  setCursor((at) => ({ row: item.index, column: at.column }));
                  onSelect?.(row);
                }}
                sx={{
                  position: 'absolute',
                  top: 0,
                  left: 0,
                  right: 0,
                  transform: `translateY(${item.start}px)`,
                  height: ROW,
                  display: 'grid',
                  gridTemplateColumns: template,
                  alignItems: 'center',
                  borderBottom: 1,
                  borderColor: 'divider',
                  cursor: onSelect ? 'pointer' : 'default',
                  fontWeight: isGroup ? 650 : 400,
                  bgcolor: isSelected
                    ? 'tally.selectionSoft'
                    : props.isMarked?.(row)
                      ? 'tally.unpricedSoft'
                      : isGroup
                        ? 'background.default'
                        : 'background.paper',
                  '&:hover': { bgcolor: isSelected ? 'tally.selectionSoft' : 'tally.petrolSoft' },
                }}
              >
                {columns.map((c, index) => {
                  const isEdited = editing?.id === id && editing.column === c.key;
                  const isCursor = cursor.row === item.index && cursor.column === index;
                  return (
                    <Box
                      key={c.key}
                      role="gridcell"
                      title={isEdited ? (editing.problem ?? undefined) : undefined}
                      onClick={() => setCursor({ row: item.index, column: index })}
                      onDoubleClick={() => {
                        if (!startEdit(row, c)) onOpen?.(row);
                      }}
                      sx={{
                        px: 1,
                        pl: index === 0 ? 1 + (props.level?.(row) ?? 0) * 2 : 1,
                        height: '100%',
                        display: 'flex',
                        alignItems: 'center',
                        justifyContent: c.isFigure ? 'flex-end' : 'flex-start',
                        fontFamily: c.isFigure ? FIGURES : undefined,
                        fontSize: 13,
                        color: c.isFaint ? 'text.secondary' : undefined,
                        // The name of a group may run over the empty cells beside it.
                        overflow: isGroup && index === 0 ? 'visible' : 'hidden',
                        whiteSpace: 'nowrap',
                        textOverflow: 'ellipsis',
                        boxShadow: isCursor ? (t) => `inset 0 0 0 1px ${t.vars!.palette.tally.selection}` : undefined,
                      }}
                    >
                      {isEdited ? (
                        <CellEditor
                          column={c}
                          text={editing.text}
                          start={c.edit?.(row) ?? null}
                          problem={editing.problem}
                          onChange={(text) => setEditing({ ...editing, text, problem: null })}
                          onFinish={() => void finishEdit(row, c)}
                          onCancel={() => {
                            setEditing(null);
                            scroller.current?.focus();
                          }}
                        />
                      ) : (
                        c.cell(row)
                      )}
                    </Box>
                  );
                })}
              </Box>
            );
          })}
        </Box>
        {props.footerCells && <TableFoot columns={columns} template={template} cell={props.footerCells} />}
      </Box>
      {(editing?.problem ?? refused) && (
        <Box
          role="alert"
          sx={{ px: 1, py: 0.5, fontSize: 13, color: 'error.main', borderTop: 1, borderColor: 'divider' }}
        >
          {editing?.problem ?? refused}
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

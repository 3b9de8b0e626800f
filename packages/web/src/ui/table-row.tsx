import { styled } from '@mui/material/styles';
import { type MouseEvent, memo } from 'react';
import { FIGURES } from './fonts.ts';
import type { TableColumn } from './table-column.ts';
import type { CellRange } from './table-cursor.ts';
import { CellEditor } from './table-parts.tsx';
import type { UnsavedCell } from './use-cell-saving.ts';

/** Height of a row, px. */
export const ROW = 30;

/** The cell that is being typed in. */
export interface EditedCell {
  readonly session: number;
  readonly id: string;
  readonly column: string;
  readonly text: string;
  /** What stood in the cell when it was begun, or when one was last told. */
  readonly start: string;
  /** One's own text for this cell was on its way when it was begun: what the cell comes to meanwhile is that. */
  readonly isAfterOwn: boolean;
  readonly problem: string | null;
}

/** What is done with rows and cells by mouse, and what becomes of a cell that is typed in. */
export interface TableActs<R> {
  readonly chooseRow: (row: R, event: MouseEvent) => void;
  readonly press: (row: number, column: number, event: MouseEvent) => void;
  readonly drawOver: (row: number, column: number, event: MouseEvent) => void;
  readonly open: (row: R, column: TableColumn<R>) => void;
  readonly type: (text: string) => void;
  readonly finish: (row: R, column: TableColumn<R>) => void;
  readonly giveUp: () => void;
}

export interface TableRowProps<R> {
  /** Name of the table on the page; cells are named after it. */
  readonly tableId: string;
  readonly index: number;
  /** Where it begins, px. */
  readonly start: number;
  readonly row: R;
  readonly columns: readonly TableColumn<R>[];
  readonly template: string;
  readonly level: number | undefined;
  readonly isGroup: boolean;
  readonly isMarked: boolean;
  readonly isSelected: boolean;
  readonly canSelect: boolean;
  /** Column of the cursor; -1 while it is in another row. */
  readonly cursorColumn: number;
  /** The range that is drawn, if it reaches this row; its columns count. */
  readonly fromColumn: number;
  readonly toColumn: number;
  readonly isDrawing: boolean;
  readonly editing: EditedCell | null;
  /** What was typed into its cells and is not saved yet. */
  readonly unsaved: readonly UnsavedCell[] | null;
  readonly acts: TableActs<R>;
}

/** A row of a table; it is drawn again only when something of it changes, since a table has many. */
function DrawnRow<R>(props: TableRowProps<R>) {
  const { row, index, columns, editing, acts, isGroup, cursorColumn, level } = props;
  return (
    <Row
      role="row"
      aria-level={level === undefined ? undefined : level + 1}
      aria-selected={props.isSelected}
      aria-rowindex={index + 1}
      data-look={props.isSelected ? 'selected' : props.isMarked ? 'marked' : isGroup ? 'group' : undefined}
      onClick={(event) => acts.chooseRow(row, event)}
      style={{
        transform: `translateY(${props.start}px)`,
        gridTemplateColumns: props.template,
        cursor: props.canSelect ? 'pointer' : undefined,
        fontWeight: isGroup ? 650 : undefined,
        userSelect: props.isDrawing ? 'none' : undefined,
      }}
    >
      {columns.map((c, at) => {
        const isEdited = editing?.column === c.key;
        const unsaved = props.unsaved?.findLast((cell) => cell.column === c.key);
        const isChosen = at >= props.fromColumn && at <= props.toColumn;
        return (
          <Cell
            key={c.key}
            role="gridcell"
            title={isEdited ? (editing.problem ?? undefined) : (unsaved?.problem ?? undefined)}
            id={`${props.tableId}-${index}-${at}`}
            aria-selected={isChosen || undefined}
            data-figure={c.isFigure || undefined}
            data-faint={c.isFaint || undefined}
            data-unsaved={unsaved && (unsaved.problem === null ? 'waits' : 'refused')}
            data-cursor={at === cursorColumn || undefined}
            // The name of a group may run over the empty cells beside it.
            data-over={(isGroup && at === 0) || undefined}
            style={at === 0 && level ? { paddingLeft: 8 + level * 16 } : undefined}
            onMouseDown={(event) => acts.press(index, at, event)}
            onMouseEnter={(event) => acts.drawOver(index, at, event)}
            onDoubleClick={() => acts.open(row, c)}
          >
            {isEdited ? (
              <CellEditor
                column={c}
                text={editing.text}
                start={c.edit?.(row) ?? null}
                problem={editing.problem}
                onChange={acts.type}
                onFinish={() => acts.finish(row, c)}
                onCancel={acts.giveUp}
              />
            ) : (
              (unsaved?.text ?? c.cell(row))
            )}
          </Cell>
        );
      })}
    </Row>
  );
}

export const TableRow = memo(DrawnRow) as typeof DrawnRow;

/** Columns of a range in a row; none where it does not reach. */
export const columnsInRow = (range: CellRange | null, row: number): readonly [from: number, to: number] =>
  range && row >= range.top && row <= range.bottom ? [range.left, range.right] : [-1, -2];

const Row = styled('div')(({ theme }) => {
  const { palette } = theme.vars!;
  return {
    position: 'absolute',
    top: 0,
    left: 0,
    right: 0,
    height: ROW,
    display: 'grid',
    alignItems: 'center',
    borderBottom: `1px solid ${palette.divider}`,
    cursor: 'default',
    backgroundColor: palette.background.paper,
    '&[data-look="group"]': { backgroundColor: palette.background.default },
    '&[data-look="marked"]': { backgroundColor: palette.tally.unpricedSoft },
    '&:hover': { backgroundColor: palette.tally.petrolSoft },
    '&[data-look="selected"], &[data-look="selected"]:hover': { backgroundColor: palette.tally.selectionSoft },
  };
});

const Cell = styled('div')(({ theme }) => {
  const { palette } = theme.vars!;
  return {
    padding: '0 8px',
    height: '100%',
    display: 'flex',
    alignItems: 'center',
    fontSize: 13,
    overflow: 'hidden',
    whiteSpace: 'nowrap',
    textOverflow: 'ellipsis',
    // What does not fit is seen to be cut: the end gives way, never the first digits.
    '&[data-figure]': { display: 'block', lineHeight: `${ROW - 1}px`, textAlign: 'right', fontFamily: FIGURES },
    '&[data-faint]': { color: palette.text.secondary },
    '&[data-over]': { overflow: 'visible' },
    // What one typed stands at once; the figures that follow from it come with the answer.
    '&[data-unsaved="waits"]': { color: palette.text.secondary },
    '&[data-unsaved="refused"]': { color: palette.error.main },
    '&[aria-selected="true"]': { backgroundColor: palette.tally.selectionSoft },
    '&[data-cursor]': { boxShadow: `inset 0 0 0 1px ${palette.tally.selection}` },
  };
});

import { Box, InputBase } from '@mui/material';
import { type ReactNode, useRef } from 'react';
import { FIGURES } from './fonts.ts';
import type { TableColumn } from './table-column.ts';

/** Headings of a table; they stay in view. */
export function TableHead<R>({
  columns,
  template,
  onWidth,
  children,
}: {
  readonly columns: readonly TableColumn<R>[];
  readonly template: string;
  /** A column is drawn to a width, px; null takes it back to its own. */
  readonly onWidth: (key: string, width: number | null) => void;
  /** Stands at the right end, seen while one is at the head. */
  readonly children?: ReactNode;
}) {
  return (
    <Box
      role="row"
      style={{ gridTemplateColumns: template }}
      sx={{
        display: 'grid',
        position: 'sticky',
        top: 0,
        zIndex: 1,
        bgcolor: 'background.default',
        borderBottom: 1,
        borderColor: 'divider',
        minWidth: 'fit-content',
        '&:hover .beside, & .beside:focus-within': { opacity: 1 },
      }}
    >
      {columns.map((c) => (
        <Box
          key={c.key}
          role="columnheader"
          title={c.hint}
          aria-sort={c.sorted}
          onClick={c.onHeading}
          sx={{
            position: 'relative',
            cursor: c.onHeading ? 'pointer' : undefined,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            px: 1,
            py: 0.75,
            fontSize: 12,
            color: 'text.secondary',
            textAlign: c.isFigure ? 'right' : 'left',
            whiteSpace: 'nowrap',
          }}
        >
          {c.heading}
          {c.sorted === 'ascending' ? ' ↑' : c.sorted === 'descending' ? ' ↓' : ''}
          <WidthHandle onWidth={(width) => onWidth(c.key, width)} />
        </Box>
      ))}
      {children && (
        <Box
          className="beside"
          role="columnheader"
          sx={{ position: 'absolute', right: 4, top: 0, bottom: 0, display: 'flex', alignItems: 'center', opacity: 0 }}
        >
          {children}
        </Box>
      )}
    </Box>
  );
}

const LEAST_WIDTH = 40;

/** The edge of a heading: dragged it makes the column wider or narrower, a double click gives it its own width again. */
function WidthHandle({ onWidth }: { readonly onWidth: (width: number | null) => void }) {
  const start = useRef<{ readonly x: number; readonly width: number } | null>(null);
  return (
    <Box
      aria-hidden
      data-width-handle
      onClick={(e) => e.stopPropagation()}
      onDoubleClick={() => onWidth(null)}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        start.current = { x: e.clientX, width: e.currentTarget.parentElement!.offsetWidth };
      }}
      onPointerMove={(e) => {
        if (!start.current) return;
        onWidth(Math.max(LEAST_WIDTH, Math.round(start.current.width + e.clientX - start.current.x)));
      }}
      onPointerUp={() => {
        start.current = null;
      }}
      onPointerCancel={() => {
        start.current = null;
      }}
      sx={{
        position: 'absolute',
        top: 0,
        bottom: 0,
        right: 0,
        width: 7,
        cursor: 'col-resize',
        touchAction: 'none',
        '&:hover': { borderRight: 2, borderColor: 'tally.selection' },
      }}
    />
  );
}

/** A last line of a table, column by column; it stays in view. */
export function TableFoot<R>({
  columns,
  template,
  cell,
}: {
  readonly columns: readonly TableColumn<R>[];
  readonly template: string;
  readonly cell: (column: TableColumn<R>) => string;
}) {
  return (
    <Box
      role="row"
      style={{ gridTemplateColumns: template }}
      sx={{
        display: 'grid',
        position: 'sticky',
        bottom: 0,
        minWidth: 'fit-content',
        bgcolor: 'background.paper',
        borderTop: 1,
        borderColor: 'text.primary',
        fontWeight: 650,
      }}
    >
      {columns.map((c) => (
        <Box
          key={c.key}
          role="gridcell"
          sx={{
            px: 1,
            py: 0.75,
            fontSize: 13,
            whiteSpace: 'nowrap',
            textAlign: c.isFigure ? 'right' : 'left',
            fontFamily: c.isFigure ? FIGURES : undefined,
          }}
        >
          {cell(c)}
        </Box>
      ))}
    </Box>
  );
}

/** The field that a cell is typed in; Enter, Tab or leaving it saves, Escape leaves the cell as it was. */
export function CellEditor<R>({
  column: c,
  text,
  start,
  problem,
  onChange,
  onFinish,
  onCancel,
}: {
  readonly column: TableColumn<R>;
  readonly text: string;
  /** Text the cell had; null if it had none to start from. */
  readonly start: string | null;
  readonly problem: string | null;
  readonly onChange: (text: string) => void;
  readonly onFinish: () => void;
  readonly onCancel: () => void;
}) {
  return (
    <InputBase
      autoFocus
      fullWidth
      value={text}
      inputProps={{
        'aria-label': c.heading,
        'aria-invalid': problem !== null,
        style: {
          textAlign: c.isFigure ? 'right' : 'left',
          fontFamily: c.isFigure ? FIGURES : undefined,
          fontSize: 13,
          padding: 0,
        },
      }}
      // What was typed on the cell goes on; what was there is typed over.
      onFocus={(e) => text === start && e.target.select()}
      onChange={(e) => onChange(e.target.value)}
      onBlur={onFinish}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter' || e.key === 'Tab') {
          e.preventDefault();
          onFinish();
        } else if (e.key === 'Escape') onCancel();
      }}
      sx={{ color: problem ? 'error.main' : undefined, bgcolor: 'background.paper' }}
    />
  );
}

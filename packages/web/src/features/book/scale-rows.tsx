import AddIcon from '@mui/icons-material/Add';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, IconButton, TextField } from '@mui/material';
import { describeRange, type ScaleKey, type ScaleRow } from '@tally/core';
import { FIGURES } from '../../ui/fonts.ts';
import { showUnit } from '../../ui/format.ts';
import { type CellDraft, nextRow, type RowDraft } from './scale-draft.ts';

const FIELD_SX = { '& input': { fontFamily: FIGURES, fontSize: 13, textAlign: 'right' } } as const;

/** The rows of a scale as fields, with each range in words. */
export function ScaleRows({
  keys,
  unit,
  cells,
  rows,
  onChange,
}: {
  readonly keys: readonly ScaleKey[];
  readonly unit: string;
  readonly cells: readonly RowDraft[];
  readonly rows: readonly (ScaleRow | string)[];
  readonly onChange: (cells: readonly RowDraft[]) => void;
}) {
  const set = (n: number, row: RowDraft) => onChange(cells.map((c, i) => (i === n ? row : c)));
  const setPlace = (n: number, i: number, part: Partial<CellDraft>) =>
    set(n, { ...cells[n]!, at: cells[n]!.at.map((a, k) => (k === i ? { ...a, ...part } : a)) });
  const template = [
    ...keys.map((k) => (k.unit === undefined ? 'minmax(120px, 1fr)' : '76px 76px')),
    '84px',
    'minmax(110px, 1fr)',
    '32px',
  ].join(' ');
  return (
    <Box role="group" aria-label="Rows of the scale" sx={{ display: 'grid', gap: 1, alignContent: 'start' }}>
      {cells.map((cell, n) => {
        const row = rows[n];
        return (
          <Box key={n} sx={{ display: 'grid', gridTemplateColumns: template, gap: 1, alignItems: 'center' }}>
            {keys.map((key, i) => {
              const place = cell.at[i]!;
              return key.unit === undefined ? (
                <TextField
                  key={i}
                  label={n === 0 ? key.name : undefined}
                  value={place.text}
                  placeholder="* and ? stand for any"
                  slotProps={{ htmlInput: { 'aria-label': `${key.name}, row ${n + 1}` } }}
                  onChange={(e) => setPlace(n, i, { text: e.target.value })}
                />
              ) : (
                ['from', 'to'].map((end) => (
                  <TextField
                    key={`${i}${end}`}
                    label={n === 0 ? `${end === 'from' ? 'From' : 'Below'} ${showUnit(key.unit!)}` : undefined}
                    value={place[end as 'from' | 'to']}
                    placeholder="open"
                    slotProps={{
                      htmlInput: { 'aria-label': `${key.name} ${end}, row ${n + 1}` },
                      inputLabel: { shrink: true },
                    }}
                    sx={FIELD_SX}
                    onChange={(e) => setPlace(n, i, { [end]: e.target.value })}
                  />
                ))
              );
            })}
            <TextField
              label={n === 0 ? showUnit(unit) : undefined}
              value={cell.value}
              slotProps={{ htmlInput: { 'aria-label': `Figure, row ${n + 1}` }, inputLabel: { shrink: true } }}
              sx={FIELD_SX}
              onChange={(e) => set(n, { ...cell, value: e.target.value })}
            />
            <Box sx={{ fontSize: 12, color: typeof row === 'string' ? 'error.main' : 'text.secondary' }}>
              {typeof row === 'string' || !row
                ? row
                : row.at
                    .map((a, i) => (typeof a === 'string' ? a : describeRange(a, showUnit(keys[i]!.unit!))))
                    .join(', ')}
            </Box>
            <IconButton
              aria-label={`Take row ${n + 1} out`}
              disabled={cells.length === 1}
              onClick={() => onChange(cells.filter((_, i) => i !== n))}
            >
              <DeleteOutlineIcon fontSize="small" />
            </IconButton>
          </Box>
        );
      })}
      <Box>
        <Button startIcon={<AddIcon />} onClick={() => onChange([...cells, nextRow(cells, keys)])}>
          Add a row
        </Button>
      </Box>
    </Box>
  );
}

import { Box, MenuItem, Select, TextField } from '@mui/material';
import { makeProfile, type PriceSheetDto, SHEET_COLUMNS, type SheetColumn, type SheetProfile } from '@tally/core';
import { useState } from 'react';
import { FIGURES } from '../../ui/fonts.ts';

const WORDS: Record<SheetColumn, string> = {
  code: 'Code or name',
  rate: 'Price',
  description: 'Description',
  unit: 'Unit',
};

/** The first rows of a price sheet, with what each column holds above it. The row of the headings is clicked. */
export function SheetColumns({
  sheets,
  profile,
  onChange,
}: {
  readonly sheets: PriceSheetDto['sheets'];
  readonly profile: SheetProfile | null;
  readonly onChange: (profile: SheetProfile | null) => void;
}) {
  const [name, setName] = useState(profile?.sheet ?? sheets[0]!.name);
  const [headerRow, setHeaderRow] = useState(profile?.headerRow ?? 0);
  const [columns, setColumns] = useState<Partial<Record<SheetColumn, number>>>(profile?.columns ?? {});
  const sheet = sheets.find((s) => s.name === name) ?? sheets[0]!;
  const width = Math.max(1, ...sheet.rows.map((r) => r.length));
  const settle = (of: string, row: number, chosen: Partial<Record<SheetColumn, number>>) => {
    setName(of);
    setHeaderRow(row);
    setColumns(chosen);
    const { code, rate } = chosen;
    const header = sheets.find((s) => s.name === of)?.rows[row] ?? [];
    onChange(code === undefined || rate === undefined ? null : makeProfile(of, row, { ...chosen, code, rate }, header));
  };
  const columnAt = (at: number) => SHEET_COLUMNS.find((c) => columns[c] === at) ?? '';
  const choose = (at: number, column: SheetColumn | '') => {
    const next = Object.fromEntries(Object.entries(columns).filter(([c, i]) => i !== at && c !== column));
    settle(name, headerRow, column === '' ? next : { ...next, [column]: at });
  };
  const cell = {
    px: 1,
    py: 0.5,
    borderBottom: 1,
    borderColor: 'divider',
    whiteSpace: 'nowrap',
    maxWidth: 260,
  } as const;
  return (
    <Box sx={{ minHeight: 0, display: 'flex', flexDirection: 'column', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', fontSize: 13 }}>
        {sheets.length > 1 && (
          <TextField
            select
            label="Sheet"
            value={name}
            onChange={(e) => settle(e.target.value, 0, {})}
            sx={{ minWidth: 180, mt: 0.5 }}
          >
            {sheets.map((s) => (
              <MenuItem key={s.name} value={s.name}>
                {s.name}, {s.count} rows
              </MenuItem>
            ))}
          </TextField>
        )}
        <Box sx={{ color: 'text.secondary' }}>
          Say above the columns which holds the code and which the price; click the row that has the headings.
        </Box>
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto', border: 1, borderColor: 'divider', borderRadius: 1 }}>
        <Box component="table" aria-label="First rows of the sheet" sx={{ borderCollapse: 'collapse', fontSize: 13 }}>
          <thead>
            <tr>
              <Box component="th" sx={{ ...cell, position: 'sticky', top: 0, bgcolor: 'background.paper' }} />
              {Array.from({ length: width }, (_, at) => (
                <Box
                  component="th"
                  key={at}
                  sx={{ ...cell, position: 'sticky', top: 0, bgcolor: 'background.paper', textAlign: 'left' }}
                >
                  <Select
                    value={columnAt(at)}
                    displayEmpty
                    size="small"
                    inputProps={{ 'aria-label': `Column ${at + 1} holds` }}
                    onChange={(e) => choose(at, e.target.value as SheetColumn | '')}
                    sx={{ fontSize: 12, minWidth: 110 }}
                  >
                    <MenuItem value="">not used</MenuItem>
                    {SHEET_COLUMNS.map((c) => (
                      <MenuItem key={c} value={c}>
                        {WORDS[c]}
                      </MenuItem>
                    ))}
                  </Select>
                </Box>
              ))}
            </tr>
          </thead>
          <tbody>
            {sheet.rows.map((row, r) => (
              <Box
                component="tr"
                key={r}
                aria-selected={r === headerRow}
                onClick={() => settle(name, r, columns)}
                sx={{
                  cursor: 'pointer',
                  bgcolor: r === headerRow ? 'tally.selectionSoft' : undefined,
                  fontWeight: r === headerRow ? 650 : undefined,
                  color: r < headerRow ? 'text.secondary' : undefined,
                  '&:hover': { bgcolor: r === headerRow ? undefined : 'tally.petrolSoft' },
                }}
              >
                <Box component="td" sx={{ ...cell, color: 'text.secondary', fontFamily: FIGURES }}>
                  {r + 1}
                </Box>
                {Array.from({ length: width }, (_, c) => (
                  <Box
                    component="td"
                    key={c}
                    sx={{
                      ...cell,
                      overflow: 'hidden',
                      textOverflow: 'ellipsis',
                      ...(typeof row[c] === 'number' ? { fontFamily: FIGURES, textAlign: 'right' } : {}),
                    }}
                  >
                    {row[c] === null || row[c] === undefined ? '' : String(row[c])}
                  </Box>
                ))}
              </Box>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}

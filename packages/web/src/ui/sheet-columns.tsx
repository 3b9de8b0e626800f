import { Box, MenuItem, Select, TextField } from '@mui/material';
import { FIGURES } from './fonts.ts';

/** One sheet of a file with its first rows. */
interface ShownSheet {
  readonly name: string;
  readonly rows: readonly (readonly (string | number | boolean | null)[])[];
  readonly count: number;
}

/** Where the columns stand: the sheet, the row of the headings, and which column holds what. */
export interface ChosenColumns<C extends string> {
  readonly sheet: string;
  readonly headerRow: number;
  readonly columns: Readonly<Partial<Record<C, number>>>;
}

/** The first rows of a sheet, with what each column holds above it. The row of the headings is clicked. */
export function SheetColumns<C extends string>({
  sheets,
  words,
  hint,
  chosen,
  onChange,
}: {
  readonly sheets: readonly ShownSheet[];
  /** What a column can hold, in words. */
  readonly words: Readonly<Record<C, string>>;
  readonly hint: string;
  readonly chosen: ChosenColumns<C>;
  /** @param header cells of the row of the headings */
  readonly onChange: (chosen: ChosenColumns<C>, header: ShownSheet['rows'][number]) => void;
}) {
  const { sheet: name, headerRow, columns } = chosen;
  const names = Object.keys(words) as C[];
  const sheet = sheets.find((s) => s.name === name) ?? sheets[0]!;
  const width = Math.max(1, ...sheet.rows.map((r) => r.length));
  const settle = (of: string, row: number, next: Partial<Record<C, number>>) =>
    onChange({ sheet: of, headerRow: row, columns: next }, sheets.find((s) => s.name === of)?.rows[row] ?? []);
  const columnAt = (at: number) => names.find((c) => columns[c] === at) ?? '';
  const choose = (at: number, column: C | '') => {
    const next = Object.fromEntries(
      names.filter((c) => columns[c] !== undefined && columns[c] !== at && c !== column).map((c) => [c, columns[c]!]),
    ) as Partial<Record<C, number>>;
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
        <Box sx={{ color: 'text.secondary' }}>{hint}</Box>
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
                    onChange={(e) => choose(at, e.target.value as C | '')}
                    sx={{ fontSize: 12, minWidth: 110 }}
                  >
                    <MenuItem value="">not used</MenuItem>
                    {names.map((c) => (
                      <MenuItem key={c} value={c}>
                        {words[c]}
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

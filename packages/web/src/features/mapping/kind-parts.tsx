import { Box, MenuItem, TextField } from '@mui/material';
import type { KindPart, ProjectStateDto } from '@tally/core';
import { showSiText } from '../../ui/format.ts';
import { partId } from './kind-states.ts';
import { sayPart } from './part-words.ts';

/** What of a kind a decision is about: its elements, or layers, face styles or finishes of them, each with how much there is and whether it is decided. */
export function KindPartField({
  parts,
  chosen,
  decided,
  units,
  onChoose,
}: {
  readonly parts: readonly KindPart[];
  readonly chosen: KindPart | null;
  /** How many of each are decided about, by `partId`. */
  readonly decided: ReadonlyMap<string, number>;
  readonly units: ProjectStateDto['basis']['settings']['units'];
  readonly onChoose: (part: KindPart | null) => void;
}) {
  return (
    <TextField
      select
      label="About"
      value={chosen ? partId(chosen) : ''}
      onChange={(e) => onChoose(parts.find((p) => partId(p) === e.target.value) ?? null)}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      <MenuItem value="">The elements themselves</MenuItem>
      {parts.map((part) => {
        const open = part.count - (decided.get(partId(part)) ?? 0);
        const [first] = part.quantities;
        return (
          <MenuItem key={partId(part)} value={partId(part)}>
            <Box component="span" sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis' }}>
              {sayPart(part)}
            </Box>
            <Box component="span" sx={{ color: 'text.secondary', pl: 2 }}>
              {first ? showSiText(first.value, first.unit, units) : `${part.count} pcs`}
              {open === 0 ? ', decided' : open < part.count ? `, ${open} of ${part.count} open` : ''}
            </Box>
          </MenuItem>
        );
      })}
    </TextField>
  );
}

import { Box, MenuItem, Select, Slider, Tooltip } from '@mui/material';
import { useState } from 'react';
import type { CutPlane, ViewBox } from '../../viewer/index.ts';

/** From where the building is cut: what lies on that side of the plane is left out. */
const SIDES = {
  above: { words: 'Above', axis: 2, direction: 1 },
  below: { words: 'Below', axis: 2, direction: -1 },
  east: { words: 'East', axis: 0, direction: 1 },
  west: { words: 'West', axis: 0, direction: -1 },
  north: { words: 'North', axis: 1, direction: 1 },
  south: { words: 'South', axis: 1, direction: -1 },
} as const;
type Side = keyof typeof SIDES;

const findSide = (cut: CutPlane | null): Side | undefined =>
  (Object.keys(SIDES) as Side[]).find((s) => SIDES[s].axis === cut?.axis && SIDES[s].direction === cut.direction);

/** A section plane that is moved through the building from one of six sides. */
export function CutControl({
  box,
  cut,
  onCut,
}: {
  /** Box around everything. */
  readonly box: ViewBox;
  /** Where it is cut; null while nothing is left out. */
  readonly cut: CutPlane | null;
  readonly onCut: (cut: CutPlane | null) => void;
}) {
  const [side, setSide] = useState<Side>(() => findSide(cut) ?? 'above');
  const atM = cut?.atM ?? null;
  const { axis, direction } = SIDES[side];
  const [low, high] = [box[axis]!, box[axis + 3]!];
  const open = direction === 1 ? high : low;
  const move = (to: number) => {
    const isOpen = direction === 1 ? to >= high : to <= low;
    onCut(isOpen ? null : { axis, direction, atM: to });
  };
  return (
    <Box
      sx={{
        position: 'absolute',
        right: 4,
        top: 8,
        display: 'flex',
        flexDirection: 'column',
        alignItems: 'center',
        gap: 1,
      }}
    >
      <Tooltip title="Leave out what lies on this side" placement="left">
        <Select
          variant="standard"
          disableUnderline
          value={side}
          onChange={(e) => {
            setSide(e.target.value as Side);
            onCut(null);
          }}
          inputProps={{ 'aria-label': 'Cut from' }}
          sx={{ fontSize: 12.5 }}
        >
          {Object.entries(SIDES).map(([key, { words }]) => (
            <MenuItem key={key} value={key}>
              {words}
            </MenuItem>
          ))}
        </Select>
      </Tooltip>
      <Slider
        size="small"
        orientation="vertical"
        aria-label="Cut at"
        value={atM ?? open}
        min={low}
        max={high}
        step={0.1}
        shiftStep={1}
        track={direction === 1 ? 'normal' : 'inverted'}
        onChange={(_, v) => move(v as number)}
        sx={{ height: 150, mt: 2 }}
      />
    </Box>
  );
}

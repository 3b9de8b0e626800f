import { Box } from '@mui/material';
import { ringToPoints } from '@tally/core';
import type { KeyboardEvent, MouseEvent } from 'react';
import type { DrawnOnPlan } from './list-plan-rooms.ts';

/** One room on the plan, with its name and area. */
export function RoomShape({
  room,
  text,
  isChosen,
  isIdle,
  area,
  hatch,
  onChoose,
}: {
  readonly room: DrawnOnPlan;
  /** Height of the text, in the plan's metres. */
  readonly text: number;
  readonly isChosen: boolean;
  /** A tool is at work: clicks are the tool's. */
  readonly isIdle: boolean;
  readonly area: string;
  readonly hatch: string | null;
  readonly onChoose: (isAdding: boolean) => void;
}) {
  const rings = room.rings.map(ringToPoints);
  const path = [...rings, ...room.holes.map(ringToPoints)]
    .map((ring) => `M${ring.map(([x, y]) => `${x} ${-y}`).join('L')}Z`)
    .join('');
  const all = rings.flat();
  const [cx, cy] = [0, 1].map((k) => all.reduce((sum, p) => sum + p[k]!, 0) / all.length) as [number, number];
  const label = {
    textAnchor: 'middle',
    paintOrder: 'stroke',
    stroke: (t: { vars?: { palette: { background: { paper: string } } } }) => t.vars!.palette.background.paper,
    strokeWidth: text / 4,
  } as const;
  return (
    <Box
      component="g"
      role="button"
      aria-label={room.name}
      aria-pressed={isChosen}
      tabIndex={0}
      onClick={(e: MouseEvent) => {
        if (isIdle) return;
        e.stopPropagation();
        onChoose(e.ctrlKey || e.metaKey || e.shiftKey);
      }}
      onKeyDown={(e: KeyboardEvent) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        onChoose(e.ctrlKey || e.metaKey || e.shiftKey);
      }}
      sx={{
        cursor: isIdle ? undefined : 'pointer',
        outline: 'none',
        opacity: room.isLeftOut ? 0.45 : 1,
        '&:focus-visible path:last-of-type': { strokeWidth: text / 4 },
      }}
    >
      <Box
        component="path"
        d={path}
        fillRule="evenodd"
        sx={{
          fill: (t) =>
            isChosen
              ? t.vars!.palette.tally.selectionSoft
              : room.isLeftOut
                ? 'transparent'
                : room.finishes.floor === null
                  ? t.vars!.palette.tally.unpricedSoft
                  : t.vars!.palette.background.paper,
        }}
      />
      <Box
        component="path"
        d={path}
        fillRule="evenodd"
        fill={hatch !== null && !room.isLeftOut ? hatch : 'none'}
        sx={{
          stroke: (t) => (isChosen ? t.vars!.palette.tally.selection : t.vars!.palette.text.primary),
          strokeWidth: isChosen ? text / 5 : text / 12,
          strokeDasharray: room.isLeftOut ? `${text / 2} ${text / 3}` : undefined,
        }}
      />
      <Box
        component="text"
        x={cx}
        y={-cy}
        sx={{ fontSize: text, fontWeight: 650, fill: (t) => t.vars!.palette.text.primary, ...label }}
      >
        {room.name}
      </Box>
      <Box
        component="text"
        x={cx}
        y={-cy + text * 1.3}
        sx={{ fontSize: text * 0.9, fill: (t) => t.vars!.palette.text.secondary, ...label }}
      >
        {room.isLeftOut ? 'left out' : area}
      </Box>
    </Box>
  );
}

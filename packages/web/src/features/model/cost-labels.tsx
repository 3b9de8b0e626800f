import { Box } from '@mui/material';
import type { ElementStatesDto } from '@tally/core';
import { useEffect, useMemo, useReducer } from 'react';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor } from '../../ui/format.ts';
import type { SceneViewer } from '../../viewer/index.ts';
import { allRows } from './bound-rows.ts';

/** Elements whose cost may be written, the most expensive first; room a label takes, px. */
const MOST = 300;
const MOST_SHOWN = 60;
const [PER_SIGN, HEIGHT, GAP] = [7, 18, 3];

interface Label {
  readonly key: number;
  readonly text: string;
  readonly at: readonly [number, number, number];
}
interface PlacedLabel extends Label {
  readonly x: number;
  readonly y: number;
}

/** Labels that have room: those that come first are placed first, none over another or over the edge. */
export function placeLabels(
  labels: readonly (Label & { readonly seen: readonly [number, number] | null })[],
  width: number,
  height: number,
): PlacedLabel[] {
  const placed: PlacedLabel[] = [];
  const sizeOf = (text: string) => text.length * PER_SIGN + 8;
  for (const { seen, ...label } of labels) {
    if (placed.length >= MOST_SHOWN) break;
    if (!seen) continue;
    const [x, y] = seen;
    const w = sizeOf(label.text);
    if (x - w / 2 < 0 || x + w / 2 > width || y - HEIGHT / 2 < 0 || y + HEIGHT / 2 > height) continue;
    const isFree = placed.every(
      (p) => Math.abs(p.x - x) >= (sizeOf(p.text) + w) / 2 + GAP || Math.abs(p.y - y) >= HEIGHT + GAP,
    );
    if (isFree) placed.push({ ...label, x, y });
  }
  return placed;
}

/** What elements cost, written at them in the model: the most expensive first, as many as have room. */
export function CostLabels({
  viewer,
  models,
  states,
  hidden,
}: {
  readonly viewer: SceneViewer;
  readonly models: readonly LoadedModel[];
  readonly states: readonly ElementStatesDto[];
  readonly hidden: ReadonlySet<number>;
}) {
  const { money } = useProjectState('money');
  const [, redraw] = useReducer((n: number) => n + 1, 0);
  useEffect(() => viewer.onFrame(redraw), [viewer]);
  const labels = useMemo(() => {
    const amounts = new Map(states.flatMap((s) => s.keys.map((key, i) => [key, s.amounts[i]!] as const)));
    const found: (Label & { readonly amount: number })[] = [];
    for (const { model, row } of allRows(models)) {
      const key = model.table.keys[row]!;
      const amount = amounts.get(key) ?? 0;
      const box = model.table.boxes.subarray(row * 6, row * 6 + 6);
      if (amount <= 0 || hidden.has(key) || Number.isNaN(box[0]!)) continue;
      const at = [0, 1, 2].map((k) => (box[k]! + box[k + 3]!) / 2) as [number, number, number];
      found.push({ key, amount, at, text: showMinor(Math.round(amount / 10_000), money.minorDigits) });
    }
    return found.sort((a, b) => b.amount - a.amount).slice(0, MOST);
  }, [models, states, hidden, money.minorDigits]);
  const { clientWidth, clientHeight } = viewer.canvas;
  const placed = placeLabels(
    labels.map((l) => ({ ...l, seen: viewer.seenAt(l.at) })),
    clientWidth,
    clientHeight,
  );
  return (
    <Box aria-hidden sx={{ position: 'absolute', inset: 0, pointerEvents: 'none', overflow: 'hidden' }}>
      {placed.map(({ key, text, x, y }) => (
        <Box
          key={key}
          sx={{
            position: 'absolute',
            fontFamily: FIGURES,
            fontSize: 11.5,
            lineHeight: '16px',
            px: '3px',
            bgcolor: 'background.paper',
            border: 1,
            borderColor: 'divider',
            borderRadius: 0.5,
            whiteSpace: 'nowrap',
          }}
          style={{ left: x, top: y, transform: 'translate(-50%, -50%)' }}
        >
          {text}
        </Box>
      ))}
    </Box>
  );
}

import { Box } from '@mui/material';
import { MOVE_CAUSES, type MoveCause, type MoveDto } from '@tally/core';
import { Bar, BarChart, Cell, LabelList, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor, showMove } from '../../ui/format.ts';
import { useSchemePalette } from '../../ui/use-scheme.ts';
import { CAUSE_WORDS } from './cause-words.ts';

/** A bar of the waterfall: from where to where it goes, and what is written at it. */
interface Step {
  readonly name: string;
  readonly cause: MoveCause | null;
  readonly span: readonly [number, number];
  readonly label: string;
}

/** The move as steps from the total of before to the one of after; causes that did not act are left out. */
export function listSteps({ before, after, causes }: MoveDto, digits: number): Step[] {
  let at = before;
  const steps = MOVE_CAUSES.filter((c) => causes[c] !== 0).map((cause): Step => {
    const from = at;
    at += causes[cause];
    return { name: CAUSE_WORDS[cause].short, cause, span: [from, at], label: showMove(causes[cause], digits) };
  });
  return [
    { name: 'Before', cause: null, span: [0, before], label: showMinor(before, digits) },
    ...steps,
    { name: 'After', cause: null, span: [0, after], label: showMinor(after, digits) },
  ];
}

/** Where the axis begins, so that the steps are seen beside the totals: these are cut off below. */
export function chooseFloor(steps: readonly Step[]): number {
  const ends = steps.flatMap(({ span, cause }) => (cause === null ? [span[1]] : [...span]));
  const [least, most] = [Math.min(...ends), Math.max(...ends)];
  if (least <= 0) return Math.min(0, least);
  const room = Math.max(most - least, most * 0.02);
  return Math.max(0, least - room * 0.6);
}

/** What moved the total, cause by cause; each bar leads to what it is made of. */
export function MoveWaterfall({
  move,
  minorDigits,
  chosen,
  onChoose,
}: {
  readonly move: MoveDto;
  readonly minorDigits: number;
  readonly chosen: MoveCause | null;
  readonly onChoose: (cause: MoveCause | null) => void;
}) {
  const palette = useSchemePalette();
  const { tally } = palette;
  const steps = listSteps(move, minorDigits);
  const floor = chooseFloor(steps);
  const shown = steps.map((s) => ({ ...s, span: s.cause === null ? [floor, s.span[1]] : s.span }));
  const colour = ({ cause, span }: Step) =>
    cause === null ? tally.priced : span[1] > span[0] ? tally.petrol : tally.ramp[1]!;
  return (
    <Box
      role="img"
      aria-label={`From ${steps[0]!.label} to ${steps.at(-1)!.label}: ${steps.slice(1, -1).map((s) => `${s.name} ${s.label}`).join(', ')}`} // biome-ignore format: one text
      sx={{
        height: 176,
        minWidth: 0,
        '& .recharts-bar-rectangle': { cursor: 'pointer' },
        '& *:focus': { outline: 'none' },
      }}
    >
      <ResponsiveContainer width="100%" height="100%">
        <BarChart data={shown} margin={{ top: 22, right: 8, bottom: 0, left: 8 }} barCategoryGap="22%">
          <XAxis
            dataKey="name"
            interval={0}
            tickLine={false}
            tick={{ fontSize: 12, fill: palette.text.primary }}
            stroke={palette.divider}
          />
          <YAxis hide domain={[floor, 'dataMax']} />
          <ReferenceLine y={move.before} stroke={palette.divider} strokeDasharray="3 3" />
          <Bar
            dataKey="span"
            isAnimationActive={false}
            minPointSize={2}
            onClick={(_, i) => {
              const { cause } = steps[i]!;
              onChoose(cause === chosen ? null : cause);
            }}
          >
            {steps.map((s) => (
              <Cell
                key={s.name}
                fill={colour(s)}
                fillOpacity={chosen === null || s.cause === chosen || s.cause === null ? 1 : 0.35}
                stroke={s.cause !== null && s.cause === chosen ? palette.text.primary : 'none'}
              />
            ))}
            <LabelList
              dataKey="label"
              position="top"
              style={{ fontFamily: FIGURES, fontSize: 12, fill: palette.text.primary }}
            />
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </Box>
  );
}

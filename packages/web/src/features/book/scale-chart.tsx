import { Box } from '@mui/material';
import { compileScale, parseUnit, type Scale, type ScaleRange } from '@tally/core';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure, showUnit } from '../../ui/format.ts';
import { tooltipLook, useSchemePalette } from '../../ui/use-scheme.ts';

const POINTS = 240;

/** The steps of a scale over the figure it goes by; open ends are drawn a little way on. */
export function ScaleChart({ scale }: { readonly scale: Scale }) {
  const palette = useSchemePalette();
  const key = scale.keys[0]!;
  const [from, unit, made] = [parseUnit(key.unit ?? 'number'), parseUnit(scale.unit), compileScale(scale)];
  if (!from.ok || !unit.ok || !made.ok) return null;
  const ends = scale.rows.flatMap((r) => {
    const { from: low, to } = r.at[0] as ScaleRange;
    return [low, to].filter((e) => e !== undefined);
  });
  const [least, most] = [Math.min(0, ...ends), Math.max(...ends, 0) * 1.25 || 1];
  const ticks = [...new Set([least, ...ends])].sort((a, b) => a - b);
  const points = Array.from({ length: POINTS + 1 }, (_, i) => {
    const at = least + ((most - least) * i) / POINTS;
    const found = made.value.find([at * from.value.factor]);
    return { at, figure: typeof found === 'number' ? found / unit.value.factor : null };
  });
  const tick = { fontFamily: FIGURES, fontSize: 11, fill: palette.text.secondary };
  return (
    <Box
      role="img"
      aria-label={`${scale.name}: ${showUnit(scale.unit)} by ${key.name} in ${showUnit(key.unit!)}`}
      sx={{ height: 220, minWidth: 0 }}
    >
      <ResponsiveContainer width="100%" height="100%">
        <LineChart data={points} margin={{ top: 8, right: 12, bottom: 4, left: 0 }}>
          <CartesianGrid stroke={palette.divider} vertical={false} />
          <XAxis
            dataKey="at"
            type="number"
            domain={[least, most]}
            ticks={ticks}
            tick={tick}
            stroke={palette.divider}
            tickFormatter={(v: number) => String(v)}
          />
          <YAxis tick={tick} stroke={palette.divider} width={48} domain={[0, 'auto']} />
          <Tooltip
            isAnimationActive={false}
            contentStyle={tooltipLook(palette)}
            labelFormatter={(v) => `${showFigure(Number(v), 2)} ${showUnit(key.unit!)}`}
            formatter={(v) => [`${showFigure(Number(v), 2)} ${showUnit(scale.unit)}`, '']}
            separator=""
          />
          <Line
            type={scale.isSliced ? 'linear' : 'stepAfter'}
            dataKey="figure"
            stroke={palette.primary.main}
            strokeWidth={2}
            dot={false}
            isAnimationActive={false}
          />
        </LineChart>
      </ResponsiveContainer>
    </Box>
  );
}

import { Box } from '@mui/material';
import type { PastRate } from '@tally/core';
import { Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure, showTime } from '../../ui/format.ts';
import { tooltipLook, useSchemePalette } from '../../ui/use-scheme.ts';

/** The rate of an item over its changes, as steps; rates that are worked out leave a gap. */
export function RateChart({ history }: { readonly history: readonly PastRate[] }) {
  const palette = useSchemePalette();
  const points = history.map((p, i) => ({ at: i, when: p.at, rate: p.rate === null ? null : Number(p.rate) }));
  return (
    <Box role="img" aria-label={`Past rates, ${history.length} steps`} sx={{ minWidth: 0 }}>
      <ResponsiveContainer width="100%" height="100%">
        <LineChart data={points} margin={{ top: 6, right: 8, bottom: 0, left: 0 }}>
          <XAxis dataKey="at" hide />
          <YAxis
            width={48}
            domain={['auto', 'auto']}
            tick={{ fontFamily: FIGURES, fontSize: 11, fill: palette.text.secondary }}
            stroke={palette.divider}
          />
          <Tooltip
            isAnimationActive={false}
            contentStyle={tooltipLook(palette)}
            labelFormatter={(at) => showTime(points[Number(at)]?.when ?? '')}
            formatter={(v) => [showFigure(Number(v), 2), '']}
            separator=""
          />
          <Line
            type="stepAfter"
            dataKey="rate"
            stroke={palette.primary.main}
            strokeWidth={2}
            dot={{ r: 2 }}
            isAnimationActive={false}
          />
        </LineChart>
      </ResponsiveContainer>
    </Box>
  );
}

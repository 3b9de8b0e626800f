import { Box } from '@mui/material';
import type { GfaMethod } from '@tally/core';
import { useBasis } from '../../store/project-store.tsx';
import { useElements } from '../../store/use-elements.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showSiText } from '../../ui/format.ts';
import { Part } from './settings-part.tsx';

const METHOD_WORDS: Record<GfaMethod, string> = {
  stated: 'stated in the file',
  'gross-spaces': 'drawn as gross area',
  slabs: 'covered by its floor slabs',
  spaces: 'sum of its rooms',
  slices: 'cut out of the masses',
};

/** Gross floor area of each storey, with how it was found. */
export function StoreysPart() {
  const basis = useBasis('settings');
  const { models } = useElements();
  const storeys = models.flatMap((m) => m.table.storeys).sort((a, b) => (b.elevation ?? 0) - (a.elevation ?? 0));
  const known = storeys.filter((s) => s.gfa !== null);
  const total = known.reduce((sum, s) => sum + s.gfa!, 0);
  const missing = storeys.length - known.length;
  const show = (value: number, unit: string) => showSiText(value, unit, basis.settings.units);
  return (
    <Part title="Gross floor area" note="By storey, with how it was found.">
      <Box
        component="dl"
        sx={{ m: 0, display: 'grid', gridTemplateColumns: '1fr auto auto', columnGap: 2, rowGap: 0.5, fontSize: 13 }}
      >
        {storeys.map((s, i) => [
          <Box component="dt" key={`${i}n`}>
            {s.name}
            {s.gfaMethod && <Box sx={{ color: 'text.secondary', fontSize: 12 }}>{METHOD_WORDS[s.gfaMethod]}</Box>}
          </Box>,
          <Box
            component="dd"
            key={`${i}e`}
            sx={{ m: 0, textAlign: 'right', color: 'text.secondary', fontFamily: FIGURES }}
          >
            {s.elevation === null ? '' : show(s.elevation, 'm')}
          </Box>,
          <Box component="dd" key={`${i}a`} sx={{ m: 0, textAlign: 'right', fontFamily: FIGURES }}>
            {s.gfa === null ? 'none' : show(s.gfa, 'm2')}
          </Box>,
        ])}
        <Box component="dt" sx={{ fontWeight: 650, gridColumn: '1 / 3' }}>
          Together
          {known.length > 0 && missing > 0 && (
            <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary' }}>
              , without {missing === 1 ? 'one storey that has none' : `${missing} storeys that have none`}
            </Box>
          )}
        </Box>
        <Box
          component="dd"
          data-testid="gfa-total"
          sx={{ m: 0, textAlign: 'right', fontWeight: 650, fontFamily: FIGURES }}
        >
          {known.length === 0 ? 'none' : show(total, 'm2')}
        </Box>
      </Box>
    </Part>
  );
}

import { Box, ButtonBase } from '@mui/material';
import { type GroupField, type HeldBand, type PlanGroup, showClass } from '@tally/core';
import { useMemo } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { useBands, usePlan } from '../../store/queries.ts';
import { useClassification } from '../../store/use-elements.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure, showMinor, showSignificant, showUnit } from '../../ui/format.ts';
import { useKept } from '../../ui/kept-state.ts';

type Told = 'storey' | 'kind' | 'band';
const WORDS: Readonly<Record<Told, string>> = { storey: 'Storeys', kind: 'Kinds of cost', band: 'Usual prices' };

/** A line above the plan that says something of it: its storeys and kinds by their shares, or what elements cost against what is usual. */
export function PlanStrip({ onShow }: { readonly onShow: (by: readonly GroupField[]) => void }) {
  const [told, tell] = useKept<Told>('plan/strip', 'storey');
  return (
    <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'stretch', fontSize: 12.5, minHeight: 50, minWidth: 0 }}>
      <Box
        role="tablist"
        aria-label="What the strip tells"
        sx={{ display: 'flex', flexDirection: 'column', justifyContent: 'center', lineHeight: 1.25 }}
      >
        {(Object.keys(WORDS) as Told[]).map((t) => (
          <ButtonBase
            key={t}
            role="tab"
            aria-selected={t === told}
            onClick={() => tell(t)}
            sx={{
              fontSize: 11.5,
              justifyContent: 'flex-start',
              color: t === told ? 'text.primary' : 'text.secondary',
              fontWeight: t === told ? 650 : 400,
            }}
          >
            {WORDS[t]}
          </ButtonBase>
        ))}
      </Box>
      {told === 'band' ? <Bands /> : <Shares field={told} onShow={onShow} />}
    </Box>
  );
}

/** Groups of one field side by side, as wide as their share. */
function Shares({
  field,
  onShow,
}: {
  readonly field: 'storey' | 'kind';
  readonly onShow: (by: readonly GroupField[]) => void;
}) {
  const { project, summary, money } = useProjectState('project', 'summary', 'money');
  const view = useMemo(() => ({ by: [field] }), [field]);
  const { data } = usePlan(project.id, view);
  const groups = (data?.groups ?? []).filter((g) => g.minor > 0 || g.open > 0);
  const total = groups.reduce((sum, g) => sum + Math.max(0, g.minor), 0);
  const areaOf = (g: PlanGroup) => (field === 'storey' ? summary.building.storeys.find((s) => s.name === g.label)?.areaM2 : undefined); // biome-ignore format: one question
  return (
    <Box sx={{ flex: 1, minWidth: 0, display: 'flex', gap: '2px' }}>
      {groups.map((g) => {
        const area = areaOf(g);
        const perArea = area ? `${showFigure(g.minor / 10 ** money.minorDigits / area, 0)} per m²` : null;
        const share = total > 0 ? Math.max(0, g.minor) / total : 0;
        return (
          <ButtonBase
            key={g.id}
            onClick={() => onShow([field])}
            title={`${g.label}: ${showMinor(g.minor, money.minorDigits)}, ${(share * 100).toFixed(1)} %${perArea ? `, ${perArea}` : ''}${g.open > 0 ? `, ${g.open} not priced` : ''}`}
            sx={{
              flex: `${Math.max(share, 0.03)} 1 0`,
              minWidth: 0,
              display: 'block',
              textAlign: 'left',
              px: 0.75,
              pt: 0.25,
              borderTop: 4,
              borderColor: g.open > 0 ? 'tally.unpriced' : 'tally.priced',
              bgcolor: 'background.paper',
              overflow: 'hidden',
            }}
          >
            <Box sx={{ whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis' }}>{g.label}</Box>
            <Box
              sx={{
                fontFamily: FIGURES,
                fontSize: 12,
                color: 'text.secondary',
                whiteSpace: 'nowrap',
                overflow: 'hidden',
              }}
            >
              {(share * 100).toFixed(1)} %{perArea ? ` · ${perArea}` : ''}
            </Box>
          </ButtonBase>
        );
      })}
    </Box>
  );
}

/** What classes and codes cost per unit, each on the scale of its band. */
function Bands() {
  const { project } = useProjectState('project');
  const classification = useClassification();
  const { data } = useBands(project.id);
  const bands = data ?? [];
  const nameOf = (of: string) => {
    const found = classification.classes.find((c) => c.code === of);
    return found ? showClass(found) : of.replace(/^Ifc/, '');
  };
  if (data && bands.length === 0)
    return <Box sx={{ alignSelf: 'center', color: 'text.secondary' }}>The book has no usual prices for what is in this project. Give some in the book, under bands.</Box>; // biome-ignore format: one sentence
  return (
    <Box sx={{ flex: 1, minWidth: 0, display: 'flex', gap: 1.5, overflow: 'auto hidden' }}>
      {bands.map((held) => (
        <Band key={`${held.band.of} ${held.band.unit}`} held={held} name={nameOf(held.band.of)} />
      ))}
    </Box>
  );
}

const PLACE_WORDS: Readonly<Record<HeldBand['place'], string>> = {
  below: 'below',
  within: 'as usual',
  above: 'above',
  unknown: 'not known',
};

function Band({ held, name }: { readonly held: HeldBand; readonly name: string }) {
  const { band, price, place, open } = held;
  const [low, usual, high] = [band.low, band.usual, band.high].map(Number) as [number, number, number];
  // Half the band's width is shown on either side of it.
  const from = Math.max(0, low - (high - low) / 2);
  const to = high + (high - low) / 2 || high * 1.5;
  const at = (value: number) => `${Math.max(0, Math.min(100, ((value - from) / (to - from)) * 100))}%`;
  const isOut = place === 'below' || place === 'above';
  const unit = band.unit === 'm2 floor' ? 'm² floor' : showUnit(band.unit);
  return (
    <Box
      title={`${name}: ${price === null ? 'not known' : showSignificant(price)} per ${unit}; usual ${band.low} to ${band.high}, mostly ${band.usual}${open > 0 ? `; ${open} of its elements are not fully priced` : ''}`}
      sx={{ minWidth: 128, flex: '1 0 128px', maxWidth: 220 }}
    >
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, whiteSpace: 'nowrap' }}>
        <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>{name}</Box>
        <Box sx={{ fontFamily: FIGURES, fontSize: 12, color: isOut ? 'error.main' : undefined }}>
          {price === null ? '–' : price < 10 ? showSignificant(price) : showFigure(price, 0)}
        </Box>
      </Box>
      <Box sx={{ position: 'relative', height: 10, my: '2px' }}>
        <Box sx={{ position: 'absolute', top: 4, left: 0, right: 0, height: 2, bgcolor: 'divider' }} />
        <Box
          sx={{
            position: 'absolute',
            top: 3,
            height: 4,
            left: at(low),
            right: `calc(100% - ${at(high)})`,
            bgcolor: 'tally.priced',
          }}
        />
        <Box
          sx={{ position: 'absolute', top: 1, height: 8, width: '1px', left: at(usual), bgcolor: 'text.secondary' }}
        />
        {price !== null && (
          <Box
            sx={{
              position: 'absolute',
              top: 0,
              height: 10,
              width: 4,
              ml: '-2px',
              left: at(price),
              bgcolor: isOut ? 'error.main' : 'primary.main',
            }}
          />
        )}
      </Box>
      <Box
        sx={{
          fontSize: 11.5,
          color: isOut ? 'error.main' : 'text.secondary',
          whiteSpace: 'nowrap',
          overflow: 'hidden',
          textOverflow: 'ellipsis',
        }}
      >
        {PLACE_WORDS[place]}, per {unit}
        {open > 0 ? `, ${open} open` : ''}
      </Box>
    </Box>
  );
}

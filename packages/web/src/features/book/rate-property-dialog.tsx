import { Autocomplete, Box, Dialog, DialogContent, DialogTitle, TextField } from '@mui/material';
import { type CostItem, type EntryDiff, UNIT_SYMBOLS } from '@tally/core';
import { useState } from 'react';
import { changeRate } from '../../store/change-rate.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useFromTables, useRateNames } from '../../store/use-elements.ts';
import { usePreview } from '../../store/use-preview.ts';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { readFigure, showFigure } from '../../ui/format.ts';
import { Effect } from './effect.tsx';
import { listPriceProperties, type PriceProperty, writePropertyRate } from './rate-property.ts';

const describe = ({ figures, others, least, most }: PriceProperty): string =>
  `${figures} elements, ${showFigure(least, 2)} to ${showFigure(most, 2)}${others > 0 ? `; ${others} with no figure` : ''}`;

/** Lets the rate of an item come from a property of the elements: which one, and once for all what its figure is in. */
export function RatePropertyDialog({ item, onClose }: { readonly item: CostItem; readonly onClose: () => void }) {
  const { project } = useProjectState('project');
  const basis = useBasis('settings');
  const names = useRateNames();
  const change = useCommit(project.id);
  const properties = useFromTables(listPriceProperties);
  const [property, setProperty] = useState<PriceProperty | null>(null);
  const [currency, setCurrency] = useState(item.currency ?? basis.settings.currency);
  const [per, setPer] = useState(item.unit);
  const [otherwise, setOtherwise] = useState('');
  const figure = readFigure(otherwise);
  const isWrong = otherwise.trim() !== '' && (figure === null || figure < 0);
  const currencies = [basis.settings.currency, ...(basis.settings.exchange ?? []).map((e) => e.currency)];
  const formula =
    property && !isWrong
      ? writePropertyRate({
          property: property.name,
          currency,
          per,
          otherwise: figure === null ? null : String(figure),
        })
      : null;
  const foreign = currency === basis.settings.currency ? undefined : currency;
  const made =
    formula === null ? null : changeRate({ ...item, currency: foreign }, formula, names, basis.settings.currency);
  const problem = typeof made === 'string' ? made : null;
  const kept = made !== null && typeof made !== 'string' ? { ...made, diff: fromItem(made.diff, item) } : null;
  const move = usePreview(project.id, kept?.diff ?? null);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Rate of {item.code} from a property</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, pt: '8px !important' }}>
        <Autocomplete
          options={properties}
          value={property}
          getOptionKey={(p) => p.name}
          getOptionLabel={(p) => p.name}
          isOptionEqualToValue={(a, b) => a.name === b.name}
          noOptionsText="No property of the models has figures."
          onChange={(_, next) => setProperty(next)}
          renderOption={({ key, ...props }, p) => (
            <Box component="li" key={key} {...props} sx={{ display: 'block !important', fontSize: 13 }}>
              {p.name}
              <Box sx={{ color: 'text.secondary' }}>{describe(p)}</Box>
            </Box>
          )}
          renderInput={(p) => (
            <TextField {...p} autoFocus label="Property" helperText={property ? describe(property) : ' '} />
          )}
          sx={{ gridColumn: '1 / -1' }}
        />
        <Autocomplete
          disableClearable
          options={[...new Set(currencies)]}
          value={currency}
          onChange={(_, next) => setCurrency(next)}
          renderInput={(p) => <TextField {...p} label="Its figure is in" />}
        />
        <Autocomplete
          disableClearable
          options={UNIT_SYMBOLS}
          value={per}
          onChange={(_, next) => setPer(next)}
          renderInput={(p) => <TextField {...p} label="For each" />}
        />
        <TextField
          label="Where an element has none"
          placeholder="stays unknown"
          value={otherwise}
          error={isWrong}
          helperText={isWrong ? 'A rate is a figure such as 12.50.' : ' '}
          slotProps={{ inputLabel: { shrink: true } }}
          onChange={(e) => setOtherwise(e.target.value)}
        />
        <Box role="status" aria-label="Effect" sx={{ fontSize: 13, pt: 1 }}>
          {kept ? <Effect move={move} /> : ''}
        </Box>
        <Box sx={{ gridColumn: '1 / -1', minHeight: 20, fontSize: 13 }}>
          {problem ? (
            <Box sx={{ color: 'error.main' }}>{problem}</Box>
          ) : (
            <Box sx={{ fontFamily: FIGURES }}>{formula}</Box>
          )}
        </Box>
      </DialogContent>
      <DialogFoot
        label="Take the rate from it"
        isOff={!kept || change.isPending}
        onAct={() => kept && change.mutate(kept, { onSuccess: onClose })}
        onCancel={onClose}
      />
    </Dialog>
  );
}

/** The change of a rate as one of the item as it is kept: a currency tried out before is no state it had. */
function fromItem(diff: Partial<EntryDiff>, item: CostItem): Partial<EntryDiff> {
  return { ...diff, updated: diff.updated?.map((u) => ({ ...u, from: item })) };
}

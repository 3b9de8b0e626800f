import { zodResolver } from '@hookform/resolvers/zod';
import { Autocomplete, Box, DialogContent, DialogTitle, TextField } from '@mui/material';
import { type CostItem, type EntryDiff, UNIT_SYMBOLS } from '@tally/core';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { z } from 'zod';
import { changeRate } from '../../store/change-rate.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useFromTables, useRateNames } from '../../store/use-elements.ts';
import { usePreview } from '../../store/use-preview.ts';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { figureText } from '../../ui/figure-text.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { FormDialog } from '../../ui/form-dialog.tsx';
import { FormText } from '../../ui/form-text.tsx';
import { showFigure } from '../../ui/format.ts';
import { Effect } from './effect.tsx';
import { listPriceProperties, type PriceProperty, writePropertyRate } from './rate-property.ts';

const describe = ({ figures, others, least, most }: PriceProperty): string =>
  `${figures} elements, ${showFigure(least, 2)} to ${showFigure(most, 2)}${others > 0 ? `; ${others} with no figure` : ''}`;

/** Which property the rate is read from, what its figure is in, and the rate of elements that have none. */
const schema = z.object({
  property: z.string().min(1),
  currency: z.string(),
  per: z.string(),
  otherwise: figureText('rate', (rate) => rate >= 0),
});

/** Lets the rate of an item come from a property of the elements: which one, and once for all what its figure is in. */
export function RatePropertyDialog({ item, onClose }: { readonly item: CostItem; readonly onClose: () => void }) {
  const { project } = useProjectState('project');
  const basis = useBasis('settings');
  const names = useRateNames();
  const change = useCommit(project.id);
  const properties = useFromTables(listPriceProperties);
  const { control, handleSubmit } = useForm({
    defaultValues: { property: '', currency: item.currency ?? basis.settings.currency, per: item.unit, otherwise: '' },
    resolver: zodResolver(schema),
    mode: 'onChange',
  });
  const typed = useWatch({ control });
  const read = schema.safeParse(typed);
  const property = properties.find((p) => p.name === typed.property) ?? null;
  const currencies = [basis.settings.currency, ...(basis.settings.exchange ?? []).map((e) => e.currency)];
  const formula = property && read.success ? writePropertyRate(read.data) : null;
  const foreign = typed.currency === basis.settings.currency ? undefined : typed.currency;
  const made =
    formula === null ? null : changeRate({ ...item, currency: foreign }, formula, names, basis.settings.currency);
  const problem = typeof made === 'string' ? made : null;
  const kept = made !== null && typeof made !== 'string' ? { ...made, diff: fromItem(made.diff, item) } : null;
  const move = usePreview(project.id, kept?.diff ?? null);
  return (
    <FormDialog onClose={onClose} maxWidth="sm">
      <DialogTitle>Rate of {item.code} from a property</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, pt: '8px !important' }}>
        <Controller
          control={control}
          name="property"
          render={({ field }) => (
            <Autocomplete
              options={properties}
              value={property}
              getOptionKey={(p) => p.name}
              getOptionLabel={(p) => p.name}
              isOptionEqualToValue={(a, b) => a.name === b.name}
              noOptionsText="No property of the models has figures."
              onChange={(_, next) => field.onChange(next?.name ?? '')}
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
          )}
        />
        {(
          [
            ['currency', 'Its figure is in', [...new Set(currencies)]],
            ['per', 'For each', UNIT_SYMBOLS],
          ] as const
        ).map(([name, label, options]) => (
          <Controller
            key={name}
            control={control}
            name={name}
            render={({ field }) => (
              <Autocomplete
                disableClearable
                options={options}
                value={field.value}
                onChange={(_, next) => field.onChange(next)}
                renderInput={(p) => <TextField {...p} label={label} />}
              />
            )}
          />
        ))}
        <FormText
          control={control}
          name="otherwise"
          label="Where an element has none"
          placeholder="stays unknown"
          helperText=" "
          slotProps={{ inputLabel: { shrink: true } }}
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
        onAct={() => void handleSubmit(() => kept && change.mutate(kept, { onSuccess: onClose }))()}
        onCancel={onClose}
      />
    </FormDialog>
  );
}

/** The change of a rate as one of the item as it is kept: a currency tried out before is no state it had. */
function fromItem(diff: Partial<EntryDiff>, item: CostItem): Partial<EntryDiff> {
  return { ...diff, updated: diff.updated?.map((u) => ({ ...u, from: item })) };
}

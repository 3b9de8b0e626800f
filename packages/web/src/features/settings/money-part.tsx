import { zodResolver } from '@hookform/resolvers/zod';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, IconButton, MenuItem } from '@mui/material';
import { ITEM_KINDS, type PriceFactor, toFactor } from '@tally/core';
import { useEffect, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { useProjectState } from '../../store/project-store.tsx';
import { usePreview } from '../../store/use-preview.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { FormText } from '../../ui/form-text.tsx';
import { editFigure, showDecimal, showEffect, showFigure } from '../../ui/format.ts';
import { useOneAtATime } from '../../ui/use-one-at-a-time.ts';
import {
  ALL_KINDS,
  EMPTY_FACTOR,
  type ExchangeForm,
  exchangeFormSchema,
  type FactorForm,
  factorFormSchema,
} from './money-form.ts';
import { Part, type Settings, useSettings } from './settings-part.tsx';

const kindsOf = ({ kinds }: PriceFactor) => kinds?.join(', ') ?? 'all kinds of cost';

function describeFactor(factor: PriceFactor): string {
  return 'percent' in factor
    ? `${factor.percent > 0 ? '+' : ''}${editFigure(factor.percent)} % on ${kindsOf(factor)}`
    : `${editFigure(factor.percentPerYear)} % a year from ${factor.from} to ${factor.to} on ${kindsOf(factor)}`;
}

/** What rates are multiplied by, and what other currencies are worth: the steps from the book to what is paid. */
export function MoneyPart() {
  const [settings, setSettings] = useSettings();
  const [draft, setDraft] = useState<'factor' | 'exchange' | null>(null);
  const factors = settings.factors ?? [];
  const exchange = settings.exchange ?? [];
  // What is refused stays as it was typed.
  const keep = useOneAtATime(async (next: Settings, cause: string) => {
    if ((await setSettings(next, cause)) === null) setDraft(null);
  });
  return (
    <Part
      title="Prices of this project"
      note="Factors take the rates of the book to this place and date, one after the other, by kind of cost. What is bought in another currency is brought over at a dated rate."
    >
      {factors.map((f, i) => (
        <Row
          key={`${f.name}/${i}`}
          name={f.name}
          words={describeFactor(f)}
          figure={`× ${showFigure(toFactor(f), 4)}`}
          onRemove={() =>
            keep({ ...settings, factors: factors.filter((_, n) => n !== i) }, `Factor removed: ${f.name}`)
          }
        />
      ))}
      {exchange.map((e) => (
        <Row
          key={e.currency}
          name={e.currency}
          words={`of ${e.date}`}
          figure={`${showDecimal(e.rate)} ${settings.currency}`}
          onRemove={() =>
            keep(
              { ...settings, exchange: exchange.filter((x) => x.currency !== e.currency) },
              `Exchange of ${e.currency} removed`,
            )
          }
        />
      ))}
      {draft === 'factor' && <FactorFields settings={settings} onClose={() => setDraft(null)} onKeep={keep} />}
      {draft === 'exchange' && <ExchangeFields settings={settings} onClose={() => setDraft(null)} onKeep={keep} />}
      {draft === null && (
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button onClick={() => setDraft('factor')}>Add a factor</Button>
          <Button onClick={() => setDraft('exchange')}>Add a currency</Button>
        </Box>
      )}
    </Part>
  );
}

function Row({
  name,
  words,
  figure,
  onRemove,
}: {
  readonly name: string;
  readonly words: string;
  readonly figure: string;
  readonly onRemove: () => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, fontSize: 13 }}>
      <Box sx={{ fontWeight: 600, minWidth: 140 }}>{name}</Box>
      <Box sx={{ flex: 1, color: 'text.secondary' }}>{words}</Box>
      <Box sx={{ fontFamily: FIGURES }}>{figure}</Box>
      <IconButton aria-label={`Take ${name} out`} onClick={onRemove}>
        <DeleteOutlineIcon fontSize="small" />
      </IconButton>
    </Box>
  );
}

/** A form for what is added to the settings. */
interface FormProps {
  readonly settings: Settings;
  readonly onKeep: (next: Settings, cause: string) => void;
  readonly onClose: () => void;
}

/** What a form would do to the total, and the ways to keep or leave it; `to` is null while it cannot be kept. */
function FormFoot({
  label,
  from,
  to,
  onKeep,
  onClose,
}: {
  readonly label: string;
  readonly from: Settings;
  readonly to: Settings | null;
  readonly onKeep: () => void;
  readonly onClose: () => void;
}) {
  const { project, summary } = useProjectState('project', 'summary');
  const move = usePreview(project.id, to && { updated: [{ kind: 'settings', id: 'project', from, to }] });
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
      <Box role="status" aria-label="Effect" sx={{ flex: 1, fontSize: 13, fontFamily: FIGURES }}>
        {to && move ? showEffect(summary.total, move, summary.minorDigits) : ''}
      </Box>
      <Button color="inherit" onClick={onClose}>
        Cancel
      </Button>
      <Button variant="contained" disabled={to === null} onClick={onKeep}>
        Keep the {label}
      </Button>
    </Box>
  );
}

function FactorFields({ settings, onKeep, onClose }: FormProps) {
  const { control, handleSubmit, trigger } = useForm<FactorForm, unknown, PriceFactor>({
    defaultValues: EMPTY_FACTOR,
    resolver: zodResolver(factorFormSchema) as never,
    mode: 'onChange',
  });
  const typed = useWatch({ control }) as FactorForm;
  const read = factorFormSchema.safeParse(typed);
  const withFactor = (factor: PriceFactor): Settings => ({
    ...settings,
    factors: [...(settings.factors ?? []), factor],
  });
  const isYearly = typed.holds === 'yearly';
  // How far a per cent may go depends on how it holds.
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at again when it holds otherwise
  useEffect(() => void trigger('percent'), [trigger, isYearly]);
  return (
    <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 120px 150px 170px', gap: 1, alignItems: 'start' }}>
        <FormText control={control} name="name" label="Name of the factor" autoFocus />
        <FormText control={control} name="percent" label={isYearly ? '% a year' : 'Per cent'} />
        <FormText control={control} name="kind" label="On" select>
          <MenuItem value={ALL_KINDS}>all kinds of cost</MenuItem>
          {ITEM_KINDS.map((k) => (
            <MenuItem key={k} value={k}>
              {k}
            </MenuItem>
          ))}
        </FormText>
        <FormText control={control} name="holds" label="Holds" select>
          <MenuItem value="plain">as it is</MenuItem>
          <MenuItem value="yearly">by the year</MenuItem>
        </FormText>
      </Box>
      {isYearly && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '180px 180px', gap: 1, alignItems: 'start' }}>
          <FormText control={control} name="from" label="Prices are of" {...DATE} />
          <FormText control={control} name="to" label="Work is done by" {...DATE} />
        </Box>
      )}
      <FormFoot
        label="factor"
        from={settings}
        to={read.success ? withFactor(read.data) : null}
        onKeep={() => void handleSubmit((factor) => onKeep(withFactor(factor), `Factor added: ${factor.name}`))()}
        onClose={onClose}
      />
    </Box>
  );
}

function ExchangeFields({ settings, onKeep, onClose }: FormProps) {
  const schema = exchangeFormSchema(settings);
  const { control, handleSubmit } = useForm<ExchangeForm, unknown, Settings>({
    defaultValues: { currency: '', rate: '', date: '' },
    resolver: zodResolver(schema) as never,
    mode: 'onChange',
  });
  const read = schema.safeParse(useWatch({ control }));
  const keep = (next: Settings) => {
    const { currency, rate } = next.exchange!.at(-1)!;
    onKeep(next, `Exchange of ${currency}: ${rate} ${settings.currency}`);
  };
  return (
    <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '180px 180px 180px', gap: 1, alignItems: 'start' }}>
        <FormText control={control} name="currency" label="Currency" autoFocus />
        <FormText control={control} name="rate" label={`One is, in ${settings.currency}`} />
        <FormText control={control} name="date" label="Of" {...DATE} />
      </Box>
      <FormFoot
        label="rate"
        from={settings}
        to={read.success ? read.data : null}
        onKeep={() => void handleSubmit(keep)()}
        onClose={onClose}
      />
    </Box>
  );
}

const DATE = { type: 'date', slotProps: { inputLabel: { shrink: true } } } as const;

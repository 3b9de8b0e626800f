import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, IconButton, MenuItem, TextField } from '@mui/material';
import { ITEM_KINDS, type ItemKind, type PriceFactor, settingsSchema, toFactor } from '@tally/core';
import { useState } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { usePreview } from '../../store/use-preview.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { readFigure, showEffect, showFigure } from '../../ui/format.ts';
import { Part, type Settings, useSettings } from './settings-part.tsx';

const kindsOf = ({ kinds }: PriceFactor) => kinds?.join(', ') ?? 'all kinds of cost';

function describeFactor(factor: PriceFactor): string {
  return 'percent' in factor
    ? `${factor.percent > 0 ? '+' : ''}${factor.percent} % on ${kindsOf(factor)}`
    : `${factor.percentPerYear} % a year from ${factor.from} to ${factor.to} on ${kindsOf(factor)}`;
}

/** What rates are multiplied by, and what other currencies are worth: the steps from the book to what is paid. */
export function MoneyPart() {
  const [settings, setSettings] = useSettings();
  const [draft, setDraft] = useState<'factor' | 'exchange' | null>(null);
  const factors = settings.factors ?? [];
  const exchange = settings.exchange ?? [];
  const keep = (next: Settings, cause: string) => {
    setSettings(next, cause);
    setDraft(null);
  };
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
          figure={`${e.rate} ${settings.currency}`}
          onRemove={() =>
            keep(
              { ...settings, exchange: exchange.filter((x) => x.currency !== e.currency) },
              `Exchange of ${e.currency} removed`,
            )
          }
        />
      ))}
      {draft === 'factor' && <FactorForm settings={settings} onClose={() => setDraft(null)} onKeep={keep} />}
      {draft === 'exchange' && <ExchangeForm settings={settings} onClose={() => setDraft(null)} onKeep={keep} />}
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

const ALL = 'all';

function FactorForm({ settings, onKeep, onClose }: FormProps) {
  const [name, setName] = useState('');
  const [percent, setPercent] = useState('');
  const [kind, setKind] = useState<ItemKind | typeof ALL>(ALL);
  const [isYearly, setYearly] = useState(false);
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const figure = readFigure(percent.replace(/^\+/, '').replace(/ ?%$/, ''));
  const head = { name: name.trim(), ...(kind === ALL ? {} : { kinds: [kind] }) };
  const factor: PriceFactor | null =
    figure === null ? null : isYearly ? { ...head, percentPerYear: figure, from, to } : { ...head, percent: figure };
  const next = factor && { ...settings, factors: [...(settings.factors ?? []), factor] };
  const isReady = next !== null && settingsSchema.safeParse(next).success;
  return (
    <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 120px 150px 170px', gap: 1 }}>
        <TextField label="Name of the factor" value={name} autoFocus onChange={(e) => setName(e.target.value)} />
        <TextField
          label={isYearly ? '% a year' : 'Per cent'}
          value={percent}
          error={percent.trim() !== '' && figure === null}
          onChange={(e) => setPercent(e.target.value)}
        />
        <TextField select label="On" value={kind} onChange={(e) => setKind(e.target.value as ItemKind)}>
          <MenuItem value={ALL}>all kinds of cost</MenuItem>
          {ITEM_KINDS.map((k) => (
            <MenuItem key={k} value={k}>
              {k}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Holds"
          value={isYearly ? 'yearly' : 'plain'}
          onChange={(e) => setYearly(e.target.value === 'yearly')}
        >
          <MenuItem value="plain">as it is</MenuItem>
          <MenuItem value="yearly">by the year, to a date</MenuItem>
        </TextField>
      </Box>
      {isYearly && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '180px 180px', gap: 1 }}>
          <DateField label="Prices are of" value={from} onChange={setFrom} />
          <DateField label="Work is done by" value={to} onChange={setTo} />
        </Box>
      )}
      <FormFoot
        label="factor"
        from={settings}
        to={isReady ? next : null}
        onKeep={() => onKeep(next!, `Factor added: ${head.name}`)}
        onClose={onClose}
      />
    </Box>
  );
}

function ExchangeForm({ settings, onKeep, onClose }: FormProps) {
  const [currency, setCurrency] = useState('');
  const [rate, setRate] = useState('');
  const [date, setDate] = useState('');
  const figure = readFigure(rate);
  const made = { currency: currency.trim().toUpperCase(), rate: String(figure ?? ''), date };
  const next = {
    ...settings,
    exchange: [...(settings.exchange ?? []).filter((e) => e.currency !== made.currency), made],
  };
  const isOwn = made.currency === settings.currency;
  const isReady = figure !== null && !isOwn && settingsSchema.safeParse(next).success;
  return (
    <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '140px 180px 180px', gap: 1 }}>
        <TextField
          label="Currency"
          value={currency}
          autoFocus
          error={isOwn}
          helperText={isOwn ? 'That is the one of the project.' : undefined}
          onChange={(e) => setCurrency(e.target.value)}
        />
        <TextField
          label={`One is, in ${settings.currency}`}
          value={rate}
          error={rate.trim() !== '' && !(figure! > 0)}
          onChange={(e) => setRate(e.target.value)}
        />
        <DateField label="Of" value={date} onChange={setDate} />
      </Box>
      <FormFoot
        label="rate"
        from={settings}
        to={isReady ? next : null}
        onKeep={() => onKeep(next, `Exchange of ${made.currency}: ${made.rate} ${settings.currency}`)}
        onClose={onClose}
      />
    </Box>
  );
}

function DateField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
}) {
  return (
    <TextField
      type="date"
      label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}

import { Autocomplete, Box, Checkbox, FormControlLabel, MenuItem, TextField } from '@mui/material';
import { nameQuantity, type QuantityChoice } from '@tally/core';
import { useMemo, useState } from 'react';
import { useElements } from '../../store/use-elements.ts';
import { editFigure, readFigure, showFigure, showSignificant } from '../../ui/format.ts';
import { useOneAtATime } from '../../ui/use-one-at-a-time.ts';
import { ChoiceField } from './choice-field.tsx';
import { CHOICE_WORDS } from './choice-words.ts';
import { FunctionalUnitsPart } from './functional-units-part.tsx';
import { LimitsPart } from './limits-part.tsx';
import { MaterialsPart } from './materials-part.tsx';
import { MoneyPart } from './money-part.tsx';
import { NamedScopesPart } from './named-scopes-part.tsx';
import { OverrideList } from './override-list.tsx';
import { Part, type Settings, useSettings } from './settings-part.tsx';
import { StoreysPart } from './storeys-part.tsx';
import { ZonesPart } from './zones-part.tsx';

/** How the project counts and shows: units, which figure is used, materials with their densities. */
export function SettingsPage() {
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        overflow: 'auto',
        p: 2,
        display: 'grid',
        gridTemplateColumns: 'minmax(280px, 1fr) minmax(420px, 2fr)',
        gap: 2,
        alignItems: 'start',
      }}
    >
      <Box sx={{ display: 'grid', gap: 2 }}>
        <Units />
        <Tolerances />
        <Choices />
        <StoreysPart />
        <EarlierProjects />
      </Box>
      <Box sx={{ display: 'grid', gap: 2 }}>
        <NamedScopesPart />
        <FunctionalUnitsPart />
        <MoneyPart />
        <LimitsPart />
        <ZonesPart />
        <MaterialsPart />
      </Box>
    </Box>
  );
}

function EarlierProjects() {
  const [settings, save] = useSettings();
  return (
    <Part
      title="Other projects"
      note="What is decided here is suggested to later projects for elements of the same type, material or class."
    >
      <FormControlLabel
        control={
          <Checkbox
            checked={settings.keptOut === true}
            onChange={(_, keptOut) => {
              const { keptOut: _before, ...rest } = settings;
              void save(
                keptOut ? { ...rest, keptOut } : rest,
                keptOut ? 'Decisions kept from other projects' : 'Decisions suggested to other projects',
              );
            }}
          />
        }
        label="Keep the decisions of this project to itself"
      />
    </Part>
  );
}

const UNIT_WORDS = { metric: 'Metric', imperial: 'Feet and inches', both: 'Both' } as const;

function Units() {
  const [settings, save] = useSettings();
  return (
    <Part title="Units" note="How quantities are shown. Everything is kept in SI.">
      <TextField
        select
        label="Shown in"
        value={settings.units}
        onChange={(e) => {
          const units = e.target.value as Settings['units'];
          void save({ ...settings, units }, `Units: ${UNIT_WORDS[units]}`);
        }}
      >
        {Object.entries(UNIT_WORDS).map(([value, words]) => (
          <MenuItem key={value} value={value}>
            {words}
          </MenuItem>
        ))}
      </TextField>
    </Part>
  );
}

/** A threshold of the checks: what it is called, what it usually is, and how it is written. */
interface Threshold {
  readonly field: 'statedTolerance' | 'overlapShare' | 'belowStoreyM';
  readonly label: string;
  readonly usual: number;
  readonly least: number;
  readonly most: number;
  /** Of what is kept, in the unit that is shown. */
  readonly factor: number;
  readonly cause: (shown: number) => string;
}
const THRESHOLDS: readonly Threshold[] = [
  { field: 'statedTolerance', label: 'Stated against measured, %', usual: 1, least: 0.01, most: 100, factor: 100, cause: (v) => `Stated may differ by ${v} %` },
  { field: 'overlapShare', label: 'Bodies may share, % of the smaller', usual: 20, least: 2, most: 100, factor: 100, cause: (v) => `Bodies may share ${v} %` },
  { field: 'belowStoreyM', label: 'May hang below its storey, m', usual: 1, least: 0, most: 50, factor: 1, cause: (v) => `Elements may hang ${v} m below their storey` },
]; // biome-ignore format: one threshold a line

function Tolerances() {
  return (
    <Part title="Tolerances" note="By how much things may differ without a finding.">
      {THRESHOLDS.map((t) => (
        <ThresholdField key={t.field} threshold={t} />
      ))}
    </Part>
  );
}

function ThresholdField({ threshold }: { readonly threshold: Threshold }) {
  const { field, label, usual, least, most, factor, cause } = threshold;
  const [settings, save] = useSettings();
  const kept = settings[field];
  const shown = kept === undefined ? usual : Number((kept * factor).toPrecision(6));
  const [text, setText] = useState<string | null>(null);
  const figure = readFigure(text ?? editFigure(shown));
  const isWrong = figure === null || figure < least || figure > most;
  const keep = useOneAtATime(async () => {
    // A figure that is refused stays as it was typed.
    if (text === null || isWrong) return;
    const to = { ...settings, [field]: Number((figure / factor).toPrecision(6)) };
    if (figure === shown || (await save(to, cause(figure))) === null) setText(null);
  });
  return (
    <TextField
      label={label}
      value={text ?? (Number.isInteger(shown) ? showFigure(shown, 0) : showSignificant(shown, 6))}
      error={isWrong}
      helperText={isWrong ? `A figure from ${least} to ${most}.` : undefined}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => e.key === 'Enter' && keep()}
    />
  );
}

function Choices() {
  const [settings, save] = useSettings();
  const { named } = useElements();
  const names = useMemo(() => [...new Set(named.map((n) => n.name))].sort(), [named]);
  const [name, setName] = useState<string | null>(null);
  const choices = settings.quantityChoices ?? {};
  const set = (quantity: string, choice: QuantityChoice) => {
    const { [quantity]: _, ...rest } = choices;
    void save(
      { ...settings, quantityChoices: choice === 'best' ? rest : { ...rest, [quantity]: choice } },
      `${nameQuantity(quantity).word}: ${CHOICE_WORDS[choice].toLowerCase()}`,
    );
  };
  const listed = [...new Set([...Object.keys(choices), ...(name ? [name] : [])])];
  return (
    <Part
      title="Which figure is used"
      note="The measured figure where it is exact, else the stated one, else that of the mesh. Say otherwise by name."
    >
      {listed.map((quantity) => (
        <ChoiceField
          key={quantity}
          label={nameQuantity(quantity).word}
          value={choices[quantity] ?? 'best'}
          onChoose={(choice) => set(quantity, choice)}
        />
      ))}
      <Autocomplete
        options={names}
        getOptionLabel={(n) => nameQuantity(n).word}
        getOptionKey={(n) => n}
        value={null}
        blurOnSelect
        onChange={(_, chosen) => setName(chosen)}
        renderInput={(p) => <TextField {...p} label="Another quantity" />}
      />
      <OverrideList names={names} />
    </Part>
  );
}

import { Autocomplete, Box, TextField } from '@mui/material';
import {
  compileScales,
  compileValues,
  FormulaNames,
  findValueUses,
  type NamedValue,
  namedValueSchema,
  parseUnit,
  UNIT_SYMBOLS,
  valueToFormula,
  writeName,
} from '@tally/core';
import { useMemo, useState } from 'react';
import { useBasis } from '../../store/project-store.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showUnit } from '../../ui/format.ts';
import { describeProblem, FormulaText } from '../../ui/formula-field.tsx';
import { OtherChange } from '../../ui/other-change.tsx';
import { SHEET_SX } from './book-list.tsx';
import { DraftHead } from './draft-head.tsx';
import { NamedPane } from './named-pane.tsx';
import { useBook } from './use-book.ts';
import { findNameProblem, useDraft } from './use-draft.ts';

const FIELD_WORDS = { unit: 'Unit', value: 'Value', note: 'Comment' } as const;
const figure = (value: number) => String(Number(value.toPrecision(8)));

/** Figures and prices with a name: the list with what each works out to, and the chosen one with its effect before it is kept. */
export function ValuesPane(props: { readonly name: string; readonly onChoose: (name: string | null) => void }) {
  const basis = useBasis('scales', 'values');
  const worked = useMemo(() => compileValues(basis.values, compileScales(basis.scales)), [basis.values, basis.scales]);
  return (
    <NamedPane
      {...props}
      label="Named values"
      kind="value"
      addLabel="New value"
      hint="A named value is a figure or price written once and used in many formulas: a crane’s day rate, a spacing."
      list={basis.values}
      describe={(value, at) => ({
        note: describeValue(value, worked[at]?.value),
        isFaulty: worked[at]?.problem !== undefined,
      })}
      sheet={(value, onKept) => <ValueSheet value={value} onKept={onKept} />}
    />
  );
}

/** A value as it is worked out, in its own unit. */
function describeValue({ unit }: NamedValue, value: number | undefined): string {
  const read = parseUnit(unit);
  if (value === undefined || !read.ok) return 'Cannot be worked out';
  return `${figure(value / read.value.factor)} ${unit === 'number' ? '' : showUnit(unit)}`.trim();
}

function ValueSheet({
  value,
  onKept,
}: {
  /** Null for a new one. */
  readonly value: NamedValue | null;
  readonly onKept: (name: string | null) => void;
}) {
  const basis = useBasis('scales', 'settings', 'values');
  const book = useBook();
  const start: NamedValue = value ?? { name: '', unit: `${basis.settings.currency}/m2`, value: '' };
  const [draft, setDraft] = useState(start);
  const others = basis.values.filter((v) => v.name !== value?.name);
  const scales = useMemo(() => compileScales(basis.scales), [basis.scales]);
  const worked = compileValues([...others, draft], scales).at(-1)!;
  const checked = namedValueSchema.safeParse(draft);
  const hasValue = draft.value.trim() !== '';
  const uses = value ? findValueUses(value.name, book) : [];
  const problem =
    findNameProblem('value', value?.name, draft.name, basis.values, uses) ??
    (!hasValue
      ? 'Give it a figure.'
      : worked.problem
        ? describeProblem(worked.problem, valueToFormula(draft))
        : checked.success
          ? null
          : checked.error.issues[0]!.message);
  const actions = useDraft('value', 'Value', value, draft, problem === null, setDraft, onKept);
  return (
    <Box component="section" aria-label="Named value" sx={SHEET_SX}>
      <DraftHead
        label="value"
        draft={actions}
        problem={actions.isChanged ? problem : null}
        uses={uses}
        entry={value && { kind: 'value', id: value.name, body: value }}
        onDiscard={() => (value ? setDraft(value) : onKept(null))}
      />
      <OtherChange other={actions.other} words={FIELD_WORDS} show={(_, text) => String(text ?? 'nothing')} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 140px', gap: 1.5 }}>
        <TextField
          label="Name"
          value={draft.name}
          autoFocus={value === null}
          helperText={draft.name.trim() === '' ? ' ' : `In formulas: ${writeName(draft.name.trim())}`}
          onChange={(e) => setDraft({ ...draft, name: e.target.value })}
          onBlur={() => setDraft({ ...draft, name: draft.name.trim() })}
        />
        <Autocomplete
          freeSolo
          disableClearable
          options={[
            ...['m2', 'm3', 'm', 'each', 'h', 'day', 'kg', 't'].map((u) => `${basis.settings.currency}/${u}`),
            'number',
            ...UNIT_SYMBOLS,
          ]}
          inputValue={draft.unit}
          onInputChange={(_, unit) => setDraft({ ...draft, unit: unit.trim() })}
          renderInput={(p) => <TextField {...p} label="Unit" />}
        />
      </Box>
      <FormulaText
        label="Value"
        value={draft.value}
        names={new FormulaNames(compileValues(others, scales), scales)}
        problem={hasValue && worked.problem ? describeProblem(worked.problem, valueToFormula(draft)) : null}
        note="A figure in the unit, or a formula of other named values."
        onChange={(text) => setDraft({ ...draft, value: text })}
      />
      <Box sx={{ fontSize: 13 }}>
        Works out to{' '}
        <Box component="span" sx={{ fontFamily: FIGURES, fontWeight: 600 }}>
          {describeValue(draft, worked.value)}
        </Box>
      </Box>
      <TextField
        label="Comment"
        value={draft.note ?? ''}
        onChange={(e) => setDraft({ ...draft, note: e.target.value || undefined })}
      />
    </Box>
  );
}

import {
  Autocomplete,
  Box,
  Dialog,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Radio,
  RadioGroup,
  TextField,
} from '@mui/material';
import { describeCondition, evaluateScope, type PricingRule, sayInWords } from '@tally/core';
import { useMemo, useState } from 'react';
import { useBasis } from '../../store/project-store.tsx';
import { useElements, useFormulaNames, useSample } from '../../store/use-elements.ts';
import { useOtherChange } from '../../store/use-other-change.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { checkFormula, FormulaField } from '../../ui/formula-field.tsx';
import { OtherChange } from '../../ui/other-change.tsx';
import { RuleParameters, useParameterCheck } from './rule-parameters.tsx';

type Rule = PricingRule;

const FIELD_WORDS: Readonly<Record<string, string>> = {
  name: 'Name',
  scope: 'What it catches',
  section: 'Work section',
  item: 'Cost item',
  assembly: 'Assembly',
  driver: 'Driver',
  parameters: 'Parameters',
  leaveOut: 'Reason to leave out',
  isOff: 'On or off',
};

function showField(field: string, value: unknown): string {
  if (value === undefined || value === null) return 'none';
  if (field === 'scope') return sayInWords(describeCondition(value as Rule['scope']));
  if (field === 'isOff') return value ? 'off' : 'on';
  return typeof value === 'string' ? value : JSON.stringify(value);
}

/** Edits one pricing rule; saving is possible only when it can work. */
export function RuleDialog({
  rule,
  now,
  isNew,
  onSave,
  onClose,
}: {
  /** The rule as it was opened. */
  readonly rule: Rule;
  /** The rule as the project has it by now; null if somebody has removed it. */
  readonly now: Rule | null;
  readonly isNew: boolean;
  /** Says why it was refused; null when it is done. */
  readonly onSave: (rule: Rule) => Promise<string | null>;
  readonly onClose: () => void;
}) {
  const basis = useBasis('assemblies', 'items', 'sections');
  const { tables } = useElements();
  const sample = useSample();
  const names = useFormulaNames();
  const [draft, setDraft] = useState<Rule>(rule);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [isSaving, setSaving] = useState(false);
  const other = useOtherChange(rule, now, draft, setDraft);
  const caught = useMemo(
    () => tables.reduce((n, t) => n + evaluateScope(draft.scope, t).reduce((a, b) => a + b, 0), 0),
    [tables, draft.scope],
  );
  const kind = draft.leaveOut !== undefined ? 'leaveOut' : draft.item !== undefined ? 'item' : 'assembly';
  const unit =
    kind === 'item'
      ? basis.items.find((i) => i.code === draft.item)?.unit
      : basis.assemblies.find((a) => a.code === draft.assembly)?.unit;
  const assembly = kind === 'assembly' ? basis.assemblies.find((a) => a.code === draft.assembly) : undefined;
  const check = useParameterCheck(assembly, names);
  const isReady =
    draft.name.trim() !== '' &&
    (kind === 'leaveOut'
      ? draft.leaveOut!.trim() !== ''
      : draft.section !== undefined &&
        unit !== undefined &&
        checkFormula(draft.driver ?? '', unit, names) === null &&
        Object.entries(draft.parameters ?? {}).every(([name, value]) => check(name, value) === null));
  const setKind = (next: string) =>
    setDraft({
      ...draft,
      item: next === 'item' ? (rule.item ?? '') : undefined,
      assembly: next === 'assembly' ? (rule.assembly ?? '') : undefined,
      leaveOut: next === 'leaveOut' ? (rule.leaveOut ?? '') : undefined,
    });
  const save = () => {
    // Parameters of another assembly, and those left empty, are not kept.
    const own = Object.entries(draft.parameters ?? {}).filter(
      ([n, value]) => value.trim() !== '' && assembly?.parameters?.some((p) => p.name === n),
    );
    const parameters = own.length > 0 ? Object.fromEntries(own) : undefined;
    setSaving(true);
    void onSave(JSON.parse(JSON.stringify({ ...draft, parameters })) as Rule)
      .then(setRefusal)
      .finally(() => setSaving(false));
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>{isNew ? 'New rule' : 'Rule'}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
        <OtherChange
          taken={other.taken}
          conflicts={other.conflicts}
          words={FIELD_WORDS}
          show={showField}
          onChoose={other.choose}
        />
        {now === null && (
          <Box role="alert" sx={{ bgcolor: 'tally.unpricedSoft', borderRadius: 0.5, px: 1.5, py: 1, fontSize: 13 }}>
            Somebody else removed this rule meanwhile. Saving makes it again.
          </Box>
        )}
        <TextField
          label="Name"
          value={draft.name}
          onChange={(e) => setDraft({ ...draft, name: e.target.value })}
          autoFocus={isNew}
        />
        <Box>
          <ConditionEditor
            scope={draft.scope}
            tables={tables}
            sample={sample}
            onChange={(scope) => setDraft({ ...draft, scope })}
          />
          <Box
            data-testid="rule-catches"
            sx={{
              fontSize: 13,
              mt: 1,
              px: 1,
              py: 0.5,
              bgcolor: caught === 0 ? 'tally.unpricedSoft' : 'tally.petrolSoft',
              borderRadius: 0.5,
            }}
          >
            {caught === 0 ? 'Catches nothing: check the names.' : `Catches ${caught} elements.`}
          </Box>
        </Box>
        <RadioGroup row value={kind} onChange={(_, v) => setKind(v)}>
          <FormControlLabel value="assembly" control={<Radio size="small" />} label="Price with an assembly" />
          <FormControlLabel value="item" control={<Radio size="small" />} label="Price with one item" />
          <FormControlLabel value="leaveOut" control={<Radio size="small" />} label="Leave out on purpose" />
        </RadioGroup>
        {kind === 'leaveOut' ? (
          <TextField
            label="Reason"
            value={draft.leaveOut}
            onChange={(e) => setDraft({ ...draft, leaveOut: e.target.value })}
          />
        ) : (
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            {kind === 'item' ? (
              <Autocomplete
                options={basis.items}
                value={basis.items.find((i) => i.code === draft.item) ?? null}
                getOptionKey={(i) => i.code}
                getOptionLabel={(i) => `${i.code} ${i.description} (${i.unit})`}
                onChange={(_, i) => setDraft({ ...draft, item: i?.code ?? '' })}
                renderInput={(p) => <TextField {...p} label="Cost item" />}
              />
            ) : (
              <Autocomplete
                options={basis.assemblies}
                value={basis.assemblies.find((a) => a.code === draft.assembly) ?? null}
                getOptionKey={(a) => a.code}
                getOptionLabel={(a) => `${a.code} ${a.description} (${a.unit})`}
                onChange={(_, a) => setDraft({ ...draft, assembly: a?.code ?? '' })}
                renderInput={(p) => <TextField {...p} label="Assembly" />}
              />
            )}
            <Autocomplete
              options={basis.sections}
              value={basis.sections.find((s) => s.id === draft.section) ?? null}
              getOptionKey={(s) => s.id}
              getOptionLabel={(s) => s.name}
              onChange={(_, s) => setDraft({ ...draft, section: s?.id })}
              renderInput={(p) => <TextField {...p} label="Work section" />}
            />
            <Box sx={{ gridColumn: '1 / -1' }}>
              <FormulaField
                label="Driver"
                value={draft.driver ?? ''}
                unit={unit}
                names={names}
                onChange={(driver) => setDraft({ ...draft, driver })}
              />
            </Box>
            {assembly && (
              <Box sx={{ gridColumn: '1 / -1' }}>
                <RuleParameters
                  check={check}
                  names={names}
                  assembly={assembly}
                  values={draft.parameters ?? {}}
                  onChange={(parameters) => setDraft({ ...draft, parameters })}
                />
              </Box>
            )}
          </Box>
        )}
        {refusal && (
          <Box role="alert" sx={{ color: 'error.main', fontSize: 13 }}>
            {refusal}
          </Box>
        )}
      </DialogContent>
      <DialogFoot
        label="Save the rule"
        isOff={!isReady || isSaving || other.conflicts.length > 0}
        onAct={save}
        onCancel={onClose}
      />
    </Dialog>
  );
}

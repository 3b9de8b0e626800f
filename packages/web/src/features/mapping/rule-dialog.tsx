import { zodResolver } from '@hookform/resolvers/zod';
import {
  Autocomplete,
  Box,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Radio,
  RadioGroup,
  TextField,
} from '@mui/material';
import { type AlsoFor, caughtBy, type DecidedPart, describeCondition, evaluateScopeOverParts, type PricingRule, sayInWords } from '@tally/core'; // biome-ignore format: one module
import { useEffect, useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useBasis } from '../../store/project-store.tsx';
import { useElements, useFormulaNames, useSample } from '../../store/use-elements.ts';
import { useOtherChange } from '../../store/use-other-change.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { FormDialog } from '../../ui/form-dialog.tsx';
import { FormText } from '../../ui/form-text.tsx';
import { FormulaField } from '../../ui/formula-field.tsx';
import { OtherChange } from '../../ui/other-change.tsx';
import { ABOUT_WORDS, ALSO_WORDS, PART_COUNT_WORDS } from './part-words.ts';
import { fillRuleForm, namesFor, type RuleForm, type RuleKind, readRuleForm, ruleFormSchema } from './rule-form.ts';
import { RuleParameters, useParameterCheck } from './rule-parameters.tsx';
import { RuleSubject } from './rule-subject.tsx';

type Rule = PricingRule;

const FIELD_WORDS: Readonly<Record<string, string>> = {
  name: 'Name',
  scope: 'What it catches',
  about: 'What it decides about',
  also: 'Whom it speaks for too',
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
  if (field === 'about') return ABOUT_WORDS[value as DecidedPart];
  if (field === 'also') return (value as AlsoFor[]).map((a) => ALSO_WORDS[a]).join(', ');
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
  const basis = useBasis('assemblies', 'items', 'sections', 'scopes');
  const { tables } = useElements();
  const sample = useSample();
  const names = useFormulaNames();
  const [refusal, setRefusal] = useState<string | null>(null);
  const form = useForm<RuleForm>({
    defaultValues: fillRuleForm(rule),
    resolver: (values, context, options) => zodResolver(schema)(values, context, options),
    mode: 'onChange',
  });
  const { control, setValue, watch, formState } = form;
  const draft = watch();
  const assembly = draft.kind === 'assembly' ? basis.assemblies.find((a) => a.code === draft.assembly) : undefined;
  const check = useParameterCheck(assembly, names);
  const { items, assemblies } = basis;
  const schema = useMemo(
    () => ruleFormSchema({ items, assemblies, names, checkParameter: check }),
    [items, assemblies, names, check],
  );
  // What is right depends on the book too.
  // biome-ignore lint/correctness/useExhaustiveDependencies: when the schema is another
  useEffect(() => void form.trigger(), [schema]);
  const set = <
    K extends 'scope' | 'about' | 'also' | 'kind' | 'item' | 'assembly' | 'section' | 'driver' | 'parameters',
  >(
    name: K,
    value: RuleForm[K],
  ) => setValue(name, value as never, { shouldDirty: true, shouldValidate: true });
  const other = useOtherChange(rule, now, readRuleForm(draft, rule, assembly), (next) => {
    form.reset(fillRuleForm(next), { keepDefaultValues: true });
    void form.trigger();
  });
  const { scope, about } = draft;
  const caught = useMemo(() => {
    const count = (masks: readonly Uint8Array[]) => masks.reduce((n, mask) => n + mask.reduce((a, b) => a + b, 0), 0);
    return {
      elements: count(tables.map((t) => caughtBy({ scope, about: about || undefined }, t))),
      parts: about ? count(tables.map((t) => evaluateScopeOverParts(scope, t, about))) : 0,
    };
  }, [tables, scope, about]);
  const unit = draft.kind === 'item' ? items.find((i) => i.code === draft.item)?.unit : assembly?.unit;
  const save = form.handleSubmit(async (values) => setRefusal(await onSave(readRuleForm(values, rule, assembly))));
  return (
    <FormDialog onClose={onClose} maxWidth="md">
      <DialogTitle>{isNew ? 'New rule' : 'Rule'}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
        <OtherChange other={other} words={FIELD_WORDS} show={showField} />
        {now === null && (
          <Box role="alert" sx={{ bgcolor: 'tally.unpricedSoft', borderRadius: 0.5, px: 1.5, py: 1, fontSize: 13 }}>
            Somebody else removed this rule meanwhile. Saving makes it again.
          </Box>
        )}
        <FormText control={control} name="name" label="Name" autoFocus={isNew} />
        <Box>
          <ConditionEditor
            scope={draft.scope}
            scopes={basis.scopes}
            tables={tables}
            sample={sample}
            onChange={(scope) => set('scope', scope)}
          />
          <Box
            data-testid="rule-catches"
            sx={{
              fontSize: 13,
              mt: 1,
              px: 1,
              py: 0.5,
              bgcolor: caught.elements === 0 ? 'tally.unpricedSoft' : 'tally.petrolSoft',
              borderRadius: 0.5,
            }}
          >
            {caught.elements === 0
              ? 'Catches nothing: check the names.'
              : `Catches ${draft.about ? `${caught.parts} ${PART_COUNT_WORDS[draft.about]} of ` : ''}${caught.elements} elements.`}
          </Box>
        </Box>
        <RuleSubject
          about={draft.about}
          also={draft.also}
          onAbout={(about) => set('about', about)}
          onAlso={(also) => set('also', also)}
        />
        <RadioGroup row value={draft.kind} onChange={(_, kind) => set('kind', kind as RuleKind)}>
          <FormControlLabel value="assembly" control={<Radio size="small" />} label="Price with an assembly" />
          <FormControlLabel value="item" control={<Radio size="small" />} label="Price with one item" />
          <FormControlLabel value="leaveOut" control={<Radio size="small" />} label="Leave out on purpose" />
        </RadioGroup>
        {draft.kind === 'leaveOut' ? (
          <FormText control={control} name="leaveOut" label="Reason" />
        ) : (
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            {draft.kind === 'item' ? (
              <Autocomplete
                options={basis.items}
                value={basis.items.find((i) => i.code === draft.item) ?? null}
                getOptionKey={(i) => i.code}
                getOptionLabel={(i) => `${i.code} ${i.description} (${i.unit})`}
                onChange={(_, i) => set('item', i?.code ?? '')}
                renderInput={(p) => <TextField {...p} label="Cost item" />}
              />
            ) : (
              <Autocomplete
                options={basis.assemblies}
                value={basis.assemblies.find((a) => a.code === draft.assembly) ?? null}
                getOptionKey={(a) => a.code}
                getOptionLabel={(a) => `${a.code} ${a.description} (${a.unit})`}
                onChange={(_, a) => set('assembly', a?.code ?? '')}
                renderInput={(p) => <TextField {...p} label="Assembly" />}
              />
            )}
            <Autocomplete
              options={basis.sections}
              value={basis.sections.find((s) => s.id === draft.section) ?? null}
              getOptionKey={(s) => s.id}
              getOptionLabel={(s) => s.name}
              onChange={(_, s) => set('section', s?.id ?? '')}
              renderInput={(p) => <TextField {...p} label="Work section" />}
            />
            <Box sx={{ gridColumn: '1 / -1' }}>
              <FormulaField
                label="Driver"
                value={draft.driver}
                unit={unit}
                names={namesFor(names, draft.about)}
                onChange={(driver) => set('driver', driver)}
              />
            </Box>
            {assembly && (
              <Box sx={{ gridColumn: '1 / -1' }}>
                <RuleParameters
                  check={check}
                  names={names}
                  assembly={assembly}
                  values={draft.parameters}
                  rule={{ scope, about: about || undefined }}
                  onChange={(parameters) => set('parameters', { ...parameters })}
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
        isOff={!formState.isValid || formState.isSubmitting || other.conflicts.length > 0}
        onAct={() => void save()}
        onCancel={onClose}
      />
    </FormDialog>
  );
}

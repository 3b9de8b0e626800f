import { Box, MenuItem, TextField } from '@mui/material';
import { type Assembly, type AssemblyParameter, type Caught, type FormulaNames, nameParameters } from '@tally/core';
import { useMemo } from 'react';
import { useElements } from '../../store/use-elements.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showSignificant, showUnit } from '../../ui/format.ts';
import { checkFormula, FormulaText } from '../../ui/formula-field.tsx';
import { listSamples } from './list-samples.ts';

type Check = (name: string, value: string) => string | null;

/** Says what is wrong with a value that a rule gives to a parameter; null if nothing is. */
export function useParameterCheck(assembly: Assembly | undefined, names: FormulaNames): Check {
  return useMemo(() => {
    const inner = assembly && nameParameters(assembly, names);
    return (name, value) => {
      const parameter = assembly?.parameters?.find((p) => p.name === name);
      return parameter && inner && value.trim() !== '' ? checkFormula(value, parameter.unit, inner) : null;
    };
  }, [assembly, names]);
}

/** What a rule sets of the parameters of its assembly; those it says nothing about keep their value. */
export function RuleParameters({
  assembly,
  values,
  check,
  names,
  rule,
  onChange,
}: {
  readonly assembly: Assembly;
  readonly values: Readonly<Record<string, string>>;
  readonly check: Check;
  readonly names: FormulaNames;
  /** What the rule catches: values that read elements are shown on samples of them. */
  readonly rule: Caught;
  readonly onChange: (values: Readonly<Record<string, string>> | undefined) => void;
}) {
  const { parameters = [] } = assembly;
  const inner = useMemo(() => nameParameters(assembly, names), [assembly, names]);
  if (parameters.length === 0) return null;
  const set = ({ name, value: usual }: AssemblyParameter, value: string) => {
    const { [name]: _, ...others } = values;
    const all = value === usual ? others : { ...others, [name]: value };
    onChange(Object.keys(all).length > 0 ? all : undefined);
  };
  return (
    <Box role="group" aria-label="Parameters" sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1.5 }}>
      {parameters.map((p) => {
        const value = values[p.name];
        const note = p.note ?? `Usually ${p.value}`;
        if (p.choices) {
          const choices = [p.value, ...p.choices];
          return (
            <TextField
              key={p.name}
              select
              label={p.name}
              value={value ?? p.value}
              error={!choices.includes(value ?? p.value)}
              helperText={choices.includes(value ?? p.value) ? note : 'No choice of the assembly any more.'}
              onChange={(e) => set(p, e.target.value)}
            >
              {[...new Set([...choices, value ?? p.value])].map((c) => (
                <MenuItem key={c} value={c}>
                  {c}
                </MenuItem>
              ))}
            </TextField>
          );
        }
        return (
          <Box key={p.name} sx={{ minWidth: 0 }}>
            <FormulaText
              label={`${p.name}, in ${showUnit(p.unit)}`}
              value={value ?? p.value}
              names={inner}
              problem={value === undefined ? null : check(p.name, value)}
              note={note}
              onChange={(text) => set(p, text)}
            />
            <Samples value={value ?? p.value} unit={p.unit} names={inner} rule={rule} />
          </Box>
        );
      })}
    </Box>
  );
}

/** What a value gives for elements that the rule catches, one of each type. */
function Samples({
  value,
  unit,
  names,
  rule,
}: {
  readonly value: string;
  readonly unit: string;
  readonly names: FormulaNames;
  readonly rule: Caught;
}) {
  const { tables } = useElements();
  const { scope, about } = rule;
  const samples = useMemo(
    () => listSamples(value, unit, names, { scope, about }, tables),
    [value, unit, names, scope, about, tables],
  );
  if (samples.length === 0) return null;
  return (
    <Box component="ul" aria-label="On the model" sx={{ m: 0, px: 1, py: 0.5, listStyle: 'none', fontSize: 12 }}>
      {samples.map((s) => (
        <Box component="li" key={s.label} sx={{ display: 'flex', gap: 1 }} title={s.problem ?? s.label}>
          <Box
            sx={{
              flex: 1,
              minWidth: 0,
              overflow: 'hidden',
              textOverflow: 'ellipsis',
              whiteSpace: 'nowrap',
              color: 'text.secondary',
            }}
          >
            {s.label}
          </Box>
          <Box sx={{ fontFamily: FIGURES, color: s.problem ? 'error.main' : undefined }}>
            {s.value === null
              ? 'nothing'
              : typeof s.value === 'string'
                ? s.value
                : `${showSignificant(s.value, 5)} ${showUnit(unit === 'number' ? '' : unit)}`}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

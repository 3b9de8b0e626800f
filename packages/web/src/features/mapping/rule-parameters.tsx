import { Box, MenuItem, TextField } from '@mui/material';
import { type Assembly, type AssemblyParameter, type FormulaNames, nameParameters } from '@tally/core';
import { useMemo } from 'react';
import { showUnit } from '../../ui/format.ts';
import { checkFormula, FormulaText } from '../../ui/formula-field.tsx';

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
  onChange,
}: {
  readonly assembly: Assembly;
  readonly values: Readonly<Record<string, string>>;
  readonly check: Check;
  readonly names: FormulaNames;
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
        if (p.choices)
          return (
            <TextField
              key={p.name}
              select
              label={p.name}
              value={value ?? p.value}
              helperText={note}
              onChange={(e) => set(p, e.target.value)}
            >
              {[...new Set([p.value, ...p.choices])].map((c) => (
                <MenuItem key={c} value={c}>
                  {c}
                </MenuItem>
              ))}
            </TextField>
          );
        return (
          <FormulaText
            key={p.name}
            label={`${p.name}, in ${showUnit(p.unit)}`}
            value={value ?? p.value}
            names={inner}
            problem={value === undefined ? null : check(p.name, value)}
            note={note}
            onChange={(text) => set(p, text)}
          />
        );
      })}
    </Box>
  );
}

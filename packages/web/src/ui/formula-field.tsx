import { Autocomplete, Box, TextField } from '@mui/material';
import {
  compileFormula,
  type FormulaName,
  FormulaNames,
  listQuantityNames,
  parseUnit,
  type Unit,
  writeName,
} from '@tally/core';
import { useMemo } from 'react';
import { FIGURES } from './fonts.ts';

export interface FormulaFieldProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  /** Unit the formula must give; a condition if absent. */
  readonly unit?: string;
  /** Names beside the standard quantities: parameters, the driver, what the project's elements have beyond them. */
  readonly names?: readonly FormulaName[];
  readonly isOptional?: boolean;
}

/** Why a formula cannot stand, in words; null if it can. */
export function checkFormula(
  value: string,
  unit: string | undefined,
  names: readonly FormulaName[] = [],
): string | null {
  let needed: Unit | undefined;
  if (unit !== undefined) {
    const parsed = parseUnit(unit);
    if (!parsed.ok) return parsed.problem.message;
    needed = parsed.value;
  }
  const all = new FormulaNames([...listQuantityNames().list(), ...names]);
  const formula = compileFormula(value, all, needed);
  if (!formula.ok) {
    const { message, remedy, span } = formula.problem;
    const place =
      span && span.end > span.start && span.end - span.start < value.length
        ? `“${value.slice(span.start, span.end)}”: `
        : '';
    return `${place}${message}${remedy ? ` ${remedy}` : ''}`;
  }
  return unit === undefined && formula.value.type.kind !== 'truth'
    ? 'This is no condition; compare two figures.'
    : null;
}

/** A formula with its check while typing and the known names to pick from. */
export function FormulaField({ label, value, onChange, unit, names = [], isOptional = false }: FormulaFieldProps) {
  const problem = isOptional && value.trim() === '' ? null : checkFormula(value, unit, names);
  const options = useMemo(
    () => [...new Set([...names, ...listQuantityNames().list()].map((n) => writeName(n.name)))],
    [names],
  );
  const word = /[\p{L}_][\p{L}\p{N}_]*$/u.exec(value)?.[0] ?? '';
  return (
    <Autocomplete
      freeSolo
      disableClearable
      options={options}
      inputValue={value}
      value={value}
      onInputChange={(_, text, reason) => reason === 'input' && onChange(text)}
      onChange={(_, name) => onChange(`${value.slice(0, value.length - word.length)}${name}`)}
      filterOptions={(all) =>
        word === '' ? all : all.filter((n) => n.toLowerCase().includes(word.toLowerCase()) && n !== word)
      }
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          error={problem !== null}
          helperText={
            problem ??
            (unit ? (
              <Box component="span" sx={{ color: 'text.secondary' }}>
                Gives {unit}.
              </Box>
            ) : (
              ' '
            ))
          }
          sx={{ '& input': { fontFamily: FIGURES, fontSize: 13 } }}
        />
      )}
    />
  );
}

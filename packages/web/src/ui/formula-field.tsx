import { Autocomplete, Box, TextField } from '@mui/material';
import {
  compileFormula,
  compileSetting,
  type FormulaNames,
  listQuantityNames,
  type Problem,
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
  /** Names it may use; the standard quantities if absent. */
  readonly names?: FormulaNames;
  readonly isOptional?: boolean;
}

/** Why a formula cannot stand, in words; null if it can. */
export function checkFormula(
  value: string,
  unit: string | undefined,
  names: FormulaNames = listQuantityNames(),
): string | null {
  const formula = unit === undefined ? compileFormula(value, names) : compileSetting(value, names, unit);
  if (!formula.ok) return describeProblem(formula.problem, value);
  return unit === undefined && formula.value.type.kind !== 'truth'
    ? 'This is no condition; compare two figures.'
    : null;
}

/** A problem in words, with the part of the text that it is about. */
export function describeProblem({ message, remedy, span }: Problem, text: string): string {
  const place =
    span && span.end > span.start && span.end - span.start < text.length
      ? `“${text.slice(span.start, span.end)}”: `
      : '';
  return `${place}${message}${remedy ? ` ${remedy}` : ''}`;
}

/** A formula with its check while typing and the known names to pick from. */
export function FormulaField({ label, value, onChange, unit, names, isOptional = false }: FormulaFieldProps) {
  const problem = isOptional && value.trim() === '' ? null : checkFormula(value, unit, names);
  return (
    <FormulaText
      label={label}
      value={value}
      onChange={onChange}
      names={names}
      problem={problem}
      note={unit ? `Gives ${unit}.` : ' '}
    />
  );
}

/** Where a formula goes on with a name: at its start, after a sign or a bracket. */
const EXPECTS_NAME = /(^|[-+*/(,<>=^])\s*$/;

/** The field of a formula, with the known names to pick from while a word is typed. */
export function FormulaText({
  label,
  value,
  onChange,
  names,
  problem,
  note,
  figureOf,
}: Pick<FormulaFieldProps, 'label' | 'value' | 'onChange' | 'names'> & {
  readonly problem: string | null;
  /** What is said below while there is no problem. */
  readonly note?: string;
  /** Figure of a name for the element at hand, in words; null if it has none. */
  readonly figureOf?: (name: string) => string | null;
}) {
  const options = useMemo(() => (names ?? listQuantityNames()).list().map((n) => writeName(n.name)), [names]);
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
        word === ''
          ? EXPECTS_NAME.test(value)
            ? all
            : []
          : all.filter((n) => n.toLowerCase().includes(word.toLowerCase()) && n !== word)
      }
      renderOption={({ key, ...props }, name) => (
        <Box component="li" key={key} {...props} sx={{ display: 'flex', gap: 2, fontSize: 13 }}>
          <Box component="span" sx={{ flex: 1 }}>
            {name}
          </Box>
          <Box component="span" sx={{ color: 'text.secondary', fontFamily: FIGURES }}>
            {figureOf?.(name)}
          </Box>
        </Box>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          error={problem !== null}
          helperText={
            problem ??
            (note && (
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {note}
              </Box>
            ))
          }
          sx={{ '& input': { fontFamily: FIGURES, fontSize: 13 } }}
        />
      )}
    />
  );
}

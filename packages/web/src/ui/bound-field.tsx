import { InputAdornment, TextField } from '@mui/material';
import { readMeasure, type SiUnit } from '@tally/core';
import { useState } from 'react';
import { askFigure, editFigure, readFigure, showUnit } from './format.ts';
import { numberStyle } from './number-style.ts';

/**
 * A bound as it is typed: a figure, or one with a unit of its own (`240 cm`, `8' 6"`), as an SI figure.
 * @param unit what the bound is of; null for a figure without a unit
 * @returns undefined for nothing, else the figure or what is wrong with it
 */
export function readBound(
  text: string,
  unit: SiUnit | null,
): { readonly value: number } | { readonly problem: string } | undefined {
  if (text.trim() === '') return undefined;
  const measure = unit === null ? null : readMeasure(text, numberStyle());
  if (measure)
    return measure.unit === unit ? { value: measure.value } : { problem: `That is no figure in ${showUnit(unit!)}.` };
  const figure = readFigure(text);
  return figure === null ? { problem: askFigure(text) ?? `"${text}" is no figure.` } : { value: figure };
}

/** A field for one bound of a range; what cannot be read stays as it was typed, with the reason. */
export function BoundField({
  value,
  unit,
  word,
  onChange,
}: {
  readonly value: number | undefined;
  readonly unit: SiUnit | null;
  readonly word: string;
  readonly onChange: (value: number | undefined) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null ? undefined : readBound(typed, unit);
  const problem = read && 'problem' in read ? read.problem : null;
  return (
    <TextField
      placeholder={word}
      value={typed ?? (value === undefined ? '' : editFigure(value))}
      error={problem !== null}
      helperText={problem}
      onChange={(e) => {
        setTyped(e.target.value);
        const next = readBound(e.target.value, unit);
        if (!next || 'value' in next) onChange(next?.value);
      }}
      onBlur={() => problem === null && setTyped(null)}
      slotProps={{
        htmlInput: { 'aria-label': word },
        input:
          unit && unit !== 'each'
            ? { endAdornment: <InputAdornment position="end">{showUnit(unit)}</InputAdornment> }
            : {},
      }}
      sx={{ width: 118 }}
    />
  );
}

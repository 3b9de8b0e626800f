import { findSimpleUnit, type TakeoffField, type TakeoffView } from '@tally/core';
import { showFigure, showSi, showUnit, type UnitSystem, unitDigits } from '../../ui/format.ts';

type ColumnSpec = TakeoffView['columns'][number];

/** Units that a column may be shown in, by the unit it is kept in. */
export const UNIT_CHOICES: Readonly<Record<string, readonly string[]>> = {
  m: ['m', 'cm', 'mm', 'ft', 'in', 'yd'],
  m2: ['m2', 'cm2', 'ft2', 'yd2'],
  m3: ['m3', 'l', 'ft3', 'yd3'],
  kg: ['kg', 't', 'g', 'lb'],
  h: ['h', 'min'],
};

/** How a column is shown: its unit, what one of it is in SI, and its decimals; null where the project's units decide alone. */
function readShape(field: TakeoffField, spec: ColumnSpec | undefined, system: UnitSystem) {
  const isOwn = spec?.unit !== undefined || spec?.digits !== undefined;
  if (field.unit === null || (!isOwn && system !== 'metric')) return null;
  const unit = spec?.unit ?? field.unit;
  const factor = findSimpleUnit(unit)?.factor ?? 1;
  return { unit, factor, digits: spec?.digits ?? unitDigits(unit) };
}

/** Smallest figure a column shows, in SI: columns of one are rounded so that they add up. Null where figures have several units. */
export function readStep(field: TakeoffField, spec: ColumnSpec | undefined, system: UnitSystem): number | null {
  const shape = readShape(field, spec, system);
  return shape && shape.factor / 10 ** shape.digits;
}

/** A figure of a column as it is read, without its unit. */
export function showColumnFigure(
  value: number,
  field: TakeoffField,
  spec: ColumnSpec | undefined,
  system: UnitSystem,
): string {
  const shape = readShape(field, spec, system);
  if (!shape || (spec?.digits === undefined && spec?.unit === undefined))
    return showSi(value, field.unit!, system).figure;
  return showFigure(value / shape.factor, shape.digits);
}

/** Unit in the heading of a column; empty for counts, texts and figures that carry theirs. */
export function showColumnUnit(field: TakeoffField, spec: ColumnSpec | undefined, system: UnitSystem): string {
  if (field.unit === null || field.unit === 'each') return '';
  if (spec?.unit !== undefined) return showUnit(spec.unit);
  const shape = readShape(field, spec, system);
  if (shape) return shape.unit === 'number' ? '' : showUnit(shape.unit);
  return system === 'both' ? '' : showSi(0, field.unit, system).unit;
}

/** Units that figures go to a spreadsheet in where a project works in feet: one figure a cell, so that it can be added up. */
const SPREADSHEET_FEET: Readonly<Record<string, string>> = { m: 'ft', m2: 'ft2', m3: 'yd3', kg: 'lb' };

function readSpreadsheetUnit(field: TakeoffField, spec: ColumnSpec | undefined, system: UnitSystem): string {
  return spec?.unit ?? (system === 'imperial' ? (SPREADSHEET_FEET[field.unit!] ?? field.unit!) : field.unit!);
}

/** A figure as it is copied and saved: a plain number in the unit its heading names there. */
export function writeColumnFigure(
  value: number,
  field: TakeoffField,
  spec: ColumnSpec | undefined,
  system: UnitSystem,
): string {
  const factor = findSimpleUnit(readSpreadsheetUnit(field, spec, system))?.factor ?? 1;
  const shape = readShape(field, spec, system);
  return String(shape ? Number((value / factor).toFixed(shape.digits)) : Number((value / factor).toPrecision(9)));
}

/** Unit of a column as it is copied and saved; empty for counts and texts. */
export function writeColumnUnit(field: TakeoffField, spec: ColumnSpec | undefined, system: UnitSystem): string {
  return field.unit === null || field.unit === 'each' || field.unit === 'number'
    ? ''
    : showUnit(readSpreadsheetUnit(field, spec, system));
}

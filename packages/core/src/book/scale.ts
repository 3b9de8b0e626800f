import type { FormulaScale } from '../formulas/formula-types.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import { compileTextMatcher } from '../scopes/text-matcher.ts';
import { exceeds, isAt, isBelow, reaches, stepsUp } from '../units/at-limit.ts';
import { foldText } from '../units/fold-text.ts';
import { parseUnit, type Unit } from '../units/unit.ts';

/** From and to in the key's unit: `from` belongs to the range, `to` no more. An end that is absent is open. */
export interface ScaleRange {
  readonly from?: number;
  readonly to?: number;
}

/** What a scale is looked up by: figures of a unit, or texts (`unit` absent). */
export interface ScaleKey {
  readonly name: string;
  readonly unit?: string;
  /** Started units are charged whole: a figure counts as the next multiple of this. */
  readonly step?: number;
}

export interface ScaleRow {
  /** One place per key: a range of figures, or a text with `*` and `?` as wildcards. */
  readonly at: readonly (ScaleRange | string)[];
  /** Figure in the scale's unit. */
  readonly value: number;
}

/**
 * A figure looked up by one or two others. `sliced`: each slice of the looked-up figure is taken at the value of its own range, and
 * what is given is the average; else the range it lies in holds for the whole of it.
 */
export interface Scale {
  readonly name: string;
  readonly unit: string;
  readonly keys: readonly ScaleKey[];
  readonly rows: readonly ScaleRow[];
  readonly isSliced?: boolean;
  readonly note?: string;
}

interface Band {
  readonly from: number;
  readonly to: number;
}

interface CompiledKey {
  readonly name: string;
  /** Null for texts. */
  readonly unit: Unit | null;
  readonly step: number | null;
}

const toBand = ({ from, to }: ScaleRange): Band => ({ from: from ?? -Infinity, to: to ?? Infinity });
const showEnd = (end: number, unit: string) => `${end} ${unit}`;

/** A range in words. @example describeRange({ to: 1.25 }, 'm') // 'below 1.25 m' */
export function describeRange({ from, to }: ScaleRange, unit: string): string {
  if (from === undefined && to === undefined) return 'any';
  if (from === undefined) return `below ${to} ${unit}`;
  return to === undefined ? `${from} ${unit} and above` : `${from} to below ${to} ${unit}`;
}

/**
 * Checks a scale and makes it ready. Errors: `scale-empty`, `scale-gap`, `scale-overlap`, `scale-range-empty`, `scale-key-twice`,
 * `scale-keys`, `unit-unknown`, each naming the figures.
 */
export function compileScale(scale: Scale): Result<FormulaScale> {
  const unit = parseUnit(scale.unit);
  if (!unit.ok) return unit;
  const keys: CompiledKey[] = [];
  for (const { name, unit: text, step } of scale.keys) {
    if (text === undefined) {
      keys.push({ name, unit: null, step: null });
      continue;
    }
    const read = parseUnit(text);
    if (!read.ok) return read;
    keys.push({ name, unit: read.value, step: step ?? null });
  }
  if (keys.length < 1 || keys.length > 2)
    return failure('scale-keys', `${scale.name} needs one or two things to look it up by.`);
  if (scale.isSliced && (keys.length > 1 || keys[0]!.unit === null))
    return failure('scale-keys', `${scale.name} is taken in slices; that goes by one figure only.`, {
      remedy: 'Take the whole range instead, or look it up by one figure.',
    });
  if (scale.rows.length === 0)
    return failure('scale-empty', `${scale.name} has no rows.`, { remedy: 'Add the first range.' });
  const table = buildLevel(scale.name, scale.rows, keys, 0);
  if (!table.ok) return table;
  const factor = unit.value.factor;
  return success({
    name: scale.name,
    signature: JSON.stringify(scale),
    dimension: unit.value.dimension,
    keys: keys.map((k) => k.unit?.dimension ?? null),
    steps: keys.map((k) => (k.step === null ? null : k.step * k.unit!.factor)),
    find: (given) => {
      const found = scale.isSliced ? averageSlices(scale, keys[0]!, given[0] as number) : table.value(given);
      return typeof found === 'number' ? found * factor : found;
    },
  });
}

/** All scales of a book; one with a fault stays known with its problem, so that what uses it says why. */
export function compileScales(scales: readonly Scale[]): FormulaScale[] {
  return scales.map((scale) => {
    const made = compileScale(scale);
    if (made.ok) return made.value;
    const { problem } = made;
    return {
      name: scale.name,
      signature: problem.message,
      dimension: {},
      keys: [],
      steps: [],
      find: () => problem,
      problem,
    };
  });
}

type Find = (given: readonly (number | string)[]) => number | Problem;

/** Rows by one key after the other: ranges side by side without gap or overlap, texts each once. */
function buildLevel(
  name: string,
  rows: readonly ScaleRow[],
  keys: readonly CompiledKey[],
  depth: number,
): Result<Find> {
  const key = keys[depth]!;
  const branches: { readonly at: ScaleRange | string; readonly find: Find }[] = [];
  for (const [at, same] of groupRows(rows, depth)) {
    if ((typeof at === 'string') !== (key.unit === null))
      return failure(
        'scale-keys',
        `${name}: a row has ${typeof at === 'string' ? 'a text' : 'a range'} for ${key.name}.`,
        {
          remedy: key.unit ? `Give it a range in ${key.unit.symbol}.` : 'Give it a text.',
        },
      );
    if (depth + 1 < keys.length) {
      const inner = buildLevel(name, same, keys, depth + 1);
      if (!inner.ok) return inner;
      branches.push({ at, find: inner.value });
    } else if (same.length > 1) {
      return typeof at === 'string'
        ? failure('scale-key-twice', `${name}: "${at}" is there twice.`, { remedy: 'Take one of them out.' })
        : failure('scale-overlap', `${name}: ${describeRange(at, key.unit!.symbol)} is there twice.`, {
            remedy: 'Take one of them out.',
          });
    } else {
      const { value } = same[0]!;
      branches.push({ at, find: () => value });
    }
  }
  if (key.unit === null) return success(findText(name, key, branches as { at: string; find: Find }[], depth));
  const bands = (branches as { at: ScaleRange; find: Find }[])
    .map(({ at, find }) => ({ ...toBand(at), find }))
    .sort((a, b) => a.from - b.from);
  const fault = checkBands(name, bands, key.unit);
  if (fault) return { ok: false, problem: fault };
  return success((given) => {
    const { factor } = key.unit!;
    const figure = roundUp((given[depth] as number) / factor, key);
    const band = bands.find((b) => reaches(figure, b.from, factor) && isBelow(figure, b.to, factor));
    return band ? band.find(given) : outside(name, `${Number(figure.toPrecision(6))} ${key.unit!.symbol}`);
  });
}

function groupRows(rows: readonly ScaleRow[], depth: number): Map<ScaleRange | string, ScaleRow[]> {
  const byText = new Map<string, [ScaleRange | string, ScaleRow[]]>();
  for (const row of rows) {
    const at = row.at[depth] ?? '';
    const id = typeof at === 'string' ? foldText(at) : `${at.from ?? ''}..${at.to ?? ''}`;
    const known = byText.get(id);
    if (known) known[1].push(row);
    else byText.set(id, [at, [row]]);
  }
  return new Map(byText.values());
}

function checkBands(name: string, bands: readonly Band[], { symbol: unit, factor }: Unit): Problem | null {
  for (const [i, band] of bands.entries()) {
    if (!(band.to > band.from))
      return {
        code: 'scale-range-empty',
        message: `${name}: a range ends at ${showEnd(band.to, unit)}, where or before it begins.`,
        remedy: 'Correct its ends.',
      };
    const next = bands[i + 1];
    if (next && next.from > band.to && !isAt(next.from, band.to, factor))
      return {
        code: 'scale-gap',
        message: `${name}: nothing is said from ${showEnd(band.to, unit)} to ${showEnd(next.from, unit)}.`,
        remedy: 'Let the ranges touch.',
      };
    if (next && next.from < band.to && !isAt(next.from, band.to, factor))
      return {
        code: 'scale-overlap',
        message: `${name}: two ranges hold from ${showEnd(next.from, unit)} on.`,
        remedy: 'Let one end where the next begins.',
      };
  }
  return null;
}

function outside(name: string, what: string): Problem {
  return { code: 'scale-outside', message: `The scale ${name} says nothing for ${what}.`, remedy: 'Add a row for it.' };
}

/** Exact texts before wildcards, those in the order of the rows. */
function findText(name: string, key: CompiledKey, rows: readonly { at: string; find: Find }[], depth: number): Find {
  const exact = new Map(rows.filter((r) => !/[*?]/.test(r.at)).map((r) => [foldText(r.at), r.find]));
  const patterns = rows
    .filter((r) => /[*?]/.test(r.at))
    .map((r) => ({ find: r.find, matches: compileTextMatcher(r.at) }));
  return (given) => {
    const text = String(given[depth]);
    const folded = foldText(text);
    const find = exact.get(folded) ?? patterns.find((p) => p.matches(folded))?.find;
    return find ? find(given) : outside(name, `${key.name} "${text}"`);
  };
}

/** Whole steps that are begun. A figure that is a multiple but for rounding stays. */
function roundUp(figure: number, { step, unit }: CompiledKey): number {
  return step === null ? figure : stepsUp(figure, step, unit!.factor) * step;
}

/**
 * Average over the slices from 0 up to a figure.
 * @example 5 % up to 100, 3 % above; of 150: (100 x 5 + 50 x 3) / 150 = 4.333 %
 */
function averageSlices(scale: Scale, key: CompiledKey, given: number): number | Problem {
  const { factor } = key.unit!;
  const figure = roundUp(given / factor, key);
  const bands = scale.rows
    .map((r) => ({ ...toBand(r.at[0] as ScaleRange), value: r.value }))
    .sort((a, b) => a.from - b.from);
  const shown = `${Number(figure.toPrecision(6))} ${key.unit!.symbol}`;
  if (figure <= 0) return bands.find((b) => b.to > 0 && b.from <= 0)?.value ?? outside(scale.name, shown);
  if (bands[0]!.from > 0 || exceeds(figure, bands.at(-1)!.to, factor)) return outside(scale.name, shown);
  let sum = 0;
  for (const { from, to, value } of bands) sum += Math.max(0, Math.min(figure, to) - Math.max(0, from)) * value;
  return sum / figure;
}

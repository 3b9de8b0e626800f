import { type DecidedPart, listDecidedParts, readPartSources } from '../elements/decided-parts.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable, PropertyColumn } from '../elements/element-table.ts';
import { FINISH_SURFACES, type PropertyValue } from '../elements/model-element.ts';
import { relateElements } from '../elements/relations.ts';
import { isAt } from '../units/at-limit.ts';
import { foldText } from '../units/fold-text.ts';
import { classTest } from './class-test.ts';
import type { Condition, FieldCondition } from './condition.ts';
import { maskPartField, maskRowsOf } from './mask-part-field.ts';
import { maskRelated, readRoomNames } from './related-text.ts';
import { isWithin, maskText, maskTextList, type RowMask, textTest } from './text-mask.ts';

export type { RowMask } from './text-mask.ts';

const cache = new WeakMap<ElementTable, Map<string, RowMask>>();
/** Masks by what they were made from: tables that share a column share what is found in it. */
const masksOf = new WeakMap<object, Map<string, { readonly from: readonly object[]; readonly mask: RowMask }>>();

/**
 * Evaluates a scope over a whole table. Texts are tested once per distinct text, not per element, and each test's answer
 * is kept for as long as what it was found in lives: it is the very same mask for another table with the same columns. The mask is
 * shared: do not write to it.
 */
export function evaluateScope(condition: Condition, table: ElementTable): RowMask {
  let known = cache.get(table);
  if (!known) {
    known = new Map();
    cache.set(table, known);
  }
  const key = JSON.stringify(condition);
  let mask = known.get(key);
  if (!mask) {
    mask = evaluate(condition, table, key);
    forgetOldest(known);
    known.set(key, mask);
  }
  return mask;
}

/** The mask made from the very same things before, else a fresh one. */
function once(key: string, from: readonly object[], make: () => RowMask): RowMask {
  const first = from[0]!;
  let masks = masksOf.get(first);
  if (!masks) {
    masks = new Map();
    masksOf.set(first, masks);
  }
  const known = masks.get(key);
  if (known && known.from.length === from.length && from.every((f, i) => f === known.from[i])) return known.mask;
  const mask = make();
  forgetOldest(masks);
  masks.set(key, { from, mask });
  return mask;
}

/** Masks that are kept of one column or table at most: a condition that is typed is another at every key. */
const MOST_MASKS = 2000;
function forgetOldest(masks: Map<string, unknown>): void {
  if (masks.size >= MOST_MASKS) masks.delete(masks.keys().next().value!);
}

/**
 * Evaluates a scope over the layers, face styles or finishes of a whole table, one byte a part. What it says of the material, the layer,
 * the style or the finish must be true of the part itself, the rest of its element.
 * @example `material contains wool` over layers marks the layers of wool, and not their walls
 */
export function evaluateScopeOverParts(condition: Condition, table: ElementTable, part: DecidedPart): RowMask {
  const key = `${part}:${JSON.stringify(condition)}`;
  return once(key, [table.keys, ...readPartSources(table, part), ...listReadOfAll(condition, table)], () =>
    maskParts(condition, table, part),
  );
}

function maskParts(condition: Condition, table: ElementTable, part: DecidedPart): RowMask {
  if ('named' in condition) return maskParts(condition.is ?? NOTHING, table, part);
  if ('not' in condition) return maskParts(condition.not, table, part).map((hit) => 1 - hit);
  if ('field' in condition) {
    const own = maskPartField(condition, table, part);
    if (own) return own;
    const mask = evaluateScope(condition, table);
    return Uint8Array.from(listDecidedParts(table, part).rows, (row) => mask[row]!);
  }
  const [list, start] = 'all' in condition ? [condition.all, 1] : [condition.any, 0];
  const joined = new Uint8Array(listDecidedParts(table, part).rows.length).fill(start);
  for (const one of list) {
    const mask = maskParts(one, table, part);
    for (let at = 0; at < joined.length; at++) if (mask[at] !== start) joined[at] = 1 - start;
  }
  return joined;
}

function listReadOfAll(condition: Condition, table: ElementTable): readonly object[] {
  if ('field' in condition) return listRead(condition, table);
  if ('named' in condition) return condition.is ? listReadOfAll(condition.is, table) : [];
  if ('not' in condition) return listReadOfAll(condition.not, table);
  return ('all' in condition ? condition.all : condition.any).flatMap((c) => listReadOfAll(c, table));
}

/** Rows that a mask marks. */
export function listMaskedRows(mask: RowMask): number[] {
  const rows: number[] = [];
  mask.forEach((hit, row) => {
    if (hit) rows.push(row);
  });
  return rows;
}

/** Stands for the origin of tables that say none. */
const MODEL = { kind: 'model' };
const NOTHING: Condition = { any: [] };

function evaluate(condition: Condition, table: ElementTable, key: string): RowMask {
  if ('named' in condition) return evaluateScope(condition.is ?? NOTHING, table);
  if ('all' in condition) return joinMasks(condition.all, table, 1, key);
  if ('any' in condition) return joinMasks(condition.any, table, 0, key);
  if ('not' in condition) {
    const mask = evaluateScope(condition.not, table);
    return once(key, [mask], () => mask.map((hit) => 1 - hit));
  }
  return once(key, listRead(condition, table), () => evaluateField(condition, table));
}

/** What of a table a condition on a field looks at. */
function listRead({ field, of = '' }: FieldCondition, table: ElementTable): readonly object[] {
  switch (field) {
    case 'class':
      return [table.ifcClass];
    case 'type':
      return [table.typeName];
    case 'material':
      return [table.materials];
    case 'layer':
      return [table.layers];
    case 'room':
      return [readRoomNames(table)];
    case 'zone':
      return [table.zones];
    case 'code':
      return [table.codes];
    case 'style':
      return [table.faces];
    case 'finish':
      return [table.finishes, table.rooms, ...(table.wallFinishes ? [table.wallFinishes] : [])];
    case 'property':
      return [table.keys, ...findPropertyColumns(table, of)];
    case 'quantity': {
      const column = findQuantity(table, of);
      return [table.keys, ...(column ? [column] : [])];
    }
    case 'part':
      return [table.parent, ...listRelatedColumns(table, of)];
    case 'source':
      return [table.keys, table.origin ?? MODEL];
    case 'host':
      return [table.host, ...listRelatedColumns(table, of)];
    case 'whole':
      return [relateElements(table).wholes];
    case 'globalId':
      return [table.identity];
    default:
      return [table[field]];
  }
}

/** Columns that a condition on a whole or a host looks at. */
const listRelatedColumns = (table: ElementTable, of: string): readonly object[] =>
  of ? [table.keys, table.identity, table.ifcClass, table.typeName, table.name, table.materials, table.storey] : [];

const findQuantity = (table: ElementTable, of: string) => {
  const wanted = foldText(of);
  return [...listEffectiveQuantities(table).values()].find((c) => foldText(c.name) === wanted);
};

/** Joins masks: starting from all rows and taking out (`start` 1), or from none and putting in (0). */
function joinMasks(parts: readonly Condition[], table: ElementTable, start: 0 | 1, key: string): RowMask {
  const masks = parts.map((part) => evaluateScope(part, table));
  return once(key, masks.length > 0 ? masks : [table.keys], () => {
    const joined = new Uint8Array(table.count).fill(start);
    for (const mask of masks)
      for (let row = 0; row < table.count; row++) if (mask[row] !== start) joined[row] = 1 - start;
    return joined;
  });
}

function evaluateField(condition: FieldCondition, table: ElementTable): RowMask {
  switch (condition.field) {
    case 'class':
      return maskText(table.ifcClass, condition, classTest(condition));
    case 'type':
      return maskText(table.typeName, condition);
    case 'name':
      return maskText(table.name, condition);
    case 'tag':
      return maskText(table.tag, condition);
    case 'storey':
      return maskText(table.storey, condition);
    case 'globalId':
      return maskText(table.identity, condition, (text) =>
        [condition.value, ...(condition.values ?? [])].includes(text),
      );
    case 'material':
      return maskTextList(table.materials, condition);
    case 'zone':
      return maskTextList(table.zones, condition);
    case 'code':
      return maskTextList(table.codes, condition);
    case 'style':
      return maskTextList(
        { offset: table.faces.offset, pool: table.faces.style.pool, index: table.faces.style.index },
        condition,
      );
    case 'layer':
      return maskAnyLayer(condition, table);
    case 'room':
      return maskText(readRoomNames(table), condition);
    case 'source': {
      const isMeant = condition.op !== 'missing' && textTest(condition)(table.origin?.kind ?? 'model');
      return new Uint8Array(table.count).fill(Number(isMeant));
    }
    case 'host':
      return maskRelated(table, 'host', condition);
    case 'finish': {
      const surface = FINISH_SURFACES.find((f) => f === foldText(condition.of ?? '')) ?? 'floor';
      const mask = maskText(table.finishes[surface], condition);
      // Only rooms have finishes: "missing" asks for rooms without one.
      return mask.map((hit, row) =>
        table.rooms[row] ? hit || (surface === 'wall' ? testWallParts(table, row, condition) : 0) : 0,
      );
    }
    case 'property':
      return maskProperty(table, condition);
    case 'quantity':
      return maskQuantity(table, condition);
    case 'part':
      return maskRelated(table, 'parent', condition);
    case 'whole': {
      const wholes = new Set(relateElements(table).wholes);
      return maskPresence(
        table.keys.map((key) => (key !== 0 && wholes.has(key) ? 1 : 0)),
        condition,
      );
    }
  }
}

/** Rows any of whose layers a condition means; "missing" asks for rows without a layer that has the fact. */
function maskAnyLayer(condition: FieldCondition, table: ElementTable): RowMask {
  const isMissing = condition.op === 'missing';
  const layers = maskPartField(isMissing ? { ...condition, op: 'present' } : condition, table, 'layer')!;
  const mask = maskRowsOf(layers, table, 'layer');
  return isMissing ? mask.map((has) => 1 - has) : mask;
}

/** 1 if a part of a room's walls has a finish that a condition means. */
function testWallParts(table: ElementTable, row: number, condition: FieldCondition): number {
  const test = textTest(condition);
  const isMissing = condition.op === 'missing';
  return Number((table.wallFinishes?.get(row) ?? []).some((w) => (w.finish === null ? isMissing : !isMissing && test(w.finish)))); // biome-ignore format: one rule
}

function maskPresence(present: Int32Array, { op }: FieldCondition): RowMask {
  return Uint8Array.from(present, (p) => (op === 'missing' ? 1 - p : p));
}

/** Property columns that a name means: "Set.Name", or "Name" in any set. */
export function findPropertyColumns(table: ElementTable, name: string): PropertyColumn[] {
  const wanted = foldText(name);
  return table.properties.filter((c) => foldText(`${c.set}.${c.name}`) === wanted || foldText(c.name) === wanted);
}

function propertyTest(condition: FieldCondition): (value: PropertyValue) => boolean {
  const { op, value, values, min, max } = condition;
  const text = textTest(condition);
  const wanted = op === 'is' ? [value] : (values ?? []);
  return (actual) => {
    if (op === 'range') return isWithin(typeof actual === 'number' ? actual : Number(actual), min, max);
    if (op === 'is' || op === 'oneOf') {
      if (typeof actual === 'number') return wanted.some((w) => isAt(actual, Number(w)));
      if (typeof actual === 'boolean') return wanted.some((w) => isSameTruth(w, actual));
    }
    return text(String(actual));
  };
}

function isSameTruth(wanted: unknown, actual: boolean): boolean {
  if (typeof wanted === 'boolean') return wanted === actual;
  const yes = ['true', 'yes', '1', '.t.'];
  const no = ['false', 'no', '0', '.f.'];
  return (actual ? yes : no).includes(foldText(String(wanted)));
}

function maskProperty(table: ElementTable, condition: FieldCondition): RowMask {
  const test = propertyTest(condition);
  const mask = new Uint8Array(table.count);
  for (const { rows, values } of findPropertyColumns(table, condition.of ?? '')) {
    rows.forEach((row, i) => {
      const value = values[i]!;
      if (value !== '' && (condition.op === 'missing' || test(value))) mask[row] = 1;
    });
  }
  return condition.op === 'missing' ? mask.map((has) => 1 - has) : mask;
}

function maskQuantity(table: ElementTable, { of = '', op, value, min, max }: FieldCondition): RowMask {
  const mask = new Uint8Array(table.count);
  const column = findQuantity(table, of);
  for (let row = 0; row < table.count; row++) {
    const figure = column?.values[row] ?? Number.NaN;
    if (Number.isNaN(figure)) mask[row] = op === 'missing' ? 1 : 0;
    else if (op === 'present') mask[row] = 1;
    else if (op === 'range') mask[row] = isWithin(figure, min, max) ? 1 : 0;
    else if (op === 'is') mask[row] = isAt(figure, Number(value)) ? 1 : 0;
  }
  return mask;
}

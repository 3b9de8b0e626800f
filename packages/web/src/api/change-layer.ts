import {
  type ChosenFace,
  type EntryDiff,
  FACT_FIELDS,
  type FactField,
  type FinishSurface,
  type ProjectStateDto,
  type PropertyValue,
  type WallFinish,
  writeTypedNumber,
} from '@tally/core';
import { askFigure, readFigure } from '../ui/format.ts';

interface LayerChange {
  readonly cause: string;
  readonly diff: Partial<EntryDiff>;
}
type Layer = ProjectStateDto['layer'];

/** A change of one kind of entries that hang on ElementKeys; bodies that become empty are removed. */
function changeEntries<T extends object>(
  kind: string,
  present: Readonly<Record<string, T>>,
  keys: Iterable<number>,
  empty: T,
  change: (body: T) => T,
): Partial<EntryDiff> {
  const added: EntryDiff['added'][number][] = [];
  const updated: EntryDiff['updated'][number][] = [];
  const removed: EntryDiff['removed'][number][] = [];
  for (const key of keys) {
    const id = String(key);
    const from = present[id];
    const to = change(from ?? empty);
    if (JSON.stringify(from ?? empty) === JSON.stringify(to)) continue;
    if (from === undefined) added.push({ kind, id, body: to });
    else if (Object.keys(to).length === 0) removed.push({ kind, id, body: from });
    else updated.push({ kind, id, from, to });
  }
  return { added, updated, removed };
}

const countWords = (keys: readonly number[], one: string) =>
  keys.length === 1 ? `one ${one}` : `${keys.length} ${one}s`;

/** Gives rooms a finish; null says "none", undefined goes back to what the file says. */
export function changeFinish(
  layer: Layer,
  keys: readonly number[],
  surface: FinishSurface,
  name: string | null | undefined,
): LayerChange {
  const diff = changeEntries('finishes', layer.finishes, keys, {}, (body) => {
    const { [surface]: _, ...rest } = body;
    return name === undefined ? rest : { ...rest, [surface]: name };
  });
  const what = name === undefined ? 'as in the file' : (name ?? 'none');
  return {
    cause: `${surface[0]!.toUpperCase()}${surface.slice(1)} finish of ${countWords(keys, 'room')}: ${what}`,
    diff,
  };
}

/** Gives elements an attribute of our own; undefined takes it away. */
export function changeAttribute(
  layer: Layer,
  keys: readonly number[],
  name: string,
  value: PropertyValue | undefined,
): LayerChange {
  const diff = changeEntries('attributes', layer.attributes, keys, {}, (body) => {
    const { [name]: _, ...rest } = body;
    return value === undefined ? rest : { ...rest, [name]: value };
  });
  return {
    cause: `${name} of ${countWords(keys, 'element')}: ${value === undefined ? 'taken away' : String(value)}`,
    diff,
  };
}

/** Says of elements what the file has wrong; undefined goes back to what the file says. */
export function changeFact(
  layer: Layer,
  keys: readonly number[],
  field: FactField,
  value: string | boolean | undefined,
  by: string,
): LayerChange {
  const words = FACT_FIELDS.find((f) => f.field === field)!.words;
  const at = new Date().toISOString().slice(0, 10);
  const diff = changeEntries<Layer['facts'][string]>('facts', layer.facts, keys, {}, (body) => {
    const { [field]: known, by: _, at: __, ...rest } = body;
    if (known === value) return body;
    const facts = value === undefined ? rest : { ...rest, [field]: value };
    return Object.keys(facts).length === 0 ? {} : { ...facts, by, at };
  });
  const what = value === undefined ? 'as in the file' : value === true ? 'yes' : value === false ? 'no' : value;
  return { cause: `${words} of ${countWords(keys, 'element')}: ${what}`, diff };
}

/** Goes back to what the file says, in all that was corrected of elements. */
export function withdrawFacts(layer: Layer, keys: readonly number[]): LayerChange {
  return {
    cause: `Corrections of ${countWords(keys, 'element')} withdrawn`,
    diff: changeEntries<Layer['facts'][string]>('facts', layer.facts, keys, {}, () => ({})),
  };
}

/** Puts elements into zones of our own, beside those of the file. */
export function changeZones(layer: Layer, keys: readonly number[], zones: readonly string[]): LayerChange {
  const wanted = [...new Set(zones.map((z) => z.trim()).filter(Boolean))];
  return {
    cause: `Zones of ${countWords(keys, 'element')}: ${wanted.join(', ') || 'as in the file'}`,
    diff: changeEntries('zones', layer.zones, keys, [], () => wanted),
  };
}

/** Gives the walls of rooms several finishes, part by part; an empty list leaves them the one of the room. */
export function changeWallFinishes(layer: Layer, keys: readonly number[], parts: readonly WallFinish[]): LayerChange {
  const clean = JSON.parse(JSON.stringify(parts)) as WallFinish[];
  return {
    cause: `Walls of ${countWords(keys, 'room')}: ${clean.map((p) => p.finish ?? 'none').join(', ') || 'one finish'}`,
    diff: changeEntries<readonly WallFinish[]>('wallFinishes', layer.wallFinishes, keys, [], () => clean),
  };
}

/** Keeps chosen faces of elements under a name, beside those that are kept under it already. */
export function keepChosenFaces(
  layer: Layer,
  picked: readonly { readonly elementKey: number; readonly face: ChosenFace }[],
  name: string,
): LayerChange {
  const keys = [...new Set(picked.map((p) => p.elementKey))];
  const diff = keys.map((key) =>
    changeEntries<Readonly<Record<string, readonly ChosenFace[]>>>(
      'chosenFaces',
      layer.chosenFaces,
      [key],
      {},
      (body) => ({
        ...body,
        [name]: [...(body[name] ?? []), ...picked.filter((p) => p.elementKey === key).map((p) => p.face)],
      }),
    ),
  );
  return {
    cause: `${name}: ${picked.length === 1 ? 'a face' : `${picked.length} faces`} of ${countWords(keys, 'element')}`,
    diff: {
      added: diff.flatMap((d) => d.added ?? []),
      updated: diff.flatMap((d) => d.updated ?? []),
    },
  };
}

/** Gives up the faces of an element that are kept under a name. */
export function dropChosenFaces(layer: Layer, key: number, name: string): LayerChange {
  return {
    cause: `${name}: faces given up`,
    diff: changeEntries<Readonly<Record<string, readonly ChosenFace[]>>>(
      'chosenFaces',
      layer.chosenFaces,
      [key],
      {},
      ({ [name]: _, ...rest }) => rest,
    ),
  };
}

/** Renames a zone of our own on all its elements, or does away with it (null). */
export function renameZone(layer: Layer, name: string, to: string | null): LayerChange {
  const keys = Object.entries(layer.zones).flatMap(([key, zones]) => (zones.includes(name) ? [Number(key)] : []));
  const diff = changeEntries<readonly string[]>('zones', layer.zones, keys, [], (zones) => [
    ...new Set(zones.flatMap((z) => (z !== name ? [z] : to === null ? [] : [to]))),
  ]);
  return { cause: to === null ? `Zone removed: ${name}` : `Zone ${name} renamed: ${to}`, diff };
}

/** A typed attribute: yes and no are truths, figures numbers, the rest text. Empty is none. */
export function readAttribute(text: string): PropertyValue | undefined {
  const trimmed = text.trim();
  if (trimmed === '') return undefined;
  if (/^(yes|true)$/i.test(trimmed)) return true;
  if (/^(no|false)$/i.test(trimmed)) return false;
  const figure = readFigure(trimmed);
  if (figure !== null) return figure;
  const [, head, unit] = FIGURE_AND_UNIT.exec(trimmed) ?? [];
  const read = head === undefined ? null : readFigure(head);
  // Others write figures in another way: what is kept has a point.
  return read === null ? trimmed : `${writeTypedNumber(read)} ${unit}`;
}

const FIGURE_AND_UNIT = /^(-?\d[\d.,]*)\s*([a-z][a-z²³\d/]*)$/i;

/** What is asked back about a typed attribute whose figure could be one of two; null if it is clear. */
export const askAttribute = (text: string): string | null =>
  askFigure(FIGURE_AND_UNIT.exec(text.trim())?.[1] ?? text.trim());

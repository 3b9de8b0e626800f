import {
  type ChosenFace,
  changeBodies,
  countWords,
  FACT_FIELDS,
  type FactField,
  type FinishSurface,
  type ProjectStateDto,
  type PropertyValue,
  type WallFinish,
  type WordedChange,
  writeTypedNumber,
} from '@tally/core';
import { askFigure, readFigure } from '../ui/format.ts';

type Layer = ProjectStateDto['layer'];

/** Gives rooms a finish; null says "none", undefined goes back to what the file says. */
export function changeFinish(
  layer: Layer,
  keys: readonly number[],
  surface: FinishSurface,
  name: string | null | undefined,
): WordedChange {
  const diff = changeBodies('finishes', layer.finishes, keys, {}, (body) => {
    const { [surface]: _, ...rest } = body;
    return name === undefined ? rest : { ...rest, [surface]: name };
  });
  const what = name === undefined ? 'as in the file' : (name ?? 'none');
  return {
    cause: `${surface[0]!.toUpperCase()}${surface.slice(1)} finish of ${countWords(keys.length, 'room')}: ${what}`,
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
): WordedChange {
  const words = FACT_FIELDS.find((f) => f.field === field)!.words;
  const at = new Date().toISOString().slice(0, 10);
  const diff = changeBodies<Layer['facts'][string]>('facts', layer.facts, keys, {}, (body) => {
    const { [field]: known, by: _, at: __, ...rest } = body;
    if (known === value) return body;
    const facts = value === undefined ? rest : { ...rest, [field]: value };
    return Object.keys(facts).length === 0 ? {} : { ...facts, by, at };
  });
  const what = value === undefined ? 'as in the file' : value === true ? 'yes' : value === false ? 'no' : value;
  return { cause: `${words} of ${countWords(keys.length, 'element')}: ${what}`, diff };
}

/** Goes back to what the file says, in all that was corrected of elements. */
export function withdrawFacts(layer: Layer, keys: readonly number[]): WordedChange {
  return {
    cause: `Corrections of ${countWords(keys.length, 'element')} withdrawn`,
    diff: changeBodies<Layer['facts'][string]>('facts', layer.facts, keys, {}, () => ({})),
  };
}

/** Puts elements into zones of our own, beside those of the file. */
export function changeZones(layer: Layer, keys: readonly number[], zones: readonly string[]): WordedChange {
  const wanted = [...new Set(zones.map((z) => z.trim()).filter(Boolean))];
  return {
    cause: `Zones of ${countWords(keys.length, 'element')}: ${wanted.join(', ') || 'as in the file'}`,
    diff: changeBodies('zones', layer.zones, keys, [], () => wanted),
  };
}

/** Gives the walls of rooms several finishes, part by part; an empty list leaves them the one of the room. */
export function changeWallFinishes(layer: Layer, keys: readonly number[], parts: readonly WallFinish[]): WordedChange {
  const clean = JSON.parse(JSON.stringify(parts)) as WallFinish[];
  return {
    cause: `Walls of ${countWords(keys.length, 'room')}: ${clean.map((p) => p.finish ?? 'none').join(', ') || 'one finish'}`,
    diff: changeBodies<readonly WallFinish[]>('wallFinishes', layer.wallFinishes, keys, [], () => clean),
  };
}

/** Keeps chosen faces of elements under a name, beside those that are kept under it already. */
export function keepChosenFaces(
  layer: Layer,
  picked: readonly { readonly elementKey: number; readonly face: ChosenFace }[],
  name: string,
): WordedChange {
  const keys = [...new Set(picked.map((p) => p.elementKey))];
  const diff = keys.map((key) =>
    changeBodies<Readonly<Record<string, readonly ChosenFace[]>>>(
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
    cause: `${name}: ${picked.length === 1 ? 'a face' : `${picked.length} faces`} of ${countWords(keys.length, 'element')}`,
    diff: {
      added: diff.flatMap((d) => d.added),
      updated: diff.flatMap((d) => d.updated),
      removed: diff.flatMap((d) => d.removed),
    },
  };
}

/** Gives up the faces of an element that are kept under a name. */
export function dropChosenFaces(layer: Layer, key: number, name: string): WordedChange {
  return {
    cause: `${name}: faces given up`,
    diff: changeBodies<Readonly<Record<string, readonly ChosenFace[]>>>(
      'chosenFaces',
      layer.chosenFaces,
      [key],
      {},
      ({ [name]: _, ...rest }) => rest,
    ),
  };
}

/** Renames a zone of our own on all its elements, or does away with it (null). */
export function renameZone(layer: Layer, name: string, to: string | null): WordedChange {
  const keys = Object.entries(layer.zones).flatMap(([key, zones]) => (zones.includes(name) ? [Number(key)] : []));
  const diff = changeBodies<readonly string[]>('zones', layer.zones, keys, [], (zones) => [
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

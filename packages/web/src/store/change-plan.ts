import {
  type CheckedMark,
  type CostItem,
  type Entry,
  type EntryDiff,
  type GivenFigure,
  type HeldMark,
  type ItemSwap,
  type MarkedThing,
  markId,
  nameQuantity,
  type PlanNote,
  type PlanView,
  type ProjectStateDto,
  type SiUnit,
  type Target,
  targetId,
  UNUSUAL_WASTE,
  type WordedChange,
} from '@tally/core';
import { askFigure, editFigure, readFigure } from '../ui/format.ts';

type Layer = ProjectStateDto['layer'];

/** Puts one entry where another may stand; nothing is asked of one that is the same. */
function put<T>(kind: string, id: string, from: T | undefined, to: T | null): EntryDiff {
  const [added, updated, removed]: [Entry[], EntryDiff['updated'][number][], Entry[]] = [[], [], []];
  if (to === null) {
    if (from !== undefined) removed.push({ kind, id, body: from });
  } else if (from === undefined) added.push({ kind, id, body: to });
  else if (JSON.stringify(from) !== JSON.stringify(to)) updated.push({ kind, id, from, to });
  return { added, updated, removed };
}

const now = () => new Date().toISOString().slice(0, 10);

/** Marks of what was looked at and found right, with what the plan says of it by now. */
export function markChecked(
  known: readonly CheckedMark[],
  things: readonly MarkedThing[],
  signed: readonly { readonly signature: string; readonly amount: number }[],
  by: string,
): WordedChange {
  const kept = new Map(known.map((m) => [markId(m.on), m]));
  const diffs = things.flatMap((on, i) =>
    signed[i]!.signature === '' ? [] : [put<CheckedMark>('checked', markId(on), kept.get(markId(on)), {
      on, signature: signed[i]!.signature, amount: Math.round(signed[i]!.amount / 10_000), by, at: now(),
    })],
  ); // biome-ignore format: one mark a thing
  return { cause: `Checked: ${sayThings(things)}`, diff: joinDiffs(diffs) };
}

/** Takes marks back. */
export function unmark(known: readonly CheckedMark[], things: readonly MarkedThing[]): WordedChange {
  const kept = new Map(known.map((m) => [markId(m.on), m]));
  const diffs = things.map((on) => put('checked', markId(on), kept.get(markId(on)), null));
  return { cause: `Not checked any more: ${sayThings(things)}`, diff: joinDiffs(diffs) };
}

const sayThing = (on: MarkedThing): string =>
  'element' in on
    ? 'an element'
    : [...on.path.map((p) => p.is), ...(on.item === undefined ? [] : [on.item])].join(', ');
const sayThings = (things: readonly MarkedThing[]) =>
  things.length === 1 ? sayThing(things[0]!) : `${things.length} lines`;

function joinDiffs(diffs: readonly EntryDiff[]): EntryDiff {
  return {
    added: diffs.flatMap((d) => d.added),
    updated: diffs.flatMap((d) => d.updated),
    removed: diffs.flatMap((d) => d.removed),
  };
}

/** Marks that do not hold any more, the most money first. */
export const listFallen = (marks: readonly HeldMark[]): HeldMark[] =>
  marks.filter((m) => !m.holds).sort((a, b) => b.mark.amount - a.mark.amount);

/** Sets a figure of an element by hand, or (null) goes back to the model's own. */
export function setFigure(
  { given }: Pick<Layer, 'given'>,
  key: number,
  { name, unit, was }: { readonly name: string; readonly unit: SiUnit; readonly was: number | null },
  value: number | null,
  reason: string,
  by: string,
): WordedChange {
  const from = given[key];
  const { [name]: before, ...others } = from ?? {};
  const figure: GivenFigure | null =
    value === null ? null : { value, unit, was: before?.was ?? was, reason: reason.trim(), by, at: now() };
  const to = figure ? { ...others, [name]: figure } : Object.keys(others).length > 0 ? others : null;
  const { word } = nameQuantity(name);
  const cause = figure ? `${word} set by hand: ${reason.trim()}` : `${word}: the model's own figure again`;
  return { cause, diff: put('given', String(key), from, to) };
}

/** An item in place of another, in one work section or everywhere; null takes that back. */
export function swapItem(known: readonly ItemSwap[], from: string, section: string | null, to: string | null): WordedChange {
  const id = section === null ? from : `${section}|${from}`;
  const before = known.find((s) => s.from === from && (s.section ?? null) === section);
  const body = to === null ? null : { from, to, ...(section === null ? {} : { section }) };
  const where = section === null ? 'everywhere' : 'in its section';
  return { cause: to === null ? `${from} in its own place again` : `${to} in place of ${from}, ${where}`, diff: put('swap', id, before, body) };
} // biome-ignore format: one change

/** What the client wants to spend on something; null takes the target away. */
export function setTarget(known: readonly Target[], of: Pick<Target, 'by' | 'is'>, to: Target | null, label: string): WordedChange {
  const id = targetId(of);
  const before = known.find((t) => targetId(t) === id);
  return { cause: to === null ? `No target for ${label}` : `Target for ${label}: ${to.amount}`, diff: put('target', id, before, to) };
} // biome-ignore format: one change

/** Tells the notes of a plan line: its work section and item. */
export const noteId = (section: string | null, item: string): string => `${section ?? ''}|${item}`;

/** What somebody notes on a line of the plan; an empty text takes the note away. */
export function noteLine(notes: ProjectStateDto['notes'], id: string, text: string, by: string): WordedChange {
  const to: PlanNote | null = text.trim() === '' ? null : { text: text.trim(), by, at: now() };
  return { cause: to ? `Note: ${to.text.slice(0, 60)}` : 'Note taken away', diff: put('note', id, notes[id], to) };
}

/** A way to look at the plan under a name; null takes it away. */
export function savePlanView(views: ProjectStateDto['planViews'], name: string, view: PlanView | null): WordedChange {
  return { cause: view ? `View of the plan: ${name}` : `View of the plan taken away: ${name}`, diff: put('planView', name, views[name], view) }; // biome-ignore format: one change
}

/** Another waste of an item; a text says why it cannot be taken. */
export function changeWaste(item: CostItem, text: string): WordedChange | string {
  const typed = text.replace('%', '').trim();
  const unclear = askFigure(typed);
  if (unclear) return unclear;
  const waste = typed === '' ? 0 : readFigure(typed);
  if (waste === null || waste < 0) return `"${text}" is no per cent. Write e.g. 5.`;
  if (waste > UNUSUAL_WASTE)
    return `${typed} % waste buys more than twice of what is needed. Set it in the book if it is meant.`;
  const { wastePercent: _, ...rest } = item;
  const to: CostItem = waste === 0 ? rest : { ...item, wastePercent: waste };
  return { cause: `Waste of ${item.code}: ${editFigure(waste)} %`, diff: put('item', item.code, item, to) };
}

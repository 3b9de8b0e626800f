import Flatbush from 'flatbush';
import { findCommonShift, medianStep } from './common-shift.ts';
import { judgeLikeness, readTraits, SAME_PLACE, type Step, type Traits } from './element-likeness.ts';
import type { ElementTable } from './element-table.ts';

/** An element of a new revision that may be one of the revision before under another id. */
export interface LikePair {
  /** Rows of the table before and of the one after. */
  readonly from: number;
  readonly to: number;
  /** 0 to 1, as `judgeLikeness` has it. */
  readonly score: number;
  /** By how much it is more alike than any other that either could be. */
  readonly margin: number;
  /** Taken without asking. */
  readonly isSure: boolean;
}

/** Likeness from which a pair is taken, if it stands in the same place or has a name of its own. */
const SURE_IN_PLACE = 0.6;
const SURE_BY_NAME = 0.55;
/** By how much it must be more alike than the next. */
const SURE_MARGIN = 0.05;
/** Likeness from which somebody is asked. */
const WORTH_ASKING = 0.5;
/** Others that an element is held against at most: the nearest. */
const MOST_NEAR = 12;
/** Elements of one name, or one tag, that are held against each other at most. */
const MOST_OF_A_NAME = 3;
/** Pairs of one element that are asked about at most. */
const MOST_ASKED = 3;
/** How far an element is looked for around its place: half its size, but within these, m. */
const REACH = { least: 1, most: 10 } as const;

interface Candidate {
  readonly a: Traits;
  readonly b: Traits;
  readonly score: number;
  readonly place: number;
  /** Its name or tag is that of no other, before and after. */
  readonly isNamed: boolean;
}

/**
 * Finds elements again that came back under other ids. Held against each other are those of one class that stand near, or have one name or tag.
 * A pair is sure if it alone stands in one place, once the common shift of the source is taken out, and is alike enough; else if its name or
 * tag is unique in both revisions, it is alike enough, and more alike than any other that either could be. What may be, but is not sure, is
 * told to be asked about.
 * @param matched rows that are known by their ids: before, after
 * @returns in the order of rows after, the most alike first; each row is in one sure pair or in some that are asked about
 * @example all ids renewed and one of a row of equal columns gone: the others are paired by their places, that one with none
 */
export function reidentifyElements(
  before: ElementTable,
  after: ElementTable,
  matched: readonly (readonly [before: number, after: number])[],
): readonly LikePair[] {
  const [known, taken] = [new Set(matched.map(([a]) => a)), new Set(matched.map(([, b]) => b))];
  const [all, allNow] = [before, after].map((table) => readTraits(table, Array(table.count).keys())) as [Traits[], Traits[]]; // biome-ignore format: one step
  const old = all.filter((t) => !known.has(t.row));
  const now = allNow.filter((t) => !taken.has(t.row));
  if (old.length === 0 || now.length === 0) return [];
  const step =
    matched.length > 0 ? medianStep(matched.map(([a, b]) => [all[a]!, allNow[b]!])) : findCommonShift(old, now);
  const candidates = listCandidates(old, now, step ?? [0, 0, 0], findUniqueNames(all, allNow));
  const sure = takeSure(candidates, step !== null);
  const asked = listDoubtful(candidates, sure);
  return [...sure, ...asked].sort((p, q) => p.to - q.to || q.score - p.score || p.from - q.from);
}

const nameKeys = ({ ifcClass, name, tag }: Traits): string[] => [
  ...(name === null ? [] : [`${ifcClass}|n|${name}`]),
  ...(tag === null ? [] : [`${ifcClass}|t|${tag}`]),
];

/** Names and tags, with their class, that one element each has in both revisions. */
function findUniqueNames(before: readonly Traits[], after: readonly Traits[]): ReadonlySet<string> {
  const count = (list: readonly Traits[]) => {
    const counts = new Map<string, number>();
    for (const t of list) for (const key of nameKeys(t)) counts.set(key, (counts.get(key) ?? 0) + 1);
    return counts;
  };
  const [old, now] = [count(before), count(after)];
  return new Set([...old].flatMap(([key, n]) => (n === 1 && now.get(key) === 1 ? [key] : [])));
}

function listCandidates(
  old: readonly Traits[],
  now: readonly Traits[],
  shift: Step,
  unique: ReadonlySet<string>,
): Candidate[] {
  const near = new NearElements(now, shift);
  const named = new Map<string, Traits[]>();
  for (const b of now)
    for (const key of nameKeys(b)) {
      const list = named.get(key);
      if (list) list.push(b);
      else named.set(key, [b]);
    }
  return old.flatMap((a) => {
    const found = new Set(near.around(a));
    for (const key of nameKeys(a)) {
      const list = named.get(key) ?? [];
      if (list.length <= MOST_OF_A_NAME) for (const b of list) found.add(b);
    }
    const own = new Set(nameKeys(a).filter((key) => unique.has(key)));
    return [...found].map((b): Candidate => {
      const isNamed = nameKeys(b).some((key) => own.has(key));
      return { a, b, isNamed, ...judgeLikeness(a, b, shift) };
    });
  });
}

/** Elements of each class by their place. */
class NearElements {
  private readonly byClass = new Map<string, { readonly list: Traits[]; readonly index: Flatbush }>();

  constructor(
    elements: readonly Traits[],
    private readonly shift: Step,
  ) {
    const lists = new Map<string, Traits[]>();
    for (const e of elements) {
      if (!e.centre) continue;
      const list = lists.get(e.ifcClass);
      if (list) list.push(e);
      else lists.set(e.ifcClass, [e]);
    }
    for (const [ifcClass, list] of lists) {
      const index = new Flatbush(list.length);
      for (const { centre } of list) index.add(centre![0] - shift[0], centre![1] - shift[1]);
      index.finish();
      this.byClass.set(ifcClass, { list, index });
    }
  }

  /** The nearest of its class around an element. */
  around({ ifcClass, centre, size }: Traits): Traits[] {
    const of = this.byClass.get(ifcClass);
    if (!of || !centre || !size) return [];
    const reach = Math.min(REACH.most, Math.max(REACH.least, Math.max(...size) / 2));
    const [x, y] = centre;
    const distance = ({ centre: c }: Traits) => Math.hypot(...centre.map((v, i) => c![i]! - this.shift[i]! - v));
    return of.index
      .search(x - reach, y - reach, x + reach, y + reach)
      .map((i) => ({ b: of.list[i]!, d: distance(of.list[i]!) }))
      .filter(({ d }) => d <= reach)
      .sort((p, q) => p.d - q.d || p.b.row - q.b.row)
      .slice(0, MOST_NEAR)
      .map(({ b }) => b);
  }
}

/** The two largest scores that an element has, each with who it is with. */
class BestTwo {
  private readonly best = new Map<number, [first: Candidate, second: Candidate | null]>();

  constructor(
    candidates: readonly Candidate[],
    private readonly rowOf: (c: Candidate) => number,
    private readonly scoreOf: (c: Candidate) => number,
  ) {
    for (const c of candidates) {
      const two = this.best.get(rowOf(c));
      if (!two) this.best.set(rowOf(c), [c, null]);
      else if (scoreOf(c) > scoreOf(two[0])) this.best.set(rowOf(c), [c, two[0]]);
      else if (!two[1] || scoreOf(c) > scoreOf(two[1])) two[1] = c;
    }
  }

  /** The score of the best but this one; 0 if there is none. */
  besides(c: Candidate): number {
    const [first, second] = this.best.get(this.rowOf(c))!;
    const other = first === c ? second : first;
    return other ? this.scoreOf(other) : 0;
  }
}

/** How much better than the next a candidate is, for both its elements. */
const measureMargins = (candidates: readonly Candidate[], scoreOf = (c: Candidate) => c.score) => {
  const ofOld = new BestTwo(candidates, (c) => c.a.row, scoreOf);
  const ofNew = new BestTwo(candidates, (c) => c.b.row, scoreOf);
  return (c: Candidate) => scoreOf(c) - Math.max(ofOld.besides(c), ofNew.besides(c));
};

/** Takes sure pairs: those in place first, then those by name, until no more are found; what is taken stands in nobody's way. */
function takeSure(all: readonly Candidate[], isPlaceKnown: boolean): LikePair[] {
  const taken: LikePair[] = [];
  const [goneOld, goneNew] = [new Set<number>(), new Set<number>()];
  let left = all;
  const take = (test: (c: Candidate) => boolean): boolean => {
    const margin = measureMargins(left);
    const found = left.filter(test);
    for (const c of found) {
      taken.push({ from: c.a.row, to: c.b.row, score: c.score, margin: Math.max(0, margin(c)), isSure: true });
      goneOld.add(c.a.row);
      goneNew.add(c.b.row);
    }
    left = left.filter((c) => !goneOld.has(c.a.row) && !goneNew.has(c.b.row));
    return found.length > 0;
  };
  for (let isMore = true; isMore; ) {
    const placeMargin = measureMargins(left, (c) => (c.place >= SAME_PLACE ? 1 : 0));
    const isInPlace = (c: Candidate) =>
      isPlaceKnown && c.place >= SAME_PLACE && c.score >= SURE_IN_PLACE && placeMargin(c) === 1;
    isMore = take(isInPlace);
    const margin = measureMargins(left);
    isMore = take((c) => c.isNamed && c.score >= SURE_BY_NAME && margin(c) >= SURE_MARGIN) || isMore;
  }
  return taken;
}

/** Pairs that may be, of what is in no sure one: the best of each element of before. */
function listDoubtful(all: readonly Candidate[], sure: readonly LikePair[]): LikePair[] {
  const [gone, come] = [new Set(sure.map((p) => p.from)), new Set(sure.map((p) => p.to))];
  const left = all.filter((c) => c.score >= WORTH_ASKING && !gone.has(c.a.row) && !come.has(c.b.row));
  const margin = measureMargins(left);
  const of = new Map<number, Candidate[]>();
  for (const c of left) of.set(c.a.row, [...(of.get(c.a.row) ?? []), c]);
  return [...of.values()].flatMap((list) =>
    list
      .sort((p, q) => q.score - p.score || p.b.row - q.b.row)
      .slice(0, MOST_ASKED)
      .map((c) => ({ from: c.a.row, to: c.b.row, score: c.score, margin: margin(c), isSure: false })),
  );
}

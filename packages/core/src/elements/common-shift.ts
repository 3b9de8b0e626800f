import type { Step, Traits } from './element-likeness.ts';

/** Steps that are no further apart are one step, m. */
const NEAR = 0.01;
/** Elements that are held against all of their kind to find the step. */
const MOST_ASKED = 300;
/** Steps that are tried on all elements. */
const MOST_TRIED = 12;

/** Elements that are looked at whether they land on one of their kind. */
const MOST_LANDED = 2000;

const NOWHERE: Step = [0, 0, 0];

/** What is alike of elements that only stand elsewhere. */
const kindOf = ({ ifcClass, type, size }: Traits): string =>
  `${ifcClass}|${type ?? ''}|${size?.map((s) => s.toFixed(3)).join()}`;

const stepKey = (step: Step): string => step.map((s) => Math.round(s / NEAR)).join();

/** Where models stand whose elements are known by their ids: the step that most of them made. None if there are none with a shape. */
export function medianStep(
  pairs: readonly (readonly [a: Pick<Traits, 'centre'>, b: Pick<Traits, 'centre'>])[],
): Step | null {
  const steps = pairs.flatMap(([a, b]) =>
    a.centre && b.centre ? [[b.centre[0] - a.centre[0], b.centre[1] - a.centre[1], b.centre[2] - a.centre[2]]] : [],
  );
  if (steps.length === 0) return null;
  const middle = (i: number) => {
    const sorted = steps.map((s) => s[i]!).sort((p, q) => p - q);
    return (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2;
  };
  return [middle(0), middle(1), middle(2)];
}

/**
 * By how much a model stands elsewhere as a whole, where none of its elements is known by its id: the step under which most elements come to
 * stand on one of their kind. That it stands still goes before others that do no better; of two others that do as well none is taken.
 * @returns null where it cannot be told
 */
export function findCommonShift(before: readonly Traits[], after: readonly Traits[]): Step | null {
  const places = new Map<string, Traits[]>();
  for (const b of after) {
    if (!b.centre) continue;
    const kind = kindOf(b);
    const list = places.get(kind);
    if (list) list.push(b);
    else places.set(kind, [b]);
  }
  // The rarest kinds say most: a door of which there is one tells the step alone.
  const kinds = new Map(before.map((a) => [a, kindOf(a)]));
  const counts = new Map<string, number>();
  for (const kind of kinds.values()) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  const asked = before
    .filter((a) => a.centre && places.has(kinds.get(a)!))
    .sort((a, b) => counts.get(kinds.get(a)!)! - counts.get(kinds.get(b)!)! || a.row - b.row)
    .slice(0, MOST_ASKED);
  const votes = new Map<string, { readonly step: Step; count: number }>();
  for (const a of asked) {
    const alike = places.get(kinds.get(a)!)!;
    for (const b of alike) {
      const step: Step = [b.centre![0] - a.centre![0], b.centre![1] - a.centre![1], b.centre![2] - a.centre![2]];
      const key = stepKey(step);
      const vote = votes.get(key);
      if (vote) vote.count += 1 / alike.length;
      else votes.set(key, { step, count: 1 / alike.length });
    }
  }
  const stood = new Map<string, number>();
  for (const b of after) if (b.centre) stood.set(`${kindOf(b)}|${stepKey(b.centre)}`, 1);
  // Of many elements some tell: every so manieth.
  const stride = Math.max(1, Math.ceil(before.length / MOST_LANDED));
  const told = before.flatMap((a, i) =>
    i % stride === 0 && a.centre ? [{ centre: a.centre, kind: kinds.get(a)! }] : [],
  );
  const landed = (step: Step) => {
    let count = 0;
    for (const { centre, kind } of told) if (landsOn(centre, kind, step, stood)) count++;
    return count;
  };
  const tried = [...votes.values()]
    .sort((p, q) => q.count - p.count)
    .slice(0, MOST_TRIED)
    .map(({ step }) => ({ step, count: landed(step) }))
    .sort((p, q) => q.count - p.count);
  const still = landed(NOWHERE);
  const [best, second] = tried;
  if (!best || still >= best.count) return still > 0 ? NOWHERE : null;
  const isOther = second?.step.some((s, i) => Math.abs(s - best.step[i]!) > 2 * NEAR);
  return isOther && second.count >= best.count ? null : best.step;
}

/** Whether one of its kind stands where the element comes to stand, a hair aside at most. */
function landsOn(centre: Step, kind: string, step: Step, stood: ReadonlyMap<string, number>): boolean {
  const at = centre.map((c, i) => (c + step[i]!) / NEAR);
  for (const x of [Math.floor(at[0]!), Math.ceil(at[0]!)])
    for (const y of [Math.floor(at[1]!), Math.ceil(at[1]!)])
      for (const z of [Math.floor(at[2]!), Math.ceil(at[2]!)]) if (stood.has(`${kind}|${x},${y},${z}`)) return true;
  return false;
}

import { type ElementTable, readText, type SaidIdentities, sayClass } from '@tally/core';

/** An element that came under another id, with the one of before that it is or may be. */
export interface IdentifiedPair {
  readonly sourceId: string;
  /** ElementKey of its own, on which what is said about it hangs. */
  readonly own: number;
  readonly was: number;
  readonly label: string;
  readonly storey: string | null;
  /** How alike they are, 0 to 1; null for a pair that somebody made by hand. */
  readonly score: number | null;
  /** It was taken without asking. */
  readonly isSure: boolean;
  /** What somebody said: the same, another, or nothing yet. */
  readonly said: 'same' | 'other' | null;
}

/** Pairs of the counting revisions, and those made by hand of their elements: those that need somebody first, then the least alike. */
export function listIdentified(
  models: readonly { readonly revision: { readonly sourceId: string }; readonly plain: ElementTable }[],
  said: SaidIdentities,
): IdentifiedPair[] {
  const pairs = models.flatMap(({ revision: { sourceId }, plain }) => {
    const { identified } = plain;
    const toPair = (row: number, own: number, was: number, score: number | null, isSure: boolean): IdentifiedPair => {
      const answer = said.get(own);
      const label = `${sayClass(readText(plain.ifcClass, row) ?? '') ?? ''} ${readText(plain.name, row) ?? ''}`.trim();
      const isSaid = answer === undefined ? null : answer === was ? 'same' : 'other';
      return { sourceId, own, was, label, storey: readText(plain.storey, row), score, isSure, said: isSaid };
    };
    const found = [...(identified?.rows ?? [])].map((row, i) =>
      toPair(row, identified!.own[i]!, identified!.was[i]!, identified!.score[i]!, identified!.sure[i] === 1),
    );
    const isListed = new Set(found.map((p) => `${p.own}/${p.was}`));
    const findRow = (own: number) => {
      const at = identified?.own.indexOf(own) ?? -1;
      return at < 0 ? plain.keys.indexOf(own) : identified!.rows[at]!;
    };
    const byHand = [...said].flatMap(([own, was]) => {
      if (was === null || isListed.has(`${own}/${was}`)) return [];
      const row = findRow(own);
      return row < 0 ? [] : [toPair(row, own, was, null, false)];
    });
    return [...found, ...byHand];
  });
  return pairs.sort(
    (a, b) => Number(isAsked(b)) - Number(isAsked(a)) || (a.score ?? 1) - (b.score ?? 1) || a.own - b.own,
  );
}

/** Whether somebody has to say what a pair is. */
export const isAsked = ({ said, isSure }: IdentifiedPair): boolean => !isSure && said === null;

/** Whether a pair counts as one element. */
export const isTaken = ({ said, isSure }: IdentifiedPair): boolean => said === 'same' || (said === null && isSure);

/** Pairs that claim the element of before that another has already. */
export function findClashes(pairs: readonly IdentifiedPair[]): ReadonlySet<number> {
  const claimed = new Map<number, number[]>();
  for (const p of pairs) if (isTaken(p)) claimed.set(p.was, [...(claimed.get(p.was) ?? []), p.own]);
  return new Set([...claimed.values()].filter((owns) => owns.length > 1).flat());
}

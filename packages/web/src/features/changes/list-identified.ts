import { type ElementTable, readText, type SaidIdentities, sayClass } from '@tally/core';

/** An element that came under another id, with the one of before that it is or may be. */
export interface IdentifiedPair {
  readonly sourceId: string;
  /** ElementKey of its own, on which what is said about it hangs. */
  readonly own: number;
  readonly was: number;
  readonly label: string;
  readonly storey: string | null;
  readonly score: number;
  /** It was taken without asking. */
  readonly isSure: boolean;
  /** What somebody said: the same, another, or nothing yet. */
  readonly said: 'same' | 'other' | null;
}

/** Pairs of the counting revisions, those that need somebody first, then the least alike. */
export function listIdentified(
  models: readonly { readonly revision: { readonly sourceId: string }; readonly plain: ElementTable }[],
  said: SaidIdentities,
): IdentifiedPair[] {
  const pairs = models.flatMap(({ revision, plain }) => {
    const { identified } = plain;
    if (!identified) return [];
    return [...identified.rows].map((row, i): IdentifiedPair => {
      const [own, was] = [identified.own[i]!, identified.was[i]!];
      const answer = said.get(own);
      const label = `${sayClass(readText(plain.ifcClass, row) ?? '') ?? ''} ${readText(plain.name, row) ?? ''}`.trim();
      return {
        sourceId: revision.sourceId,
        own,
        was,
        label,
        storey: readText(plain.storey, row),
        score: identified.score[i]!,
        isSure: identified.sure[i] === 1,
        said: answer === undefined ? null : answer === was ? 'same' : 'other',
      };
    });
  });
  const isOpen = (p: IdentifiedPair) => !p.isSure && p.said === null;
  return pairs.sort((a, b) => Number(isOpen(b)) - Number(isOpen(a)) || a.score - b.score || a.own - b.own);
}

/** Whether a pair counts as one element. */
export const isTaken = ({ said, isSure }: IdentifiedPair): boolean => said === 'same' || (said === null && isSure);

/** Pairs that claim the element of before that another has already. */
export function findClashes(pairs: readonly IdentifiedPair[]): ReadonlySet<number> {
  const claimed = new Map<number, number[]>();
  for (const p of pairs) if (isTaken(p)) claimed.set(p.was, [...(claimed.get(p.was) ?? []), p.own]);
  return new Set([...claimed.values()].filter((owns) => owns.length > 1).flat());
}

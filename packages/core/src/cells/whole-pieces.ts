import type { NeededPiece } from '../cutting/cut-bars.ts';
import { stepsDown } from '../units/at-limit.ts';
import type { EvaluatedLine } from './cell-line.ts';

/** Pieces that a line needs on a place of its block, m: of a count that is not whole the last is shorter. None if its item is not sold in lengths. */
export function listWholePieces(
  { item, cut }: Pick<EvaluatedLine, 'item' | 'cut'>,
  at: number,
): Omit<NeededPiece, 'from'>[] {
  const factor = item?.unit.factor ?? 1;
  return (cut?.lists[at] ?? []).flatMap(({ length, count }) => {
    const whole = stepsDown(count, 1, 1);
    const rest = (count - whole) * length * factor;
    // Less than a tenth of a millimetre is what dividing left over.
    return [
      ...(whole > 0 ? [{ lengthM: length * factor, count: whole }] : []),
      ...(rest > 1e-4 ? [{ lengthM: rest, count: 1 }] : []),
    ];
  });
}

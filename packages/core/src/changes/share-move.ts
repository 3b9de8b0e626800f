const FACTORIALS = [1, 1, 2, 6, 24, 120, 720, 5040] as const;

/**
 * Shares a move out among the inputs that made it: each gets what it moved, averaged over all orders in which the inputs may have changed
 * one after the other. What that leaves of a whole number is cut off towards zero; the rest, a few units, goes to inputs that acted, those with
 * the largest remainders first. So the shares add up to the move, swapping old and new negates each, and what never acted has 0.
 * @param inputs how many there are, at most 7
 * @param worthOf a whole number, where the inputs of the bits of the mask are new and the others old
 * @example shareMove(2, m => [200, 240, 250, 300][m]) // quantity 10 > 12, rate 20 > 25: [45, 55]
 */
export function shareMove(inputs: number, worthOf: (mask: number) => number): number[] {
  const all = (1 << inputs) - 1;
  const values = Array.from({ length: all + 1 }, (_, mask) => worthOf(mask));
  const move = values[all]! - values[0]!;
  if (inputs === 1) return [move];
  const most = values.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  const orders = FACTORIALS[inputs]!;
  const divide = most * orders * 2 < Number.MAX_SAFE_INTEGER ? divideSum : divideLargeSum;
  const shares: number[] = [];
  const rests: number[] = [];
  const acted: boolean[] = [];
  for (let i = 0; i < inputs; i++) {
    const steps: (readonly [weight: number, step: number])[] = [];
    for (let mask = 0; mask <= all; mask++) {
      if (mask & (1 << i)) continue;
      const before = countBits(mask);
      const step = values[mask | (1 << i)]! - values[mask]!;
      if (step !== 0) steps.push([FACTORIALS[before]! * FACTORIALS[inputs - before - 1]!, step]);
    }
    const [whole, rest] = divide(steps, orders);
    shares.push(whole);
    rests.push(rest);
    acted.push(steps.length > 0);
  }
  return giveRest(shares, rests, acted, move);
}

/** Gives what is missing to a move to those that acted, unit by unit, the largest remainders first. */
function giveRest(shares: number[], rests: readonly number[], acted: readonly boolean[], move: number): number[] {
  const left = move - shares.reduce((sum, s) => sum + s, 0);
  const unit = Math.sign(left);
  const order = [...shares.keys()].filter((i) => acted[i]).sort((a, b) => (rests[b]! - rests[a]!) * unit || a - b);
  for (let n = 0; n < Math.abs(left); n++) shares[order[n % order.length]!]! += unit;
  return shares.map((s) => s + 0);
}

function divideSum(steps: readonly (readonly [number, number])[], by: number): [whole: number, rest: number] {
  const sum = steps.reduce((s, [weight, step]) => s + weight * step, 0);
  return [Math.trunc(sum / by), sum % by];
}

/** The same beyond what a number holds exactly. */
function divideLargeSum(steps: readonly (readonly [number, number])[], by: number): [whole: number, rest: number] {
  const sum = steps.reduce((s, [weight, step]) => s + BigInt(weight) * BigInt(step), 0n);
  return [Number(sum / BigInt(by)), Number(sum % BigInt(by))];
}

function countBits(mask: number): number {
  let count = 0;
  for (let left = mask; left > 0; left &= left - 1) count++;
  return count;
}

/**
 * Shares a whole number out in proportion to others, which may be of either sign: cut off towards zero, the rest to the largest remainders
 * among those that are not 0. Negating the amount, or all weights and what they add up to, negates every share.
 * @param whole what the weights add up to; must not be 0
 * @example shareInProportion(10, [3, -1, 0], 2) // [15, -5, 0]
 */
export function shareInProportion(amount: number, weights: readonly number[], whole: number): number[] {
  return roundShares(weights.map((w) => (amount * w) / whole), amount, weights.map((w) => w !== 0)); // biome-ignore format: one call
}

/** Whole numbers for shares that are not: cut off towards zero, the rest to those that acted, the largest remainders first. */
export function roundShares(exact: readonly number[], amount: number, acted: readonly boolean[]): number[] {
  const shares = exact.map((x) => Math.trunc(x) + 0);
  const rests = exact.map((x, i) => x - shares[i]!);
  return giveRest(shares, rests, acted, amount);
}

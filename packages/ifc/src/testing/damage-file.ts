/** A source of chance that gives the same again for the same seed. */
export function makeChance(seed: number): () => number {
  let state = seed >>> 0 || 1;
  return () => {
    // Marsaglia's xorshift of 32 bits.
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
}

const NUMBERS = [
  '1.E300',
  '-1.E300',
  '1.E12',
  '0.',
  '-1.',
  '1.E-300',
  '$',
  '*',
  '1.E400',
  "'x'",
  '#1',
  '(1.,2.)',
  '2147483648',
];

/** A STEP file with a few things in it spoilt: numbers, references, records, signs. The same for the same chance. */
export function damageStep(text: string, chance: () => number): string {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)]!;
  const lines = text.split('\n');
  const data = lines.findIndex((l) => l.startsWith('DATA')) + 1;
  const times = 1 + Math.floor(chance() * 4);
  for (let n = 0; n < times; n++) {
    const at = data + Math.floor(chance() * (lines.length - data));
    const line = lines[at] ?? '';
    const kind = Math.floor(chance() * 8);
    if (kind <= 2) {
      const figures = [...line.matchAll(/-?\d+\.\d*(?:E[-+]?\d+)?/g)];
      const figure = figures.length > 0 ? pick(figures) : null;
      if (figure) lines[at] = line.slice(0, figure.index) + pick(NUMBERS) + line.slice(figure.index + figure[0].length);
    } else if (kind === 3) lines[at] = line.replace(/#\d+(?=[,)])/, `#${Math.floor(chance() * lines.length)}`);
    else if (kind === 4) lines.splice(at, 1);
    else if (kind === 5) lines[at] = line.slice(0, Math.floor(chance() * line.length));
    else if (kind === 6) lines[at] = line.replace(/,/, '');
    else lines[at] = line.slice(0, 10) + String.fromCharCode(Math.floor(chance() * 256)) + line.slice(11);
  }
  return chance() < 0.05 ? lines.slice(0, Math.floor(chance() * lines.length)).join('\n') : lines.join('\n');
}

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readTemplate } from './template.ts';
import { templateToEntries } from './template-entries.ts';

const demo = JSON.parse(readFileSync(join(__dirname, '../../../../demo/template.json'), 'utf8'));
const change = (path: (string | number)[], value: unknown) => {
  const copy = structuredClone(demo);
  const last = path.at(-1)!;
  let at = copy;
  for (const key of path.slice(0, -1)) at = at[key];
  at[last] = value;
  return readTemplate(copy);
};

describe('templates', () => {
  it('the demo one is sound', () => {
    const read = readTemplate(demo);
    if (!read.ok) throw new Error(read.problem.message);
    expect(read.value.items.length).toBeGreaterThanOrEqual(60);
    expect(read.value.assemblies.length).toBeGreaterThanOrEqual(12);
    expect(templateToEntries(read.value).filter((e) => e.kind === 'rule')).toHaveLength(read.value.rules.length);
  });
  it.each<[string, (string | number)[], unknown, string]>([
    ['an unknown unit', ['items', 3, 'unit'], 'sqm', 'items[3].unit'],
    ['a rate with text', ['items', 2, 'rate'], '12 EUR', 'items[2].rate'],
    ['negative waste', ['items', 1, 'wastePercent'], -5, 'items[1].wastePercent'],
    ['waste of 5000 %', ['items', 1, 'wastePercent'], 5000, 'items[1].wastePercent'],
    ['a split that misses 100 %', ['items', 1, 'split'], { labour: 40, material: 50 }, 'items[1].split'],
    ['a kind there is not in a split', ['items', 1, 'split'], { wood: 100 }, 'items[1].split'],
    ['a density of nothing', ['items', 1, 'densityKgM3'], 0, 'items[1].densityKgM3'],
    [
      'a price for some lengths only',
      ['items', 1, 'soldAs'],
      { lengths: [2, 3], lengthPrices: ['4'] },
      'items[1].soldAs',
    ],
    ['a date that is none', ['items', 0, 'date'], '2026-13-01', 'items[0].date'],
    ['a rule that says nothing', ['rules', 0, 'assembly'], undefined, 'rules[0]'],
    ['a currency in words', ['settings', 'currency'], 'euro', 'settings.currency'],
    ['another format', ['format'], 'x', 'format'],
  ])('%s is refused, naming the place', (_, path, value, where) => {
    expect(change(path, value)).toMatchObject({ ok: false, problem: { code: 'template-invalid', path: where } });
  });
  it('a code that stands twice is refused whatever its case', () => {
    expect(change(['items', 1, 'code'], demo.items[0].code.toLowerCase())).toMatchObject({
      ok: false,
      problem: { code: 'template-duplicate', path: 'items[1]' },
    });
  });
  it('what is no template at all is refused', () => {
    for (const value of [null, 5, [], 'x', {}]) expect(readTemplate(value).ok).toBe(false);
  });
});

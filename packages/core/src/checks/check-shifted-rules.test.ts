import { checkShiftedRules } from './check-shifted-rules.ts';

const rule = (id: string, isOff = false) => ({ id, name: id, scope: { all: [] }, isOff });
const counts = (elements: number, caught: Record<string, number>) => ({ elements, caught: new Map(Object.entries(caught)) }); // biome-ignore format: one line
const told = (is: number, was: number, now = 100, before = 100) =>
  checkShiftedRules([rule('r')], counts(now, { r: is }), counts(before, { r: was })).map((f) => f.message);

describe('rules that catch another number than at the last revision', () => {
  it('are told where it doubled or halved', () => {
    expect(told(24, 12)).toEqual(['Rule "r" catches 24 elements; at the last revision it caught 12.']);
    expect(told(6, 12)).toHaveLength(1);
    expect(told(23, 12)).toEqual([]);
    expect(told(7, 12)).toEqual([]);
  });
  it('not where it is a few, nor where the model grew alike', () => {
    expect(told(5, 1)).toEqual([]);
    expect(told(24, 12, 200, 100)).toEqual([]);
    expect(told(12, 12, 200, 100)).toHaveLength(1);
  });
  it('not where nothing is caught now or was before, nor where it is off', () => {
    expect(told(0, 40)).toEqual([]);
    expect(told(40, 0)).toEqual([]);
    expect(told(40, 4, 100, 0)).toEqual([]);
    expect(checkShiftedRules([rule('r', true)], counts(9, { r: 90 }), counts(9, { r: 9 }))).toEqual([]);
  });
});

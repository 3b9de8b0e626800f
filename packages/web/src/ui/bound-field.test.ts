import { readBound } from './bound-field.tsx';

describe('a bound as it is typed', () => {
  it.each([
    ['2.4', 'm', { value: 2.4 }],
    ['240 cm', 'm', { value: 2.4 }],
    ['12 m2', 'm2', { value: 12 }],
    ['7', null, { value: 7 }],
    ['  ', 'm', undefined],
  ] as const)('%s of %s', (text, unit, read) => expect(readBound(text, unit)).toEqual(read));
  it('in feet and inches', () => expect((readBound('8\' 6"', 'm') as { value: number }).value).toBeCloseTo(2.5908, 10));
  it.each([
    ['3 kg', 'm', 'That is no figure in m.'],
    ['much', 'm2', '"much" is no figure.'],
  ] as const)('%s of %s is refused', (text, unit, problem) => expect(readBound(text, unit)).toEqual({ problem }));
});

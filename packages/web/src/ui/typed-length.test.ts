import { echoLength, readTypedLength } from './typed-length.ts';

describe('a length that is typed', () => {
  it('without a unit is in what the project shows lengths in, and says so', () => {
    expect(readTypedLength('7', 'metric')).toEqual({ ok: true, value: 7 });
    expect(readTypedLength('7', 'both')).toEqual({ ok: true, value: 7 });
    // 7 x 0.3048.
    expect(readTypedLength('7', 'imperial')).toEqual({ ok: true, value: expect.closeTo(2.1336, 9) });
    expect(echoLength('7', 'imperial')).toBe('= 7\' 0"');
    expect(echoLength('2.1', 'metric')).toBe('= 2.10 m');
  });
  it('with a unit is what it says, whatever the project shows', () => {
    for (const system of ['metric', 'imperial', 'both'] as const) {
      expect(readTypedLength('210 cm', system)).toEqual({ ok: true, value: expect.closeTo(2.1, 9) });
      expect(readTypedLength(`7' 6"`, system)).toEqual({ ok: true, value: expect.closeTo(2.286, 9) });
      expect(echoLength('210 cm', system)).toBeNull();
      expect(echoLength(`7' 6"`, system)).toBeNull();
    }
  });
  it('that is none is not read', () => {
    expect(readTypedLength('high', 'metric')).toMatchObject({ ok: false, problem: { code: 'length-unreadable' } });
    expect(echoLength('high', 'metric')).toBeNull();
    expect(echoLength('', 'metric')).toBeNull();
  });
});

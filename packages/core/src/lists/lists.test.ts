import fc from 'fast-check';
import type { Sheet } from '../book/sheet.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { runPipeline } from '../pipeline.ts';
import { explainElement } from '../plan/explain-element.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { toListElements } from './list-elements.ts';
import { findListProfile, guessListProfile, type ListProfile, makeListProfile } from './list-profile.ts';
import { priceListed } from './price-listed.ts';
import { readList } from './read-list.ts';

const sheet = (...rows: Sheet['rows']): Sheet => ({ name: 'S', rows });
const HEAD = ['Code', 'Description', 'Qty', 'Unit', 'Price'];
const profileOf = (...rows: Sheet['rows']): ListProfile => guessListProfile([sheet(...rows)])!;
const read = (rows: Sheet['rows'], more: Partial<ListProfile> = {}) =>
  readList([sheet(HEAD, ...rows)], { ...profileOf(HEAD), ...more });
const lines = (...rows: Sheet['rows']) => {
  const list = read(rows);
  if (!list.ok) throw new Error(list.problem.message);
  return list.value;
};

describe('the columns of a list', () => {
  it('are guessed from the first row that names a quantity beside a code or a description', () =>
    expect(profileOf(['Yard, March'], ['Pos', 'Bezeichnung', 'Menge', 'Einheit', 'EP'])).toMatchObject({
      headerRow: 1,
      columns: { code: 0, description: 1, quantity: 2, unit: 3 },
      key: 'code',
      headings: { code: 'Pos', description: 'Bezeichnung', quantity: 'Menge', unit: 'Einheit' },
    }));
  it('are not guessed without a quantity', () =>
    expect(guessListProfile([sheet(['Code', 'Unit'], ['A', 'm'])])).toBeNull());
  it('are found again by their headings where they stand now, with what was said about them', () => {
    const before = { ...profileOf(HEAD), key: 'description' as const, pricesCount: true, decimal: 'comma' as const };
    const now = findListProfile(before, [sheet([], ['Unit', 'QTY ', 'description', 'Price', 'Code'])]);
    expect(now).toMatchObject({
      headerRow: 1,
      columns: { unit: 0, quantity: 1, description: 2, price: 3, code: 4 },
      key: 'description',
      pricesCount: true,
      decimal: 'comma',
    });
    expect(findListProfile(before, [sheet(['Code', 'Qty', 'Unit'])])).toBeNull();
  });
  it('fall back to another key where the chosen one is not there', () =>
    expect(makeListProfile('S', 0, { quantity: 0, description: 1 }, [], { key: 'code' }).key).toBe('description'));
});

describe('the lines of a list', () => {
  it('are read with their units, as people write them', () => {
    const { lines: read } = lines(
      ['A', 'Hose', '3', 'pcs', ''],
      ['B', 'Rail', 36.5, 'm', 14.2],
      ['C', 'Paint', '2,500.5', 'l', ''],
    );
    expect(read.map((l) => [l.row, l.code, l.quantity, l.unit.symbol, l.price])).toEqual([
      [2, 'A', 3, 'each', null],
      [3, 'B', 36.5, 'm', '14.2'],
      [4, 'C', 2500.5, 'l', null],
    ]);
  });
  it('leave out empty rows and headings, and refuse the rest with its reason', () => {
    const { lines: kept, refused, headings } = lines(
      ['', 'Quay', '', '', ''], [], ['A', 'Ring', 4, 'each', ''], ['B', 'Sign', 'many', 'each', ''], ['', '', 5, 'm', ''],
      ['C', 'Rope', '', 'm', ''], ['D', 'Post', -2, 'each', ''], ['E', 'Oil', 3, 'barrel', ''], ['F', 'Net', 3, '', ''], ['G', 'Dock', 1e15, 'm2', ''],
      ['H', 'Fee', 2, 'EUR', ''], ['I', 'Bolt', 2, 'each', 'ask'],
    ); // biome-ignore format: one row each
    expect(kept.map((l) => l.code)).toEqual(['A']);
    // The empty row is nothing; a line that nobody has filled in would stand here too.
    expect(headings).toEqual([2]);
    expect(refused.map((r) => [r.row, r.reason])).toEqual([
      [5, '"many" is no figure.'],
      [6, 'It has neither a code nor a description.'],
      [7, 'It has no quantity.'],
      [8, 'Its quantity is less than nothing.'],
      [9, 'There is no unit "barrel".'],
      [10, 'It has no unit.'],
      [11, '1000000000000000 is more than any building has.'],
      [12, 'Nothing is counted in EUR here.'],
      [13, '"ask" is no price.'],
    ]);
  });
  it('of one key are told apart by their order, and told', () =>
    expect(lines(['A', 'One', 1, 'm', ''], [' a ', 'Two', 2, 'm', ''], ['B', 'x', 1, 'm', '']).alike).toEqual([3]));
  it('ask which sign stands before decimals where nothing tells', () => {
    expect(read([['A', 'x', '1.234', 'm', '']])).toMatchObject({ ok: false, problem: { code: 'list-decimal-open' } });
    const said = read([['A', 'x', '1.234', 'm', '']], { decimal: 'comma' });
    expect(said.ok && said.value.lines[0]!.quantity).toBe(1234);
  });
  it('that are none, or on a sheet that is not there, are told', () => {
    expect(read([['A', 'x', 'none', 'm', '']])).toMatchObject({
      problem: { code: 'list-without-lines', message: 'No row of "S" can be used: row 2, "none" is no figure.' },
    });
    expect(read([], { sheet: 'T' })).toMatchObject({ problem: { code: 'list-sheet-unknown' } });
  });
  it('measure what they say, whatever the unit', () => {
    const units = [['mm', 0.001, 'm'], ['m', 1, 'm'], ['ft', 0.3048, 'm'], ['m2', 1, 'm2'], ['l', 0.001, 'm3'], ['t', 1000, 'kg'], ['h', 1, 'h'], ['bag', 1, 'bag'], ['each', 1, 'each']] as const; // biome-ignore format: unit, factor, SI
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e7 }), fc.constantFrom(...units), (hundredths, [unit, factor, si]) => {
        const quantity = hundredths / 100;
        const [element] = toListElements(lines(['A', 'x', quantity, unit, '']).lines);
        expect(element!.quantities).toHaveLength(1);
        expect(element!.quantities[0]).toMatchObject({ unit: si, basis: 'stated', method: 'list' });
        expect(element!.quantities[0]!.value).toBeCloseTo(quantity * factor, 6);
      }),
      { seed: 5, numRuns: 60 },
    );
  });
});

describe('lines that price themselves', () => {
  const items = [sampleItem('LOCK', 'each', '128'), sampleItem('RAIL', 'm', '9.50'), sampleItem('OIL', 'm3', '4000')];
  const basis = sampleBasis(items, [{ item: 'RAIL', quantity: 'Driver / 2 m' }], { rules: [] });
  const price = (pricesCount: boolean, more: Partial<typeof basis> = {}, ...rows: Sheet['rows']) => {
    const list = lines(...rows).lines;
    const plain = buildElementTable(
      toListElements(list),
      Int32Array.from(list, (_, i) => i + 1),
    );
    const table = { ...plain, origin: { kind: 'list' as const, pricesCount } };
    const whole = { ...basis, ...more };
    return runPipeline(whole, [{ sourceId: 'l', table, own: priceListed(table, whole) }]);
  };
  const euros = (plan: ReturnType<typeof price>) => plan.total / 1e6;
  const ROWS: Sheet['rows'] = [['lock', 'Locker', 2, 'each', 150], ['RAIL', 'Rail', 10, 'm', ''], ['A', 'Wall panel', 6, 'm2', ''], ['ZZ', 'Unknown', 3, 'each', '']]; // biome-ignore format: one row each

  it('by the items and assemblies of the book that their codes name, in any case', () => {
    // 2 x 128 + 10 x 9.50 + 6 m2 / 2 m = 3 m x 9.50.
    const plan = price(false, {}, ...ROWS);
    expect(euros(plan)).toBeCloseTo(256 + 95 + 28.5, 6);
    expect(plan.counts).toMatchObject({ priced: 3, unpriced: 1 });
  });
  it('by their own prices where these count', () => {
    const plan = price(true, {}, ...ROWS);
    expect(euros(plan)).toBeCloseTo(300 + 95 + 28.5, 6);
    const [line] = explainElement(plan, 1)!.lines;
    expect(line).toMatchObject({
      code: 'lock (list)',
      rate: 150,
      section: 'from-lists',
      item: { source: 'Price of the list' },
    });
  });
  it('by each its own where one code has several, each under a code of its own', () => {
    const at = (code: string, rate: number): Sheet['rows'][number] => [code, 'Hook', 1, 'each', rate];
    const plan = price(true, {}, at('H', 1), at('LOCK', 2), at('H', 4), at('H', 8), at('LOCK', 16), at('H', 1));
    expect(euros(plan)).toBeCloseTo(1 + 2 + 4 + 8 + 16 + 1, 6);
    expect([1, 2, 3, 4, 5, 6].map((key) => explainElement(plan, key)!.lines[0]!.code)).toEqual([
      'H',
      'LOCK (list)',
      'H (list 2)',
      'H (list 3)',
      'LOCK (list 2)',
      'H',
    ]);
  });
  it('in the unit of the book: 2,500 l of something sold by m3', () =>
    expect(euros(price(false, {}, ['OIL', 'Oil', 2500, 'l', '']))).toBeCloseTo(10_000, 6));
  it('never where a pin or a rule decides, in whatever section', () => {
    const rules = [
      {
        id: 'r',
        name: 'R',
        scope: { field: 'code' as const, op: 'is' as const, value: 'LOCK' },
        section: 's',
        item: 'LOCK',
        driver: 'Count * 3',
      },
    ];
    const pins = [{ id: 'p', element: 2, section: 's', leaveOut: 'By the client' }];
    // The rule prices 3 lockers each; the rail is left out; the panel prices itself.
    const plan = price(true, { rules, pins }, ...ROWS);
    expect(euros(plan)).toBeCloseTo(2 * 3 * 128 + 28.5, 6);
    expect(plan.counts).toMatchObject({ priced: 2, leftOut: 1, unpriced: 1 });
  });
  it('of a code whose item has another kind of unit are unknown, with the reason, never 0', () => {
    const plan = price(false, {}, ['LOCK', 'Locker', 4, 'm', '']);
    expect([plan.total, plan.unknownLines]).toEqual([0, 1]);
    expect(explainElement(plan, 1)!.lines[0]!.problem!.code).toBe('formula-dimension');
  });
});

import type { ListFileDto } from '@tally/core';
import { fillListForm, listFormSchema, readProfile } from './list-form.ts';

const SHEETS: ListFileDto['sheets'] = [
  {
    name: 'Yard',
    count: 3,
    rows: [
      ['Pos', 'What', 'Qty', 'EUR'],
      ['Y-1', 'Mooring ring', 12, 18.5],
      ['Y-2', 'Fender', 8, 42],
    ],
  },
];
const FILE: ListFileDto = {
  fileHash: 'h',
  fileName: 'yard.xlsx',
  name: 'yard',
  sourceId: null,
  sheets: SHEETS,
  profile: null,
  isKnown: false,
};
const chosen = { sheet: 'Yard', headerRow: 0, columns: { code: 0, quantity: 2, price: 3 } };

describe('what the columns of a list are', () => {
  it('is not known while none holds the quantity', () => {
    expect(readProfile(SHEETS, fillListForm(FILE))).toBeNull();
    expect(readProfile(SHEETS, { ...fillListForm(FILE), chosen })).toEqual({
      sheet: 'Yard',
      headerRow: 0,
      columns: { code: 0, quantity: 2, price: 3 },
      headings: { code: 'Pos', quantity: 'Qty', price: 'EUR' },
      key: 'code',
      pricesCount: false,
    });
  });
  it('keeps what was said of units, signs and prices while columns are chosen anew', () => {
    const form = {
      ...fillListForm(FILE),
      unit: 'each',
      decimal: 'comma' as const,
      pricesCount: true,
      key: 'code' as const,
    };
    expect(readProfile(SHEETS, { ...form, chosen: { ...chosen, columns: { code: 0 } } })).toBeNull();
    expect(readProfile(SHEETS, { ...form, chosen })).toMatchObject({
      unit: 'each',
      decimal: 'comma',
      pricesCount: true,
    });
    // Without prices none of them counts; a key whose column is gone gives way to one that is there.
    const bare = readProfile(SHEETS, { ...form, chosen: { ...chosen, columns: { description: 1, quantity: 2 } } });
    expect([bare?.pricesCount, bare?.key]).toEqual([false, 'description']);
  });
  it('is as it was found in the version before', () => {
    const profile = readProfile(SHEETS, { ...fillListForm(FILE), chosen, pricesCount: true, unit: 'each' });
    expect(readProfile(SHEETS, fillListForm({ ...FILE, profile }))).toEqual(profile);
  });
});

describe('the order to take a list', () => {
  const schema = listFormSchema(FILE, (id) => (id === 's1' ? 'Yard fittings' : undefined));
  const form = { ...fillListForm(FILE), chosen };
  it('has its name; a next version that of its source', () => {
    expect(schema.parse({ ...form, name: ' Fittings ' })).toMatchObject({ name: 'Fittings', sourceId: null, fileName: 'yard.xlsx' }); // biome-ignore format: one order
    expect(schema.parse({ ...form, sourceId: 's1', name: '' })).toMatchObject({
      name: 'Yard fittings',
      sourceId: 's1',
    });
  });
  it('says what is missing', () => {
    const messages = (typed: typeof form) => schema.safeParse(typed).error?.issues.map((i) => `${i.path.join('.')}: ${i.message}`); // biome-ignore format: one line
    expect(messages({ ...form, name: '  ' })).toEqual(['name: A list needs a name.']);
    expect(messages({ ...form, chosen: { ...chosen, columns: { code: 0 } as never } })).toEqual(['chosen: Say which column holds the quantity.']); // biome-ignore format: one line
  });
});

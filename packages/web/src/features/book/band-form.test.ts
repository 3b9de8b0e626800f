import { bandFormSchema, fillBandForm, keepBand } from './band-form.ts';

const typed = { of: 'IfcWall', unit: 'm2' as const, low: '80', usual: '110', high: '160', note: ' ours ' };
const band = { of: 'IfcWall', unit: 'm2', low: '80', usual: '110', high: '160', note: 'ours' };

describe('a band as it is typed', () => {
  it('is read with its figures as decimals', () => expect(bandFormSchema.parse(typed)).toEqual(band));
  it.each([
    [{ ...typed, usual: '70' }, 'usual', 'Low is not more than usual, usual not more than high.'],
    [{ ...typed, of: ' ' }, 'of', 'Say the class or the element code.'],
    [{ ...typed, low: 'much' }, 'low', '"much" is no price.'],
    [{ ...typed, high: '-1' }, 'high', '"-1" is no price.'],
  ])('%j is refused at its place', (form, path, message) => {
    const read = bandFormSchema.safeParse(form);
    expect(read.error!.issues.map((i) => [i.path.join(), i.message])).toEqual([[path, message]]);
  });
  it('one that lacks a price is refused', () =>
    expect(bandFormSchema.safeParse({ ...typed, usual: '' }).success).toBe(false));
  it('is filled from the one that there is', () => {
    expect(fillBandForm(band, (f) => f.replace('.', ','))).toEqual({ ...typed, note: 'ours' });
    expect(fillBandForm(null, String).unit).toBe('m2');
  });
});

describe('keeping a band', () => {
  it('adds, changes, or moves it to another name', () => {
    const entry = { kind: 'band', id: 'IfcWall per m2' };
    expect(keepBand(null, band).diff).toEqual({ removed: [], added: [{ ...entry, body: band }] });
    expect(keepBand(band, { ...band, low: '90' }).diff).toEqual({
      updated: [{ ...entry, from: band, to: { ...band, low: '90' } }],
    });
    expect(keepBand(band, { ...band, unit: 'm3' }).diff).toEqual({
      removed: [{ ...entry, body: band }],
      added: [{ kind: 'band', id: 'IfcWall per m3', body: { ...band, unit: 'm3' } }],
    });
  });
});

import { buildElementTable, compileFormula, FormulaNames, parseUnit } from '@tally/core';
import { listPriceProperties, writePropertyRate } from './rate-property.ts';

const element = (globalId: string, properties: Record<string, Record<string, string | number | boolean>>) => ({
  globalId, ifcClass: 'IfcDoor', name: null, typeName: null, tag: null, storey: null, space: null, parent: null, host: null,
  zones: [], materials: [], codes: [], quantities: [], layers: [], openings: [], faces: [], finishes: null, box: null, properties,
}); // biome-ignore format: an element

describe('properties that can be prices', () => {
  it('are those with a figure, with their range and what is none', () => {
    const table = buildElementTable([
      element('a', { Offer: { Price: 12.5, Maker: 'Yard', Note: 'x' } }),
      element('b', { Offer: { Price: '9,80' } }),
      element('c', { Offer: { Price: 'on request', Fire: true } }),
    ]);
    expect(listPriceProperties([table])).toEqual([
      { name: 'Offer.Price', figures: 2, others: 1, least: 9.8, most: 12.5 },
    ]);
    expect(listPriceProperties([table, table])[0]).toMatchObject({ figures: 4, others: 2 });
  });
});

describe('a rate from a property', () => {
  const unit = parseUnit('EUR/m2');
  it.each([
    [null, 'number("Offer.Price", 1 EUR/m2)'],
    ['8.5', 'if(has("Offer.Price"), number("Offer.Price", 1 EUR/m2), 8.5 EUR/m2)'],
  ])('or else %s', (otherwise, formula) => {
    const written = writePropertyRate({ property: 'Offer.Price', currency: 'EUR', per: 'm2', otherwise });
    expect(written).toBe(formula);
    expect(unit.ok && compileFormula(written, new FormulaNames([]), unit.value).ok).toBe(true);
  });
});

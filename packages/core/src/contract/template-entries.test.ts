import { buildElementTable } from '../elements/element-table.ts';
import { runPipeline } from '../pipeline.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { readTemplate, type Template, templateSchema, templateToBasis } from './template.ts';
import { joinSettings, listTemplateSources, nameCurrency, templateToEntries } from './template-entries.ts';

const template = (change: object = {}): Template =>
  templateSchema.parse({
    format: 'crisp-tally-template/1',
    name: 'Rough',
    settings: { currency: 'EUR', units: 'metric' },
    items: [
      { code: 'WALL', description: 'Wall', kind: 'material', unit: 'm2', rate: '100.00' },
      { code: 'SITE', description: 'Site', kind: 'subcontract', unit: 'm2', rate: '20.00' },
      { code: 'FRANC', description: 'Swiss', kind: 'material', unit: 'each', rate: '1.00', currency: 'CHF' },
    ],
    assemblies: [],
    sections: [{ id: 's', name: 'S' }],
    rules: [
      { id: 'w', name: 'W', scope: { field: 'class', op: 'is', value: 'IfcWall' }, section: 's', item: 'WALL', driver: 'NetSideArea' },
    ],
    allowances: [{ code: 'SITE', name: 'Site, rough', measure: 'floorArea' }],
    ...change,
  }); // biome-ignore format: one template
const keysOf = (of: Template) => templateToEntries(of).flatMap((e) => (e.kind === 'allowance' ? [Number(e.id)] : []));

describe('the costs without an object of a template', () => {
  it('have a key that is negative, and the same whenever the template comes again', () => {
    const [key] = keysOf(template());
    expect(key).toBeLessThan(0);
    expect(Number.isInteger(key)).toBe(true);
    expect(keysOf(template())).toEqual([key]);
    expect(keysOf(template({ name: 'Other' }))).not.toEqual([key]);
  });
  it('stand in the plan of a model, by the floor area of its storeys', () => {
    const storeys = [{ name: 'Ground floor', elevation: 0, gfa: 80, gfaMethod: null }] as never;
    const plain = buildElementTable([sampleElement({ globalId: 'w', quantities: { NetSideArea: 12 } })], undefined, { storeys }); // biome-ignore format: one table
    const table = { ...plain, keys: Int32Array.of(1) };
    const plan = runPipeline(templateToBasis(template()), listTemplateSources(template(), table));
    // 12 m2 of wall at 100.00 and 80 m2 of floor at 20.00, in 1/10,000 cents.
    expect(plan.total).toBe((1200 + 1600) * 100 * 10_000);
    expect(listTemplateSources(template({ allowances: [] }), table)).toEqual([{ sourceId: 'model', table }]);
  });
  it('are unknown where no storey has a floor area, not 0', () => {
    const table = { ...buildElementTable([sampleElement({ globalId: 'w' })]), keys: Int32Array.of(1) };
    expect(runPipeline(templateToBasis(template()), listTemplateSources(template(), table)).unknownLines).toBeGreaterThan(0); // biome-ignore format: one line
  });
  it('are refused where two have one code', () => {
    const twice = ['A', 'a'].map((code) => ({ code, name: code, measure: 'once' }));
    const read = readTemplate({ ...template(), allowances: twice });
    expect([read.ok, !read.ok && read.problem.code]).toEqual([false, 'template-duplicate']);
  });
});

describe('a template in a project of another currency', () => {
  const currencies = (of: Template) => of.items.map((i) => i.currency);
  it('says of every rate in which currency it is', () =>
    expect(currencies(nameCurrency(template(), 'USD'))).toEqual(['EUR', 'EUR', 'CHF']));
  it('takes as the project’s own what is in its currency already', () =>
    expect(currencies(nameCurrency(template(), 'CHF'))).toEqual(['EUR', 'EUR', undefined]));
  it('stays as it is in its own', () => {
    const own = template();
    expect(nameCurrency(own, 'EUR')).toBe(own);
  });
  it('gives unknown lines without an exchange, never the figures of the other currency', () => {
    const table = { ...buildElementTable([sampleElement({ globalId: 'w', quantities: { NetSideArea: 12 } })]), keys: Int32Array.of(1) }; // biome-ignore format: one line
    const basis = { ...templateToBasis(nameCurrency(template({ allowances: [] }), 'USD')), currency: 'USD' };
    const plan = runPipeline(basis, [{ sourceId: 'model', table }]);
    expect([plan.total, plan.unknownLines]).toEqual([0, 1]);
    const exchanged = runPipeline({ ...basis, exchange: [{ currency: 'EUR', rate: '1.10', date: '2026-01-02' }] }, [{ sourceId: 'model', table }]); // biome-ignore format: one line
    expect(exchanged.total).toBe(1320 * 100 * 10_000);
  });
});

describe('the settings of a template', () => {
  const units = [{ name: 'Seats', scope: { all: [] } }];
  const from = { currency: 'EUR', units: 'metric' as const, functionalUnits: units, overlapShare: 0.3, keptOut: true };
  it('fill what a project has not set; currency and what is its own stay', () =>
    expect(joinSettings({ currency: 'USD', units: 'imperial', overlapShare: 0.1 }, from)).toEqual({
      currency: 'USD',
      units: 'imperial',
      overlapShare: 0.1,
      functionalUnits: units,
    }));
  it('change nothing where nothing is new', () => {
    const own = { currency: 'USD', units: 'metric' as const };
    expect(joinSettings(own, { currency: 'EUR', units: 'metric', keptOut: true })).toBe(own);
  });
});

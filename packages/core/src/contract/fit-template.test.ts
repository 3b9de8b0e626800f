import type { Entry } from '../changes/entry-diff.ts';
import { diffTemplate, fitTemplate } from './fit-template.ts';
import { type Template, templateSchema } from './template.ts';
import { templateToEntries } from './template-entries.ts';

const template = (change: object = {}): Template =>
  templateSchema.parse({
    format: 'crisp-tally-template/1',
    name: 'Ours',
    settings: { currency: 'EUR', units: 'metric' },
    items: [
      { code: 'WALL', description: 'Wall', kind: 'material', unit: 'm2', rate: '100.00' },
      { code: 'DOOR', description: 'Door', kind: 'material', unit: 'each', rate: '400.00' },
    ],
    assemblies: [],
    sections: [{ id: 's', name: 'S' }],
    rules: [
      { id: 'w', name: 'Walls', scope: { all: [] }, section: 's', item: 'WALL', driver: 'NetSideArea' },
    ],
    ...change,
  }); // biome-ignore format: one template
const settings: Entry = { kind: 'settings', id: 'project', body: { currency: 'EUR', units: 'metric' } };
const wantedOf = (of: Template) => templateToEntries(of).filter((e) => e.kind !== 'settings');
const fit = (of: Template, present: readonly Entry[] = [settings], currency = 'EUR') =>
  fitTemplate(of, present, wantedOf(of), currency);

describe('a template before it is taken', () => {
  it('tells what comes, what changes and what is there already', () => {
    const present: Entry[] = [
      settings,
      { kind: 'item', id: 'WALL', body: { code: 'WALL', description: 'Wall', kind: 'material', unit: 'm2', rate: '90.00' } },
      { kind: 'section', id: 's', body: { id: 's', name: 'S' } },
    ]; // biome-ignore format: an entry a line
    const told = fit(template(), present);
    const diff = diffTemplate(present, wantedOf(template()));
    expect(told.counts).toEqual({
      item: { added: 1, changed: 1, same: 0 },
      section: { added: 0, changed: 0, same: 1 },
      rule: { added: 1, changed: 0, same: 0 },
    });
    expect([told.changed, told.misfits]).toEqual([[{ kind: 'item', id: 'WALL' }], []]);
    expect(diff.added.map((e) => e.kind)).toEqual(['item', 'rule', 'order', 'order']);
  });
  it('names rules that could not be worked out: without their item, of another unit, of no section', () => {
    const rule = { scope: { all: [] }, section: 's', driver: 'NetSideArea' };
    const { misfits } = fit(
      template({
        rules: [
          { ...rule, id: 'a', name: 'Gone', item: 'GONE' },
          { ...rule, id: 'b', name: 'Doors', item: 'DOOR' },
          { ...rule, id: 'c', name: 'Nowhere', item: 'WALL', section: 'x' },
          { ...rule, id: 'd', name: 'Out', leaveOut: 'By others', driver: undefined },
        ],
      }),
    );
    expect(misfits.map((m) => [m.id, m.message])).toEqual([
      ['a', 'Gone: There is no cost item GONE in the book.'],
      ['b', expect.stringMatching(/^Doors: .*m2.*each/)],
      ['c', 'Nowhere: there is no work section x.'],
    ]);
  });
  it('a rule may price with what only the project has', () => {
    const door: Entry = { kind: 'item', id: 'GATE', body: { code: 'GATE', description: 'Gate', kind: 'material', unit: 'each', rate: '1' } }; // biome-ignore format: one entry
    const gates = template({ rules: [{ id: 'g', name: 'Gates', scope: { all: [] }, section: 's', item: 'GATE', driver: 'Count' }] }); // biome-ignore format: one template
    expect(fit(gates, [settings, door]).misfits).toEqual([]);
  });
  it('names what the project counts in another unit, codes that are too alike, and rates without an exchange', () => {
    const other: Entry = { kind: 'item', id: 'DOOR', body: { code: 'DOOR', description: 'Door', kind: 'material', unit: 'm2', rate: '1' } }; // biome-ignore format: one entry
    const small: Entry = { kind: 'item', id: 'wall', body: { code: 'wall', description: 'w', kind: 'material', unit: 'm2', rate: '1' } }; // biome-ignore format: one entry
    const dollars: Entry = { ...settings, body: { currency: 'USD', units: 'metric' } };
    expect(fit(template(), [dollars, other, small], 'USD').misfits.map((m) => [m.kind, m.message])).toEqual([
      ['code', 'item WALL is too much like wall, which is there already.'],
      ['item', 'DOOR is by the m2 here, and by the each in the template.'],
      ['currency', '2 rates are in EUR: unknown until the project has an exchange for it.'],
    ]);
    const exchanged: Entry = { ...settings, body: { currency: 'USD', units: 'metric', exchange: [{ currency: 'EUR', rate: '1.1', date: '2026-01-01' }] } }; // biome-ignore format: one entry
    expect(fit(template(), [exchanged], 'USD').misfits).toEqual([]);
  });
});

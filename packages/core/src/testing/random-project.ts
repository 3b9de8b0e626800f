import fc from 'fast-check';
import { buildElementTable, type ElementTable } from '../elements/element-table.ts';
import type { ModelElement } from '../elements/model-element.ts';
import { applyProjectLayer, type GivenFigure } from '../elements/project-layer.ts';
import type { PricingBasis } from '../pipeline.ts';
import { NO_ADDITIONS } from './no-additions.ts';
import { sampleItem } from './sample-basis.ts';
import { sampleElement } from './sample-element.ts';

/** Walls of two types on two storeys, a stair with two flights, rooms with what stands in them. */
export const makeElements = (): ModelElement[] => [
  ...Array.from({ length: 8 }, (_, i) =>
    sampleElement({
      globalId: `wall ${i}`,
      typeName: i % 2 ? 'Block 200' : 'Stud 100',
      storey: i < 4 ? 'Ground' : 'Upper',
      materials: [i % 3 ? 'Block' : 'Timber'],
      layers: ['Board', 'Wool', 'Board'].slice(i % 2).map((material, at) => ({ material, thickness: 0.01 * (at + 1), position: null, weight: null, area: 8 + i, volume: null })),
      quantities: { NetSideArea: 8 + i, Height: 2.4 + (i % 3) / 4, Length: 3 + i, Count: 1 },
      properties: { Pset_WallCommon: { FireRating: i % 2 ? 'EI60' : 'EI30' } },
    }),
  ),
  sampleElement({ globalId: 'stair', ifcClass: 'IfcStair', quantities: { Count: 1, NetVolume: 2 } }),
  sampleElement({ globalId: 'flight 1', ifcClass: 'IfcStairFlight', parent: 'stair', quantities: { Count: 1, NetVolume: 0.9 } }),
  sampleElement({ globalId: 'flight 2', ifcClass: 'IfcStairFlight', parent: 'stair', quantities: { Count: 1, NetVolume: 1.1 } }),
  ...Array.from({ length: 3 }, (_, i) =>
    sampleElement({ globalId: `lamp ${i}`, ifcClass: 'IfcLamp', space: `room ${i % 2}`, quantities: { Count: 1 } }),
  ),
]; // biome-ignore format: one list

export const BASIS: PricingBasis = {
  currency: 'EUR',
  items: [
    sampleItem('BLOCK', 'each', '1.85', { wastePercent: 4 }),
    sampleItem('MORTAR', 'bag', '6.40', { soldAs: { pack: 10 } }),
    sampleItem('STUD', 'm', '2.10', { soldAs: { lengths: [3, 4.2], perStorey: true } }),
    sampleItem('MASON', 'h', '44'),
    sampleItem('SEAL', 'm2', null),
    sampleItem('LORRY', 'each', '310'),
    sampleItem('STEP', 'm3', '900'),
    sampleItem('LAMP', 'each', '75'),
    sampleItem('BOARD', 'm2', '9.30'),
    sampleItem('FRAME', 'm2', null, { rateFormula: 'if(text("FireRating") = "EI60", 22 EUR/m2, 17 EUR/m2)' }),
  ],
  values: [{ name: 'Bed', unit: 'kg/m2', value: '12 kg/m2' }],
  assemblies: [
    {
      code: 'W',
      description: 'Wall',
      unit: 'm2',
      parameters: [{ name: 'perM2', unit: 'each/m2', value: '8 each/m2' }],
      lines: [
        { item: 'BLOCK', quantity: 'Driver * perM2', name: 'Blocks' },
        { item: 'MORTAR', quantity: 'Driver * Bed / 25 kg/bag' },
        { item: 'MASON', quantity: 'Blocks / 40 each/h' },
        { item: 'SEAL', quantity: 'Driver', when: 'yes("Damp")' },
        { item: 'LORRY', quantity: 'Driver / 60 m2/each', per: 'project' },
        { item: 'FRAME', quantity: 'Driver', when: 'text("FireRating") <> "EI90"' },
      ],
    },
    { code: 'S', description: 'Studs', unit: 'm2', lines: [{ item: 'STUD', quantity: 'Driver / 0.6 m', piece: 'Height' }, { assembly: 'W', quantity: 'Driver / 2' }] },
  ],
  sections: [{ id: 'shell', name: 'Shell' }, { id: 'fit', name: 'Fit-out' }, { id: 'lining', name: 'Linings' }],
  rules: [
    { id: 'studs', name: 'Studs', scope: { field: 'type', op: 'contains', value: 'stud' }, section: 'shell', assembly: 'S', driver: 'NetSideArea' },
    { id: 'walls', name: 'Walls', scope: { field: 'class', op: 'is', value: 'IfcWall' }, section: 'shell', assembly: 'W', driver: 'NetSideArea' },
    { id: 'stairs', name: 'Stairs', scope: { field: 'class', op: 'oneOf', values: ['IfcStair', 'IfcStairFlight'] }, section: 'shell', item: 'STEP', driver: 'NetVolume' },
    { id: 'boards', name: 'Boards', about: 'layer', scope: { field: 'material', op: 'is', value: 'board' }, section: 'lining', item: 'BOARD', driver: 'LayerArea' },
    { id: 'wool', name: 'Wool', about: 'layer', scope: { field: 'layer', op: 'contains', value: 'wool' }, section: 'lining', assembly: 'W', driver: 'LayerArea' },
    { id: 'lamps', name: 'Lamps', scope: { field: 'class', op: 'is', value: 'IfcLamp' }, section: 'fit', item: 'LAMP', driver: 'Count' },
  ],
  pins: [],
}; // biome-ignore format: one book

export interface RandomState {
  readonly basis: PricingBasis;
  readonly attributes: ReadonlyMap<number, Readonly<Record<string, string | boolean>>>;
  readonly types: ReadonlyMap<number, { readonly typeName: string }>;
  readonly leftOut: ReadonlySet<number>;
  /** Figures set by hand. */
  readonly given: ReadonlyMap<number, Readonly<Record<string, GivenFigure>>>;
  /** Elements that the revision lacks. */
  readonly gone: ReadonlySet<number>;
}

export const FIRST_STATE: RandomState = {
  basis: BASIS,
  attributes: new Map(),
  types: new Map(),
  leftOut: new Set(),
  given: new Map(),
  gone: new Set(),
};

/** A figure as somebody sets it by hand. */
export const setFigure = (value: number, unit: 'm' | 'm2'): GivenFigure => ({
  value,
  unit,
  was: null,
  reason: 'Seen on site',
});

export const KEYS = makeElements().length;
const key = fc.integer({ min: 1, max: KEYS });
const replaceAt = <T>(list: readonly T[], at: number, change: (x: T) => T) =>
  list.map((x, i) => (i === at % list.length ? change(x) : x));

/** Everything that a person may change, one thing at a time. */
export const anyChange: fc.Arbitrary<(s: RandomState) => RandomState> = fc.oneof(
  fc.tuple(fc.nat(8), fc.integer({ min: -200, max: 99_999 })).map(([at, cents]) => (s: RandomState) => ({
    ...s,
    basis: { ...s.basis, items: replaceAt(s.basis.items, at, (i) => (i.rateFormula ? i : { ...i, rate: (cents / 100).toFixed(2) })) },
  })),
  fc.tuple(fc.nat(8), fc.nat(30)).map(([at, wastePercent]) => (s: RandomState) => ({ ...s, basis: { ...s.basis, items: replaceAt(s.basis.items, at, (i) => ({ ...i, wastePercent })) } })),
  fc.tuple(fc.nat(5), fc.boolean()).map(([at, isOff]) => (s: RandomState) => ({ ...s, basis: { ...s.basis, rules: replaceAt(s.basis.rules, at, (r) => ({ ...r, isOff })) } })),
  fc.tuple(fc.nat(3), fc.constantFrom('IfcWall', 'IfcLamp', 'IfcStairFlight')).map(([at, value]) => (s: RandomState) => ({ ...s, basis: { ...s.basis, rules: replaceAt(s.basis.rules, at, (r) => (r.about ? { ...r, scope: { all: [r.scope, { field: 'class' as const, op: 'is' as const, value }] } } : { ...r, scope: { field: 'class' as const, op: 'is' as const, value } })) } })),
  fc.tuple(fc.nat(1), fc.integer({ min: 1, max: 80 })).map(([at, n]) => (s: RandomState) => ({ ...s, basis: { ...s.basis, rules: replaceAt(s.basis.rules, at, (r) => (r.assembly === 'W' ? { ...r, parameters: { perM2: `${n} each/m2` } } : r)) } })),
  fc.tuple(key, fc.constantFrom('shell', 'fit'), fc.constantFrom<'item' | 'assembly' | 'leaveOut'>('item', 'assembly', 'leaveOut')).map(([element, section, how]) => (s: RandomState) => ({
    ...s,
    basis: { ...s.basis, pins: [...s.basis.pins.filter((p) => p.element !== element || p.section !== section), { id: `${element}/${section}`, element, section, ...(how === 'item' ? { item: 'LAMP', driver: 'Count' } : how === 'assembly' ? { assembly: 'W', driver: 'NetSideArea' } : { leaveOut: 'By hand' }) }] },
  })),
  fc.tuple(key, fc.constantFrom('board', 'Wool'), fc.boolean()).map(([element, of, isOut]) => (s: RandomState) => ({
    ...s,
    basis: { ...s.basis, pins: [...s.basis.pins.filter((p) => p.element !== element || p.of !== of), { id: `${element}/${of}`, element, section: 'lining', about: 'layer' as const, of, ...(isOut ? { leaveOut: 'By hand' } : { item: 'BOARD', driver: 'LayerArea / 2' }) }] },
  })),
  fc.tuple(fc.nat(5), fc.constantFrom(undefined, ['parts'] as const, ['hosted', 'parts'] as const)).map(([at, also]) => (s: RandomState) => ({ ...s, basis: { ...s.basis, rules: replaceAt(s.basis.rules, at, (r) => (r.about ? r : { ...r, also })) } })),
  fc.tuple(fc.nat(5), fc.constantFrom('shell', 'lining')).map(([at, section]) => (s: RandomState) => ({ ...s, basis: { ...s.basis, rules: replaceAt(s.basis.rules, at, (r) => ({ ...r, section })) } })),
  fc.nat(20).map((at) => (s: RandomState) => ({ ...s, basis: { ...s.basis, pins: s.basis.pins.filter((_, i) => i !== at) } })),
  fc.tuple(key, fc.constantFrom('Damp', 'FireRating'), fc.constantFrom<string | boolean>(true, false, 'EI30', 'EI60', 'EI90')).map(([k, name, value]) => (s: RandomState) => ({ ...s, attributes: new Map(s.attributes).set(k, { ...s.attributes.get(k), [name]: value }) })),
  fc.tuple(key, fc.constantFrom('NetSideArea', 'Height', 'LayerArea'), fc.integer({ min: 1, max: 90 })).map(([k, name, n]) => (s: RandomState) => ({ ...s, given: new Map(s.given).set(k, { ...s.given.get(k), [name]: setFigure(n / 4, name === 'Height' ? 'm' : 'm2') }) })),
  key.map((k) => (s: RandomState) => ({ ...s, given: new Map([...s.given].filter(([other]) => other !== k)) })),
  key.map((k) => (s: RandomState) => ({ ...s, attributes: new Map([...s.attributes].filter(([other]) => other !== k)) })),
  fc.tuple(key, fc.constantFrom('NetSideArea', 'Height', 'NetVolume'), fc.integer({ min: 1, max: 90 })).map(([k, name, n]) => (s: RandomState) => ({ ...s, attributes: new Map(s.attributes).set(k, { ...s.attributes.get(k), [name]: `${n / 4} ${name === 'Height' ? 'm' : name === 'NetVolume' ? 'm3' : 'm2'}` }) })),
  fc.tuple(key, fc.constantFrom('Stud 100', 'Block 200', 'Other')).map(([k, typeName]) => (s: RandomState) => ({ ...s, types: new Map(s.types).set(k, { typeName }) })),
  key.map((k) => (s: RandomState) => ({ ...s, leftOut: new Set(s.leftOut.has(k) ? [...s.leftOut].filter((o) => o !== k) : [...s.leftOut, k]) })),
  key.map((k) => (s: RandomState) => ({ ...s, gone: new Set(s.gone.has(k) ? [...s.gone].filter((o) => o !== k) : [...s.gone, k]) })),
  fc.integer({ min: 5, max: 40 }).map((n) => (s: RandomState) => ({ ...s, basis: { ...s.basis, values: [{ name: 'Bed', unit: 'kg/m2', value: `${n} kg/m2` }] } })),
  fc.tuple(fc.nat(5), fc.constantFrom('Driver * 3 each/m2', 'Driver * 2', 'Driver * Bed / 25 kg/bag', 'Height * Length', 'Driver / 2 m2/h')).map(([at, quantity]) => (s: RandomState) => ({ ...s, basis: { ...s.basis, assemblies: replaceAt(s.basis.assemblies, 0, (a) => ({ ...a, lines: replaceAt(a.lines, at, (l) => ({ ...l, quantity })) })) } })),
  fc.nat(5).map((at) => (s: RandomState) => ({ ...s, basis: { ...s.basis, assemblies: replaceAt(s.basis.assemblies, 0, (a) => ({ ...a, lines: a.lines.length > 2 ? a.lines.filter((_, i) => i !== at) : [...a.lines, ...BASIS.assemblies[0]!.lines.slice(at)] })) } })),
  fc.constant((s: RandomState): RandomState => ({ ...s, basis: { ...s.basis, assemblies: BASIS.assemblies } })),
); // biome-ignore format: one change a line

/** The elements of a state as the project sees them. Nothing of it is shared with another call but what is given. */
export function tableOf({ attributes, types, leftOut, given, gone }: RandomState, plain?: ElementTable): ElementTable {
  const keys = Array.from({ length: KEYS }, (_, i) => i + 1).filter((k) => !gone.has(k));
  const elements = makeElements();
  const table =
    plain ??
    buildElementTable(
      keys.map((k) => elements[k - 1]!),
      Int32Array.from(keys),
    );
  return applyProjectLayer(table, { ...NO_ADDITIONS, attributes, facts: types, leftOut, given });
}

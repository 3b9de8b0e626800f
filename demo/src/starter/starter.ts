import { type PricingRule, TEMPLATE_FORMAT, type Template } from '@tally/core';
import { ROUGH_KINDS, type RoughKind } from './kinds.ts';

const UNITS: Readonly<Record<RoughKind['by'], string>> = {
  Count: 'each',
  NetVolume: 'm3',
  NetSideArea: 'm2',
  NetArea: 'm2',
  Length: 'm',
  Area: 'm2',
  NetFloorArea: 'm2',
  SlopedArea: 'm2',
};
const SECTIONS = [
  { id: 'structure', name: 'Structure and walls' },
  { id: 'openings', name: 'Windows and doors' },
  { id: 'finishes', name: 'Finishes' },
  { id: 'fittings', name: 'Fittings and services' },
  { id: 'outside', name: 'Outside' },
  { id: 'prelims', name: 'Preliminaries' },
];
const SOURCE = 'Rough figure of the starter, invented';
const DATE = '2026-01-15';

/** What models seldom draw: costs that go by the floor area of all storeys, EUR per m2. */
const BY_FLOOR_AREA = [
  { code: 'R-AL-HEAT', name: 'Heating and ventilation', rate: 165, section: 'fittings' },
  { code: 'R-AL-WATER', name: 'Water and drainage', rate: 62, section: 'fittings' },
  { code: 'R-AL-POWER', name: 'Electrical', rate: 118, section: 'fittings' },
  { code: 'R-AL-SITE', name: 'Site set-up, scaffold, cleaning', rate: 96, section: 'prelims' },
] as const;

const makeItem = ({ code, name, unit, rate }: { code: string; name: string; unit: string; rate: number }) => ({
  code,
  description: `${name}, rough`,
  kind: 'subcontract' as const,
  unit,
  rate: rate.toFixed(2),
  group: 'Rough',
  source: SOURCE,
  date: DATE,
});

/** The rule of a kind; where its figure may be missing a second one after it, that takes each as a usual piece. */
function listRules({ code, name, section, scope, by, usual }: RoughKind): PricingRule[] {
  const id = code.toLowerCase();
  const rule = { id, name, scope, section, item: code, driver: by, mayBeIdle: true };
  if (usual === undefined) return [rule];
  const known = { field: 'quantity', of: by, op: 'present' } as const;
  return [
    { ...rule, scope: { all: [scope, known] } },
    {
      ...rule,
      id: `${id}-usual`,
      name: `${name}, of usual size`,
      scope: { all: [scope, { ...known, op: 'missing' }] },
      driver: `Count * ${usual} ${UNITS[by]}`,
    },
  ];
}

/**
 * The rough rules and book that come along: a first priced pass over any building in a minute, by class, type and material words in
 * five languages. Its figures are invented, and every line that it prices says that it is rough.
 */
export const makeStarter = (): Omit<Template, 'values' | 'scales' | 'classifications'> => ({
  format: TEMPLATE_FORMAT,
  name: 'Starter, rough',
  settings: { currency: 'EUR', units: 'metric' },
  sections: SECTIONS,
  items: [
    ...ROUGH_KINDS.map((kind) => makeItem({ ...kind, unit: UNITS[kind.by] })),
    ...BY_FLOOR_AREA.map((cost) => makeItem({ ...cost, unit: 'm2' })),
  ],
  assemblies: [],
  rules: ROUGH_KINDS.flatMap(listRules),
  allowances: BY_FLOOR_AREA.map(({ code, name, section }) => ({
    code,
    name: `${name}, rough`,
    measure: 'floorArea' as const,
    kind: 'subcontract' as const,
    section,
  })),
});

import { bandId } from '../book/price-band.ts';
import type { Entry } from '../changes/entry-diff.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { priceAllowances } from '../lists/price-allowances.ts';
import type { SourceTable } from '../pipeline.ts';
import { targetId } from '../plan/hold-targets.ts';
import { codeKey } from '../units/code-key.ts';
import { hashText } from '../units/hash-text.ts';
import { buildProjectAllowances } from './project-additions.ts';
import type { Template } from './template.ts';

/** ElementKey of an allowance that comes with a template: negative, and the same whenever the template comes again. */
function allowanceKey(template: string, allowance: string): number {
  const lane = Number.parseInt(hashText(`${template}/${codeKey(allowance)}`).slice(0, 8), 16);
  return -1 - (lane & 0x3fffffff);
}

/**
 * The template with rates that say which currency they are in, where it is not the project's: a rate of another currency is unknown until the
 * project has an exchange for it, never taken for its own.
 */
export function nameCurrency(template: Template, currency: string): Template {
  const own = template.settings.currency;
  if (own === currency) return template;
  const items = template.items.map(({ currency: of = own, ...item }) =>
    of === currency ? item : { ...item, currency: of },
  );
  return { ...template, items };
}

/** A table with the costs without an object that a template brings, as sources of a plan. */
export function listTemplateSources(
  { allowances = [], items, name, settings }: Template,
  table: ElementTable,
): SourceTable[] {
  const model = { sourceId: 'model', table };
  const byKey = new Map(allowances.map((a) => [allowanceKey(name, a.code), a]));
  const { functionalUnits = [] } = settings;
  const own = buildProjectAllowances({ allowances: byKey, functionalUnits }, [table]);
  return own ? [model, { sourceId: 'allowances', table: own, own: priceAllowances(byKey, items) }] : [model];
}

/** Settings that say how any building is counted and judged, and not what this project is paid in, shown in or built where. */
const CARRIED = ['quantityChoices', 'quantityOverrides', 'statedTolerance', 'overlapShare', 'belowStoreyM', 'functionalUnits', 'classification'] as const; // biome-ignore format: one list

/** A project's settings with what a template says beyond them; what the project has set stays. The very object where nothing is new. */
export function joinSettings(own: Template['settings'], from: Template['settings']): Template['settings'] {
  const fresh = CARRIED.filter((name) => own[name] === undefined && from[name] !== undefined);
  return fresh.length === 0 ? own : { ...own, ...Object.fromEntries(fresh.map((name) => [name, from[name]])) };
}

/** A template as entries of a project. */
export function templateToEntries(template: Template): Entry[] {
  const { settings, sections, items, assemblies, values, scales, rules, classifications, allowances = [] } = template;
  const { scopes = [], expected = [], bands = [], targets = [] } = template;
  return [
    { kind: 'settings', id: 'project', body: settings },
    ...items.map((body) => ({ kind: 'item', id: body.code, body })),
    ...assemblies.map((body) => ({ kind: 'assembly', id: body.code, body })),
    ...values.map((body) => ({ kind: 'value', id: body.name, body })),
    ...scales.map((body) => ({ kind: 'scale', id: body.name, body })),
    ...classifications.map((body) => ({ kind: 'classification', id: body.name, body })),
    ...sections.map((body) => ({ kind: 'section', id: body.id, body })),
    ...rules.map((body) => ({ kind: 'rule', id: body.id, body })),
    ...scopes.map((body) => ({ kind: 'scope', id: body.id, body })),
    ...expected.map((body) => ({ kind: 'expected', id: body.ifcClass, body })),
    ...bands.map((body) => ({ kind: 'band', id: bandId(body), body })),
    ...targets.map((body) => ({ kind: 'target', id: targetId(body), body })),
    ...allowances.map((body) => ({ kind: 'allowance', id: String(allowanceKey(template.name, body.code)), body })),
    { kind: 'order', id: 'sections', body: sections.map((s) => s.id) },
    { kind: 'order', id: 'rules', body: rules.map((r) => r.id) },
  ];
}

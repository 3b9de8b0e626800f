import { chooseClassification } from '../book/classification.ts';
import type { Classification } from '../book/cost-class.ts';
import type { NamedValue } from '../book/named-value.ts';
import type { PriceBand } from '../book/price-band.ts';
import type { Scale } from '../book/scale.ts';
import type { Entry } from '../changes/entry-diff.ts';
import type { ExpectedSections } from '../mapping/expected-sections.ts';
import type { ItemSwap, PricingRule } from '../mapping/pricing-rule.ts';
import { listDifferences, type OptionBody } from '../options/option-overlay.ts';
import type { PricingBasis } from '../pipeline.ts';
import type { CheckedMark } from '../plan/checked-marks.ts';
import type { Target } from '../plan/hold-targets.ts';
import { appendToList } from '../result/append-to-list.ts';
import { type NamedScope, resolveScopes } from '../scopes/named-scope.ts';
import type { ProjectStateDto } from './project.ts';
import type { Template } from './template.ts';

/** A project's entries read as what it prices with, and which revision of each source counts. */
export interface ProjectContents {
  readonly settings: Template['settings'];
  /** Those of its own or its book; UNIFORMAT II comes beside them. */
  readonly classifications: readonly Classification[];
  readonly layer: ProjectStateDto['layer'];
  readonly accepted: ProjectStateDto['accepted'];
  readonly views: ProjectStateDto['views'];
  readonly planViews: ProjectStateDto['planViews'];
  readonly notes: ProjectStateDto['notes'];
  readonly baselines: ProjectStateDto['baselines'];
  readonly options: ProjectStateDto['options'];
  readonly priceSheets: ProjectStateDto['priceSheets'];
  readonly listProfiles: ProjectStateDto['listProfiles'];
  readonly basis: PricingBasis;
  readonly counting: ReadonlyMap<string, string>;
  /** The orders as they are kept; null where none was made yet. */
  readonly orders: Readonly<Record<'rules' | 'sections', readonly string[] | null>>;
}

/** Reads entries; lists with an order follow it, what it does not name comes last. */
export function readContents(entries: readonly Entry[], currency: string): ProjectContents {
  const kinds = new Map<string, Entry[]>();
  for (const e of entries) appendToList(kinds, e.kind, e);
  const of = <T>(kind: string) => (kinds.get(kind) ?? []) as Entry<T>[];
  const orderOf = (list: string) => of<string[]>('order').find((e) => e.id === list)?.body ?? null;
  const ordered = <T>(kind: string, list: string): T[] => {
    const order = (orderOf(list) ?? []).map((id) => id.toLowerCase());
    const place = (e: Entry) => (order.includes(e.id.toLowerCase()) ? order.indexOf(e.id.toLowerCase()) : order.length);
    return [...of<T>(kind)].sort((a, b) => place(a) - place(b)).map((e) => e.body);
  };
  const byId = <T>(kind: string): Record<string, T> => Object.fromEntries(of<T>(kind).map((e) => [e.id, e.body]));
  const scopes = of<NamedScope>('scope').map((e) => e.body);
  const classifications = of<Classification>('classification').map((e) => e.body);
  const settings = of<Template['settings']>('settings')[0]?.body;
  return {
    basis: {
      currency: settings?.currency ?? currency,
      factors: settings?.factors,
      exchange: settings?.exchange,
      items: of<PricingBasis['items'][number]>('item').map((e) => e.body),
      assemblies: of<PricingBasis['assemblies'][number]>('assembly').map((e) => e.body),
      values: of<NamedValue>('value').map((e) => e.body),
      scales: of<Scale>('scale').map((e) => e.body),
      classification: chooseClassification(settings?.classification, classifications),
      sections: ordered('section', 'sections'),
      rules: resolveScopes(ordered<PricingRule>('rule', 'rules'), scopes),
      scopes,
      expected: of<ExpectedSections>('expected').map((e) => e.body),
      bands: of<PriceBand>('band').map((e) => e.body),
      swaps: of<ItemSwap>('swap').map((e) => e.body),
      targets: of<Target>('target').map((e) => e.body),
      checked: of<CheckedMark>('checked').map((e) => e.body),
      pins: of<PricingBasis['pins'][number]>('pin').map((e) => e.body),
    },
    classifications,
    settings: settings ?? { currency, units: 'metric' },
    layer: {
      attributes: byId('attributes'),
      finishes: byId('finishes'),
      wallFinishes: byId('wallFinishes'),
      zones: byId('zones'),
      facts: byId('facts'),
      given: byId('given'),
      drawnRooms: byId('drawnRoom'),
      allowances: byId('allowance'),
      limits: of<ProjectStateDto['layer']['limits'][number]>('limit').map((e) => e.body),
      chosenFaces: byId('chosenFaces'),
      identities: byId('identity'),
      leftOut: Object.fromEntries(of<{ reason: string }>('leftOut').map((e) => [e.id, e.body.reason])),
      materials: of<ProjectStateDto['layer']['materials'][number]>('material').map((e) => e.body),
    },
    accepted: Object.fromEntries(of<{ reason: string }>('accepted').map((e) => [e.id, e.body.reason])),
    views: byId('view'),
    planViews: byId('planView'),
    notes: byId('note'),
    baselines: byId('baseline'),
    options: Object.fromEntries(
      of<OptionBody>('option').map((e) => [
        e.id,
        { ...e.body, differences: listDifferences(kinds.get('difference') ?? [], e.id) },
      ]),
    ),
    priceSheets: byId('priceSheet'),
    listProfiles: byId('listProfile'),
    orders: { rules: orderOf('rules'), sections: orderOf('sections') },
    counting: new Map(of<{ revision: string }>('counting').map((e) => [e.id, e.body.revision])),
  };
}

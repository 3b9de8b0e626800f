import { createHash } from 'node:crypto';
import {
  ENGINE_VERSION,
  type PlanManifestDto,
  type PricingBasis,
  type ProjectStateDto,
  sortFields,
  type Template,
} from '@tally/core';

/** What a counting revision adds to a manifest. */
export interface ManifestSource {
  readonly sourceId: string;
  readonly revisionId: string;
  readonly tableHash: string;
  readonly readerVersion: string;
}

/** What a project adds to its elements and chooses among their figures. */
export type ManifestAdditions = Pick<ProjectStateDto, 'layer'> & {
  readonly choices: Pick<Template['settings'], 'quantityChoices' | 'quantityOverrides'>;
};

/** Names everything a plan stands on by its content: equal manifests give equal plans. */
export function writePlanManifest(
  basis: PricingBasis,
  sources: readonly ManifestSource[],
  additions: ManifestAdditions,
): PlanManifestDto {
  const { currency, items, assemblies, values = [], scales = [], sections, rules, pins } = basis;
  const { factors = [], exchange = [], swaps = [] } = basis;
  return {
    engineVersion: ENGINE_VERSION,
    bookHash: hashJson([
      currency,
      hashEach(byCode(items)),
      hashEach(byCode(assemblies)),
      hashEach(byName(values)),
      hashEach(byName(scales)),
      factors,
      exchange,
    ]),
    rulesHash: hashJson([sections, rules, pins, ...(swaps.length > 0 ? [swaps] : [])]),
    additionsHash: hashJson(additions),
    sources: [...sources].sort((a, b) => (a.sourceId < b.sourceId ? -1 : 1)),
  };
}

const byCode = <T extends { readonly code: string }>(list: readonly T[]) =>
  [...list].sort((a, b) => (a.code < b.code ? -1 : 1));

const byName = <T extends { readonly name: string }>(list: readonly T[]) =>
  [...list].sort((a, b) => (a.name < b.name ? -1 : 1));

const known = new WeakMap<object, string>();

/** Hashes of things one by one: those that are the very objects of before are not worked out again. */
function hashEach(list: readonly object[]): string[] {
  return list.map((thing) => {
    const hash = known.get(thing) ?? hashJson(thing);
    known.set(thing, hash);
    return hash;
  });
}

/** SHA-256 of a value as JSON with sorted keys, so that the order in which it was typed does not matter. */
function hashJson(value: unknown): string {
  return createHash('sha256')
    .update(JSON.stringify(sortFields(value)))
    .digest('hex');
}

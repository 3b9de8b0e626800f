import type { BuildUpLine } from '../book/assembly.ts';
import type { CostItem } from '../book/cost-item.ts';
import type { PricingBasis } from '../pipeline.ts';

/** A basis for tests: one rule that prices every element with an assembly of these lines by its net side area. */
export function sampleBasis(
  items: readonly CostItem[],
  lines: readonly BuildUpLine[],
  more: Partial<PricingBasis> = {},
): PricingBasis {
  return {
    currency: 'EUR',
    items,
    assemblies: [{ code: 'A', description: 'A', unit: 'm2', lines }],
    sections: [{ id: 's', name: 'S' }],
    rules: [
      {
        id: 'r',
        name: 'R',
        scope: { field: 'class', op: 'present' },
        section: 's',
        assembly: 'A',
        driver: 'NetSideArea',
      },
    ],
    pins: [],
    ...more,
  };
}

/** A material for tests. */
export const sampleItem = (
  code: string,
  unit: string,
  rate: string | null,
  more: Partial<CostItem> = {},
): CostItem => ({
  code,
  description: code,
  kind: 'material',
  unit,
  rate,
  ...more,
});

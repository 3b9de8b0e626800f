import type { BookContents, PricingRule } from '@tally/core';
import { useMemo } from 'react';
import { useBasis } from '../../store/project-store.tsx';

/** The book of the project with the rules that use it, as the core takes it. */
export function useBook(): BookContents & { readonly rules: readonly PricingRule[] } {
  const basis = useBasis('assemblies', 'items', 'rules', 'scales', 'settings', 'values');
  const { items, assemblies, values, scales, rules } = basis;
  const { currency, factors, exchange } = basis.settings;
  return useMemo(
    () => ({ currency, factors, exchange, items, assemblies, values, scales, rules }),
    [currency, factors, exchange, items, assemblies, values, scales, rules],
  );
}

import type { ElementKind } from '@tally/core';
import { useMemo } from 'react';
import { useElements } from '../../store/use-elements.ts';
import { useMappings } from '../../store/use-mappings.ts';
import { indexDecisions, type KindDecision } from './kind-states.ts';

/** What decides about each kind, by its id; nothing until it is worked out. */
export function useDecisions(kinds: readonly ElementKind[] | undefined): ReadonlyMap<string, readonly KindDecision[]> {
  const { models } = useElements();
  const mappings = useMappings();
  return useMemo(() => indexDecisions(kinds ?? [], models, mappings ?? []), [kinds, models, mappings]);
}

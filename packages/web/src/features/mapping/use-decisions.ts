import type { ElementKind } from '@tally/core';
import { useMemo } from 'react';
import type { SourceMapping } from '../../store/table-reader.ts';
import { useElements } from '../../store/use-elements.ts';
import { useMappings } from '../../store/use-mappings.ts';
import { indexDecisions, type KindDecision } from './kind-states.ts';

/** What decides about each kind, by its id, and about each element, by source; nothing until it is worked out. */
export function useDecisions(kinds: readonly ElementKind[] | undefined): {
  readonly decided: ReadonlyMap<string, readonly KindDecision[]>;
  readonly mappings: readonly SourceMapping[];
} {
  const { models } = useElements();
  const mappings = useMappings();
  const decided = useMemo(() => indexDecisions(kinds ?? [], models, mappings), [kinds, models, mappings]);
  return { decided, mappings };
}

import { Box, Button } from '@mui/material';
import type { SaidIdentities } from '@tally/core';
import { useMemo } from 'react';
import { readAuthorName } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { showFigure } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { findClashes, type IdentifiedPair, isTaken, listIdentified } from './list-identified.ts';

/** Pairs of elements that came under other ids, of all counting revisions. */
export function useIdentified(): readonly IdentifiedPair[] {
  const { layer } = useProjectState('layer');
  const { models } = useElements();
  return useMemo(() => {
    const said: SaidIdentities = new Map(Object.entries(layer.identities).map(([own, { was }]) => [Number(own), was]));
    return listIdentified(models, said);
  }, [models, layer.identities]);
}

/**
 * Elements that came under other ids, each with the one of before that it is or may be: taken, parted, or all alike at once. What is said is kept
 * over revisions, and everything that hung on the element of before hangs on it.
 */
export function KnownAgain() {
  const { project, layer } = useProjectState('project', 'layer');
  const pairs = useIdentified();
  const { select } = useSelection();
  const commit = useCommit(project.id);
  const clashes = findClashes(pairs);
  const say = (of: readonly IdentifiedPair[], isSame: boolean) => {
    const who = { by: readAuthorName(), at: new Date().toISOString() };
    const told = new Map(of.map((p) => [p.own, p]));
    const bodies = [...told.values()].map((p) => ({ id: String(p.own), body: { was: isSame ? p.was : null, ...who } }));
    const name = of.length === 1 ? of[0]!.label : `${of.length} elements`;
    commit.mutate({
      cause: isSame ? `${name} known again` : `${name} ${of.length === 1 ? 'is' : 'are'} none of before`,
      diff: {
        added: bodies.filter((b) => !layer.identities[b.id]).map((b) => ({ kind: 'identity', ...b })),
        updated: bodies
          .filter((b) => layer.identities[b.id])
          .map(({ id, body }) => ({ kind: 'identity', id, from: layer.identities[id], to: body })),
      },
    });
  };
  const asked = pairs.filter((p) => !p.isSure && p.said === null);
  const stateOf = (p: IdentifiedPair): string =>
    clashes.has(p.own)
      ? 'Two are said to be one element'
      : p.said === 'same'
        ? 'The same, as was said'
        : p.said === 'other'
          ? 'Another, as was said'
          : p.isSure
            ? 'Taken: same place or name'
            : 'Needs you';
  const columns: TableColumn<IdentifiedPair>[] = [
    { key: 'label', heading: 'Element', width: 0, cell: (p) => p.label },
    { key: 'storey', heading: 'Storey', width: 120, isFaint: true, cell: (p) => p.storey ?? '' },
    { key: 'score', heading: 'Alike', width: 64, isFigure: true, cell: (p) => `${showFigure(p.score * 100, 0)} %` },
    { key: 'state', heading: 'Taken as', width: 200, cell: stateOf },
    {
      key: 'act',
      heading: '',
      width: 190,
      cell: (p) => (
        <Box sx={{ display: 'flex', gap: 0.5 }}>
          <Button size="small" color="inherit" disabled={isTaken(p) || commit.isPending} onClick={() => say([p], true)}>
            The same
          </Button>
          <Button
            size="small"
            color="inherit"
            disabled={(!isTaken(p) && p.said !== null) || commit.isPending}
            onClick={() => say([p], false)}
          >
            Another
          </Button>
        </Box>
      ),
      text: () => '',
    },
  ];
  if (pairs.length === 0)
    return (
      <Box sx={{ color: 'text.secondary', fontSize: 13, p: 1 }}>
        Every element of the counting revisions has the id that it had before.
      </Box>
    );
  return (
    <>
      {asked.length > 1 && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13 }}>
          <span>{asked.length} pairs need you.</span>
          <Button size="small" variant="outlined" color="inherit" onClick={() => say(firstOfEach(asked), true)}>
            All are the same
          </Button>
          <Button size="small" variant="outlined" color="inherit" onClick={() => say(firstOfEach(asked), false)}>
            All are others
          </Button>
        </Box>
      )}
      <VirtualTable
        label="Known again"
        rows={pairs}
        columns={columns}
        rowId={(p) => `${p.own}/${p.was}`}
        isMarked={(p) => (!p.isSure && p.said === null) || clashes.has(p.own)}
        onSelect={(p) => select([p.was, p.own])}
      />
    </>
  );
}

/** The most alike pair of each element that may be several. */
function firstOfEach(pairs: readonly IdentifiedPair[]): IdentifiedPair[] {
  const best = new Map<number, IdentifiedPair>();
  const taken = new Set<number>();
  for (const p of [...pairs].sort((a, b) => b.score - a.score))
    if (!best.has(p.own) && !taken.has(p.was)) {
      best.set(p.own, p);
      taken.add(p.was);
    }
  return [...best.values()];
}

import { Autocomplete, Box, Button, TextField } from '@mui/material';
import { type ElementChange, readSaidIdentities } from '@tally/core';
import { useMemo, useState } from 'react';
import { readAuthorName } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { showFigure } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { findClashes, type IdentifiedPair, isAsked, isTaken, listIdentified } from './list-identified.ts';

/** Pairs of elements that came under other ids, of all counting revisions. */
export function useIdentified(): readonly IdentifiedPair[] {
  const { layer } = useProjectState('layer');
  const { models } = useElements();
  return useMemo(() => listIdentified(models, readSaidIdentities(layer.identities)), [models, layer.identities]);
}

/**
 * Elements that came under other ids, each with the one of before that it is or may be: taken, parted, or all alike at once. What is said is kept
 * over revisions, and everything that hung on the element of before hangs on it.
 */
export function KnownAgain({ elements }: { readonly elements: readonly ElementChange[] }) {
  const { project, layer } = useProjectState('project', 'layer');
  const pairs = useIdentified();
  const { select } = useSelection();
  const commit = useCommit(project.id);
  const clashes = findClashes(pairs);
  const isClash = (p: IdentifiedPair) => isTaken(p) && clashes.has(p.own);
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
  const asked = pairs.filter(isAsked);
  const stateOf = (p: IdentifiedPair): string =>
    isClash(p)
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
    {
      key: 'score',
      heading: 'Alike',
      width: 64,
      isFigure: true,
      cell: (p) => (p.score === null ? 'by hand' : `${showFigure(p.score * 100, 0)} %`),
    },
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
  const byHand = (
    <PairByHand
      elements={elements}
      isBusy={commit.isPending}
      onPair={(came, went) => {
        const id = String(came.key);
        const body = { was: went.key, by: readAuthorName(), at: new Date().toISOString() };
        const before = layer.identities[id];
        commit.mutate({
          cause: `${came.label} is ${went.label} of before`,
          diff: before
            ? { updated: [{ kind: 'identity', id, from: before, to: body }] }
            : { added: [{ kind: 'identity', id, body }] },
        });
      }}
    />
  );
  if (pairs.length === 0)
    return (
      <>
        <Box sx={{ color: 'text.secondary', fontSize: 13, p: 1 }}>
          Every element of the counting revisions has the id that it had before.
        </Box>
        {byHand}
      </>
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
        isMarked={(p) => isAsked(p) || isClash(p)}
        onSelect={(p) => select([p.was, p.own])}
      />
      {byHand}
    </>
  );
}

/** Two elements that nothing pairs are said to be one: one that went, one that came in its place. */
function PairByHand({
  elements,
  isBusy,
  onPair,
}: {
  readonly elements: readonly ElementChange[];
  readonly isBusy: boolean;
  readonly onPair: (came: ElementChange, went: ElementChange) => void;
}) {
  const [went, came] = (['went', 'came'] as const).map((what) => elements.filter((e) => e.what === what));
  const [was, setWas] = useState<ElementChange | null>(null);
  const [is, setIs] = useState<ElementChange | null>(null);
  const { select } = useSelection();
  if (went!.length === 0 || came!.length === 0) return null;
  const choose = (label: string, list: readonly ElementChange[], value: ElementChange | null, set: (e: ElementChange | null) => void) => (
    <Autocomplete
      size="small"
      options={list}
      value={value}
      getOptionLabel={(e) => [e.label, e.storey].filter(Boolean).join(', ')}
      getOptionKey={(e) => e.key}
      isOptionEqualToValue={(a, b) => a.key === b.key}
      onChange={(_, e) => {
        set(e);
        if (e) select([e.key]);
      }}
      renderInput={(field) => <TextField {...field} label={label} />}
      sx={{ flex: 1, minWidth: 180 }}
    />
  ); // biome-ignore format: one field
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
      {choose('One that went', went!, was, setWas)}
      {choose('is one that came', came!, is, setIs)}
      <Button
        variant="outlined"
        color="inherit"
        disabled={!was || !is || isBusy}
        onClick={() => {
          onPair(is!, was!);
          setWas(null);
          setIs(null);
        }}
      >
        They are one
      </Button>
    </Box>
  );
}

/** The most alike pair of each element that may be several. */
function firstOfEach(pairs: readonly IdentifiedPair[]): IdentifiedPair[] {
  const best = new Map<number, IdentifiedPair>();
  const taken = new Set<number>();
  for (const p of [...pairs].sort((a, b) => (b.score ?? 1) - (a.score ?? 1)))
    if (!best.has(p.own) && !taken.has(p.was)) {
      best.set(p.own, p);
      taken.add(p.was);
    }
  return [...best.values()];
}

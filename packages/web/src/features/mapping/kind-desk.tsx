import { Box, Button, Checkbox, FormControlLabel, LinearProgress, MenuItem, Select } from '@mui/material';
import { amountToMinor, type ElementKind, KIND_GROUPINGS, mainQuantityOf, PracticeIndex } from '@tally/core';
import { type ReactNode, useEffect, useMemo, useRef } from 'react';
import { Link } from 'react-router';
import { usePageView } from '../../store/page-view.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { usePractice } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useShowStates } from '../../store/use-show-states.ts';
import { CompletenessBar } from '../../ui/completeness-bar.tsx';
import { Empty } from '../../ui/empty.tsx';
import { showFigure, showMinor, showSi } from '../../ui/format.ts';
import { useKept } from '../../ui/kept-state.ts';
import { useModelPicture } from '../../ui/model-picture.tsx';
import { isPageKey } from '../../ui/page-key.ts';
import { Panes } from '../../ui/panes.tsx';
import { PictureButton, usePictureShown } from '../../ui/picture-pane.tsx';
import { StateMark } from '../../ui/state-mark.tsx';
import { useLatest } from '../../ui/use-latest.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { nameKind } from './decide-kind.ts';
import { KindDecisionPane } from './kind-decision.tsx';
import { nextOpenKind } from './kind-states.ts';
import { mapByPractice } from './practice-rules.ts';
import { useDecisions } from './use-decisions.ts';
import { useKinds } from './use-kinds.ts';

const FIRST_DESK = { by: 'type', kind: '', only: '' };
const NOTHING_SEEN: readonly string[] = [];
/** Kinds that are remembered as looked at, the newest. */
const MOST_SEEN = 5000;

/** The worst state that any of a kind's elements has. */
const stateOf = ({ counts }: ElementKind) =>
  counts.unpriced > 0 ? 'unpriced' : counts.partly > 0 ? 'partly' : counts.priced > 0 ? 'priced' : 'leftOut';

/** The mapping as it is worked: the kinds of the building, what misses most money first, and the decision for the chosen one. */
export function KindDesk({ choice }: { readonly choice: ReactNode }) {
  const { project, money, summary, orders } = useProjectState('project', 'money', 'summary', 'orders');
  const { settings, rules, sections, items, assemblies } = useBasis(
    'settings',
    'rules',
    'sections',
    'items',
    'assemblies',
  );
  const [view, changeView] = usePageView('mapping-desk', FIRST_DESK);
  const by = KIND_GROUPINGS.find((g) => g === view.by) ?? 'type';
  const kinds = useKinds(by);
  const { decided, mappings } = useDecisions(kinds);
  const { data: earlier } = usePractice(project.id);
  const practice = useMemo(() => new PracticeIndex(earlier?.projects ?? []), [earlier]);
  const commit = useCommit(project.id);
  const { keys, select } = useSelection();
  const show = useShowStates();
  const Picture = useModelPicture();
  const [isPictured] = usePictureShown('mapping', true);
  const chosen = kinds?.find((k) => k.id === view.kind) ?? null;
  const [seen, setSeen] = useKept<readonly string[]>(`${project.id}/kinds-seen`, NOTHING_SEEN);
  const looked = useMemo(() => new Set(seen), [seen]);
  useEffect(() => {
    if (chosen && !looked.has(chosen.id)) setSeen([...seen.slice(-MOST_SEEN), chosen.id]);
  }, [chosen, looked, seen, setSeen]);
  const isUnseen = ({ id }: ElementKind) => !looked.has(id);
  const open = useMemo(() => (kinds ?? []).filter((k) => k.counts.unpriced + k.counts.partly > 0), [kinds]);
  const known = useMemo(
    () => mapByPractice({ rules, sections, orders }, open, practice, { items, assemblies }),
    [rules, sections, orders, open, practice, items, assemblies],
  );
  const next = kinds ? nextOpenKind(kinds, chosen?.id ?? null) : null;
  const choose = useLatest((kind: ElementKind) => changeView({ kind: kind.id }));
  // The dearest open one is begun with.
  useEffect(() => {
    if (kinds && !chosen && kinds[0]) choose(kinds[0]);
  }, [kinds, chosen, choose]);
  const ofChosen = useRef<ReadonlySet<number>>(new Set());
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is chosen is selected once, then one may select on
  useEffect(() => {
    if (!chosen) return;
    ofChosen.current = new Set(chosen.keys);
    select(chosen.keys);
  }, [chosen?.id]);
  // An element that is picked in the model brings its kind.
  useEffect(() => {
    const [picked] = keys.size === 1 ? keys : [];
    if (picked === undefined || ofChosen.current.has(picked)) return;
    const kind = kinds?.find((k) => k.keys.includes(picked));
    if (kind) choose(kind);
  }, [keys, kinds, choose]);
  const goOn = useLatest(() => {
    if (next) choose(next);
  });
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key !== 'n' || !isPageKey(e)) return;
      e.preventDefault();
      goOn();
    };
    // Before the table takes the letter for its own.
    window.addEventListener('keydown', onKey, true);
    return () => window.removeEventListener('keydown', onKey, true);
  }, [goOn]);
  if (!kinds) return <LinearProgress />;
  const shown = view.only === 'unseen' ? kinds.filter((k) => isUnseen(k) || k === chosen) : kinds;
  const unseen = kinds.filter(isUnseen).length;
  if (kinds.length === 0)
    return (
      <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5 }}>
        <Box>{choice}</Box>
        <Empty title="Nothing to map yet">
          <span>Bring a model; its elements stand here by class and type, and are priced kind by kind.</span>
          <Button variant="contained" component={Link} to={`/projects/${project.id}/sources`}>
            Bring a model
          </Button>
        </Empty>
      </Box>
    );
  const amount = (value: number) => showMinor(amountToMinor(value), money.minorDigits);
  const columns: TableColumn<ElementKind>[] = [
    {
      key: 'kind',
      heading: 'Kind',
      width: 0,
      cell: (k) => (
        <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center', minWidth: 0 }}>
          <StateMark state={stateOf(k)} />
          <Box component="span" title={nameKind(k)} sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
            {nameKind(k)}
            {k.within && k.within.values.length > 0 ? ` · ${k.within.values.join(', ')}` : ''}
          </Box>
        </Box>
      ),
      text: nameKind,
    },
    {
      key: 'open',
      heading: 'Open',
      hint: 'Elements that are not or not wholly priced, of all of the kind',
      width: 66,
      isFigure: true,
      cell: (k) => {
        const n = k.counts.unpriced + k.counts.partly;
        return n > 0 ? `${showFigure(n, 0)} of ${showFigure(k.keys.length, 0)}` : showFigure(k.keys.length, 0);
      },
    },
    {
      key: 'quantity',
      heading: 'Quantity',
      width: 88,
      isFigure: true,
      isFaint: true,
      cell: (k) => {
        const { value, unit } = mainQuantityOf(k);
        const shown = showSi(value, unit, settings.units);
        return `${shown.figure} ${shown.unit === 'each' ? 'pcs' : shown.unit}`;
      },
    },
    {
      key: 'missing',
      heading: 'Missing',
      hint: 'What the open ones cost at the price of their like; a question mark where nothing like them has a price',
      width: 94,
      isFigure: true,
      cell: (k) => (k.counts.unpriced === 0 ? '' : k.missing === null ? '?' : `≈ ${amount(k.missing)}`),
    },
    {
      key: 'amount',
      heading: 'Amount',
      width: 82,
      isFigure: true,
      cell: (k) => (k.amount === 0 ? '' : amount(k.amount)),
    },
  ];
  const missing = open.reduce((sum, k) => sum + (k.missing ?? 0), 0);
  const list = (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', bgcolor: 'background.default', pr: 1.5 }}>
      <VirtualTable
        label="Kinds"
        keep={`${project.id}/kinds`}
        rows={shown}
        columns={columns}
        rowId={(k) => k.id}
        selectedId={chosen?.id ?? null}
        onSelect={choose}
        isMarked={(k) => k.counts.unpriced + k.counts.partly > 0}
      />
    </Box>
  );
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box role="toolbar" aria-label="Mapping" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <Select
          value={by}
          onChange={(e) => changeView({ by: e.target.value, kind: '' })}
          inputProps={{ 'aria-label': 'Kinds are' }}
          sx={{ fontSize: 13 }}
        >
          <MenuItem value="type">by class and type</MenuItem>
          <MenuItem value="storey">by class, type and storey</MenuItem>
          <MenuItem value="material">by class, type and material</MenuItem>
          <MenuItem value="code">by class, type and code</MenuItem>
        </Select>
        {(unseen > 0 || view.only === 'unseen') && (
          <FormControlLabel
            label={`${unseen} never looked at`}
            disableTypography
            sx={{ m: 0, whiteSpace: 'nowrap' }}
            control={
              <Checkbox
                size="small"
                sx={{ p: 0.5 }}
                checked={view.only === 'unseen'}
                onChange={(_, isOn) => changeView({ only: isOn ? 'unseen' : '' })}
              />
            }
          />
        )}
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Box sx={{ display: { xs: 'none', lg: 'block' } }}>
            <CompletenessBar counts={summary.counts} onChoose={show} />
          </Box>
        </Box>
        {open.length > 0 && (
          <Box data-testid="kinds-missing" sx={{ whiteSpace: 'nowrap', color: 'text.secondary' }}>
            {open.length === 1 ? 'One kind is open' : `${open.length} kinds are open`}
            {missing > 0 ? `, ≈ ${amount(missing)} ${money.currency}` : ''}
          </Box>
        )}
        {known.change && (
          <Button
            disabled={commit.isPending}
            title="Price the open kinds whose type was priced in earlier projects as it was there; one undo takes it back"
            onClick={() => known.change && commit.mutate(known.change)}
          >
            {known.kinds} as in earlier projects
          </Button>
        )}
        <PictureButton name="mapping" isShownFirst />
      </Box>
      <Panes name="mapping-desk" left={list} leftSize={500} right={null}>
        <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', gap: 1, pl: 1.5 }}>
          <Box sx={{ flex: isPictured ? '0 1 auto' : 1, minHeight: 0, display: 'flex' }}>
            {chosen && (
              <KindDecisionPane
                key={chosen.id}
                kind={chosen}
                kinds={kinds}
                decided={decided}
                mappings={mappings}
                practice={practice}
                next={next}
                onNext={goOn}
              />
            )}
          </Box>
          {isPictured && Picture && (
            <Box
              sx={{
                flex: 1,
                minHeight: 200,
                border: 1,
                borderColor: 'divider',
                borderRadius: 1,
                overflow: 'hidden',
                bgcolor: 'background.paper',
              }}
            >
              <Picture isByState />
            </Box>
          )}
        </Box>
      </Panes>
    </Box>
  );
}

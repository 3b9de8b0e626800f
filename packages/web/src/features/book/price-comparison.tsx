import { Box, Button, Checkbox, Tab, Tabs } from '@mui/material';
import {
  type ChangeDto,
  type ChangedPrice,
  type CostItem,
  describeSome,
  type MoveDto,
  type PriceComparison,
  type ProjectEffectDto,
  replacesFormula,
  type SheetProfile,
  type SkippedRow,
  type WantedPrices,
} from '@tally/core';
import { hashKey, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useMemo, useState } from 'react';
import { postJson } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { projectKey } from '../../store/slices.ts';
import { useProblemNotice } from '../../store/use-commit.ts';
import { showFigure, showRate, showUnit } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { Effect } from './effect.tsx';
import { OtherProjects } from './other-projects.tsx';
import { useTakeOver } from './use-take-over.ts';

type Part = 'changed' | 'fresh' | 'vanished' | 'skipped';
/** A rate with the decimals it has; a word where there is none. */
const showPrice = (rate: string | null) => (rate === null ? 'none' : showRate(rate));

/** What a price sheet changes, part by part; what is ticked is taken over, its effect on the total is seen first. */
export function PriceComparisonView({
  fileHash,
  profile,
  source,
  onDone,
}: {
  readonly fileHash: string;
  readonly profile: SheetProfile;
  readonly source: string;
  readonly onDone: () => void;
}) {
  const { project, manifest } = useProjectState('project', 'manifest');
  const sheet = ['price-comparison', project.id, fileHash, source, JSON.stringify(profile)];
  const { data, error, isPlaceholderData } = useQuery({
    // Known by the prices it is compared with: another change of the project asks nothing anew.
    queryKey: [...sheet, manifest.bookHash],
    queryFn: () =>
      postJson<PriceComparison>(`/projects/${project.id}/price-sheets/${fileHash}/compare`, { profile, source }),
    // Where somebody changes the book meanwhile, what is ticked of the same sheet stays ticked.
    placeholderData: (held: PriceComparison | undefined, before) =>
      before && hashKey(before.queryKey.slice(0, -1)) === hashKey(sheet) ? held : undefined,
    retry: false,
    meta: { isTold: true },
  });
  if (error) return <Box sx={{ fontSize: 13, color: 'error.main' }}>{error.message}</Box>;
  if (!data) return <Box sx={{ fontSize: 13 }}>Comparing the prices</Box>;
  return (
    <Comparison
      comparison={data}
      isBehind={isPlaceholderData}
      fileHash={fileHash}
      profile={profile}
      source={source}
      onDone={onDone}
    />
  );
}

function Comparison({
  comparison,
  isBehind,
  fileHash,
  profile,
  source,
  onDone,
}: {
  readonly comparison: PriceComparison;
  /** The book has changed since: it is compared anew. */
  readonly isBehind: boolean;
  readonly fileHash: string;
  readonly profile: SheetProfile;
  readonly source: string;
  readonly onDone: () => void;
}) {
  const { project, manifest } = useProjectState('project', 'manifest');
  const client = useQueryClient();
  const notice = useProblemNotice();
  const [part, setPart] = useState<Part>('changed');
  const [ticked, setChanged] = useState<ReadonlySet<string>>(
    // A rate in place of a formula is a decision of its own.
    new Set(comparison.changed.filter((c) => !replacesFormula(c)).map((c) => c.key)),
  );
  const [tickedFresh, setFresh] = useState<ReadonlySet<string>>(new Set());
  // What is not in the comparison any more cannot be taken over.
  const changed = useMemo(
    () =>
      keepListed(
        ticked,
        comparison.changed.map((c) => c.key),
      ),
    [ticked, comparison],
  );
  const fresh = useMemo(
    () =>
      keepListed(
        tickedFresh,
        comparison.fresh.map((f) => f.code),
      ),
    [tickedFresh, comparison],
  );
  const date = new Date().toLocaleDateString('sv-SE');
  const count = changed.size + fresh.size;
  const chosen = useMemo(
    () => ({
      changed: describeSome(changed, comparison.changed.map((c) => c.key)), // biome-ignore format: short
      fresh: describeSome(fresh, comparison.fresh.flatMap((f) => (f.unit === null ? [] : [f.code]))), // biome-ignore format: short
    }),
    [changed, fresh, comparison],
  );
  const wanted: WantedPrices = { profile, source, ...chosen, date, bookHash: manifest.bookHash };
  const asked = useDeferredValue(JSON.stringify(wanted));
  const path = `/projects/${project.id}/price-sheets/${fileHash}`;
  const { data: move } = useQuery({
    queryKey: ['price-preview', project.id, fileHash, asked],
    queryFn: ({ signal }) => postJson<MoveDto>(`${path}/preview`, JSON.parse(asked), signal),
    enabled: count > 0 && comparison.isDecimalSure,
    retry: false,
  });
  const { data: effects } = useQuery({
    queryKey: ['price-effects', project.id, fileHash, asked],
    queryFn: ({ signal }) => postJson<ProjectEffectDto[]>(`${path}/effects`, JSON.parse(asked), signal),
    enabled: changed.size > 0 && comparison.isDecimalSure,
    retry: false,
  });
  const [others, setOthers] = useState<ReadonlySet<string>>(new Set());
  const takeOver = useTakeOver();
  const take = useMutation({
    mutationFn: () => postJson<ChangeDto>(`${path}/take-over`, wanted),
    onError: (failed) => {
      notice(failed);
      void client.invalidateQueries({ queryKey: projectKey(project.id) });
    },
  });
  const accept = async () => {
    const chosenProjects = effects?.filter((e) => others.has(e.projectId)) ?? [];
    const done = await take.mutateAsync().catch(() => null);
    if (!done) return;
    // The comparison is over: what it asked is not asked anew.
    onDone();
    void client.invalidateQueries({ queryKey: projectKey(project.id) });
    await takeOver(chosenProjects, `Prices from ${source}`);
  };
  return (
    <Box sx={{ minHeight: 0, display: 'flex', flexDirection: 'column', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        <Tabs
          value={part}
          onChange={(_, next: Part) => setPart(next)}
          sx={{
            flex: 1,
            minHeight: 36,
            '& .MuiTab-root': { minHeight: 36, minWidth: 0, px: 1.25, textTransform: 'none', fontSize: 13 },
          }}
        >
          <Tab value="changed" label={`Changed ${comparison.changed.length}`} />
          <Tab value="fresh" label={`New ${comparison.fresh.length}`} />
          <Tab value="vanished" label={`Gone ${comparison.vanished.length}`} />
          <Tab value="skipped" label={`Not used ${comparison.skipped.length}`} />
        </Tabs>
        <Box role="status" aria-label="Effect" sx={{ fontSize: 13 }}>
          {take.isPending ? (
            'Taking the prices over'
          ) : isBehind ? (
            'Comparing with the book as it is now'
          ) : !comparison.isDecimalSure ? (
            'Asked first'
          ) : count === 0 ? (
            `${comparison.unchanged} prices are as they were.`
          ) : (
            <Effect move={move} />
          )}
        </Box>
        <Button
          variant="contained"
          disabled={count === 0 || !move || isBehind || take.isPending}
          onClick={() => void accept()}
        >
          Take {count} over
        </Button>
      </Box>
      {!comparison.isDecimalSure && (
        <Box role="alert" sx={{ fontSize: 13, bgcolor: 'tally.unpricedSoft', px: 1, py: 0.5 }}>
          A price such as 1.234 could be read in two ways: say above which sign stands before the decimals.
        </Box>
      )}
      {changed.size > 0 && comparison.isDecimalSure && (
        <OtherProjects effects={effects} chosen={others} onChoose={setOthers} />
      )}
      <Box sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        {part === 'changed' && <ChangedTable rows={comparison.changed} chosen={changed} onChoose={setChanged} />}
        {part === 'fresh' && <FreshTable rows={comparison.fresh} chosen={fresh} onChoose={setFresh} />}
        {part === 'vanished' && <VanishedTable rows={comparison.vanished} />}
        {part === 'skipped' && <SkippedTable rows={comparison.skipped} />}
      </Box>
    </Box>
  );
}

const keepListed = (ticked: ReadonlySet<string>, listed: readonly string[]): ReadonlySet<string> =>
  new Set(listed.filter((key) => ticked.has(key)));

/** A column of boxes to tick, with one for all in its heading. */
function tickColumn<R>(
  rows: readonly R[],
  keyOf: (row: R) => string,
  { chosen, onChoose }: Choosing,
  canChoose: (row: R) => boolean = () => true,
): TableColumn<R> {
  const open = rows.filter(canChoose);
  return {
    key: 'tick',
    heading: chosen.size > 0 ? 'None' : 'All',
    width: 56,
    onHeading: () => onChoose(new Set(chosen.size > 0 ? [] : open.map(keyOf))),
    cell: (row) => (
      <Checkbox
        size="small"
        sx={{ p: 0 }}
        disabled={!canChoose(row)}
        checked={chosen.has(keyOf(row))}
        slotProps={{ input: { 'aria-label': `Take ${keyOf(row)} over` } }}
        onChange={(_, isOn) => {
          const next = new Set(chosen);
          if (isOn) next.add(keyOf(row));
          else next.delete(keyOf(row));
          onChoose(next);
        }}
      />
    ),
    text: (row) => (chosen.has(keyOf(row)) ? 'yes' : 'no'),
  };
}

interface Choosing {
  readonly chosen: ReadonlySet<string>;
  readonly onChoose: (codes: ReadonlySet<string>) => void;
}

function ChangedTable({ rows, chosen, onChoose }: { readonly rows: readonly ChangedPrice[] } & Choosing) {
  const columns: TableColumn<ChangedPrice>[] = [
    tickColumn(rows, (r) => r.key, { chosen, onChoose }),
    { key: 'code', heading: 'Code', width: 110, cell: (r) => r.code },
    { key: 'description', heading: 'Description', width: 0, cell: (r) => r.description },
    { key: 'unit', heading: 'Unit', width: 110, isFaint: true, cell: (r) => showUnit(r.unit) },
    {
      key: 'from',
      heading: 'Now',
      width: 110,
      isFigure: true,
      cell: (r) => (replacesFormula(r) ? <span title={r.from ?? ''}>by formula</span> : showPrice(r.from)),
      text: (r) => r.from ?? '',
    },
    { key: 'to', heading: 'Then', width: 90, isFigure: true, cell: (r) => showPrice(r.to) },
    {
      key: 'percent',
      heading: 'Change %',
      width: 84,
      isFigure: true,
      cell: (r) => (r.percent === null ? '' : `${r.percent > 0 ? '+' : ''}${showFigure(r.percent, 1)}`),
    },
  ];
  return <VirtualTable label="Changed prices" rows={rows} columns={columns} rowId={(r) => `${r.kind}/${r.key}`} />;
}

type FreshRow = PriceComparison['fresh'][number];

function FreshTable({ rows, chosen, onChoose }: { readonly rows: readonly FreshRow[] } & Choosing) {
  const columns: TableColumn<FreshRow>[] = [
    tickColumn(
      rows,
      (r) => r.code,
      { chosen, onChoose },
      (r) => r.unit !== null,
    ),
    { key: 'code', heading: 'Code', width: 130, cell: (r) => r.code },
    { key: 'description', heading: 'Description', width: 0, cell: (r) => r.description ?? '' },
    {
      key: 'unit',
      heading: 'Unit',
      width: 130,
      isFaint: true,
      cell: (r) => (r.unit === null ? 'no unit of ours' : showUnit(r.unit)),
    },
    { key: 'rate', heading: 'Price', width: 100, isFigure: true, cell: (r) => showPrice(r.rate) },
  ];
  return <VirtualTable label="New prices" rows={rows} columns={columns} rowId={(r) => r.code} />;
}

function VanishedTable({ rows }: { readonly rows: readonly CostItem[] }) {
  const columns: TableColumn<CostItem>[] = [
    { key: 'code', heading: 'Code', width: 130, cell: (r) => r.code },
    { key: 'description', heading: 'Description', width: 0, cell: (r) => r.description },
    { key: 'rate', heading: 'Rate kept', width: 100, isFigure: true, cell: (r) => showPrice(r.rate) },
    { key: 'date', heading: 'Of', width: 100, isFaint: true, cell: (r) => r.date ?? '' },
  ];
  return <VirtualTable label="Prices that are gone" rows={rows} columns={columns} rowId={(r) => r.code} />;
}

function SkippedTable({ rows }: { readonly rows: readonly SkippedRow[] }) {
  const columns: TableColumn<SkippedRow>[] = [
    { key: 'row', heading: 'Row', width: 64, isFigure: true, cell: (r) => String(r.row) },
    { key: 'text', heading: 'What it says', width: 0, isFaint: true, cell: (r) => r.text },
    { key: 'reason', heading: 'Why it is not used', width: 330, cell: (r) => r.reason },
  ];
  return <VirtualTable label="Rows not used" rows={rows} columns={columns} rowId={(r) => `${r.row}/${r.reason}`} />;
}

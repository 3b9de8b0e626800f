import { Box, Button, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { GROUP_FIELDS, type GroupField, isLineUnknown, nameGroup, type PlanGroup, type PlanLine } from '@tally/core';
import { type ReactNode, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { changeRate, rateText } from '../../store/change-rate.ts';
import { getJson } from '../../store/client.ts';
import { usePageView } from '../../store/page-view.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { usePlan } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { refusalOf, useCommit, useProblemNotice } from '../../store/use-commit.ts';
import { useRateNames } from '../../store/use-elements.ts';
import { useShowStates } from '../../store/use-show-states.ts';
import { CompletenessBar } from '../../ui/completeness-bar.tsx';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { alignQuantity, showFigure, showMinor, showUnit, widthOfMoney } from '../../ui/format.ts';
import { GroupLabel } from '../../ui/group-label.tsx';
import { GroupSelect } from '../../ui/group-select.tsx';
import { PictureButton, PicturePane } from '../../ui/picture-pane.tsx';
import { ShowInModel } from '../../ui/show-in-model.tsx';
import { useClosed } from '../../ui/use-closed.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { AllowanceList } from './allowance-list.tsx';
import { PurchaseList } from './purchase-list.tsx';

type Row =
  | { readonly kind: 'group'; readonly id: string; readonly group: PlanGroup; readonly level: number }
  | { readonly kind: 'line'; readonly id: string; readonly line: PlanLine; readonly level: number };

function flatten(root: PlanGroup, closed: ReadonlySet<string>): Row[] {
  const rows: Row[] = [];
  const visit = (group: PlanGroup, level: number) => {
    for (const g of group.groups) {
      rows.push({ kind: 'group', id: g.id, group: g, level });
      if (!closed.has(g.id)) visit(g, level + 1);
    }
    for (const line of group.lines) rows.push({ kind: 'line', id: line.id, line, level });
  };
  visit(root, 0);
  return rows;
}

const minorOf = (row: Row): number => (row.kind === 'group' ? row.group.minor : row.line.minor);

/** Waste of a line; elements of one item may have several. */
const showWaste = ({ wastePercent }: PlanLine): string =>
  wastePercent === null ? 'several' : wastePercent > 0 ? `${wastePercent} %` : '';

/** Rate of a line; elements of one item may have several. */
const showRate = ({ rate, rates }: PlanLine): string =>
  rates > 1 ? `${rates} rates` : rate === null ? 'none' : showFigure(rate, 2);

const showAligned = (value: number | null, unit: string) => (value === null ? '' : alignQuantity(value, unit));

const FIRST_VIEW = { view: 'lines' };
const FIRST_GROUPS = { by: 'section', beneath: 'none' };

/** The field that a link groups by; empty for none, and for what is no field. */
const readGroup = (text: string): GroupField | '' => GROUP_FIELDS.find((f) => f === text) ?? '';

/** The plan: its priced lines, what is bought for them, or the costs without an object. */
export function PlanPage() {
  const [{ view: asked }, changeView] = usePageView('plan', FIRST_VIEW);
  const view = asked === 'purchases' || asked === 'allowances' ? asked : 'lines';
  const choice = (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label="What the plan shows"
      value={view}
      onChange={(_, next) => next && changeView({ view: next })}
    >
      <ToggleButton value="lines">Lines</ToggleButton>
      <ToggleButton value="purchases">Purchases</ToggleButton>
      <ToggleButton value="allowances">Allowances</ToggleButton>
    </ToggleButtonGroup>
  );
  if (view === 'allowances') return <AllowanceList choice={choice} />;
  return view === 'lines' ? <PlanLines choice={choice} /> : <PurchaseList choice={choice} />;
}

/** The priced lines: grouped as wanted, every column adding up to the total below. */
function PlanLines({ choice }: { readonly choice: ReactNode }) {
  const { project, summary } = useProjectState('project', 'summary');
  const basis = useBasis('items');
  const [groups, changeGroups] = usePageView('plan-groups', FIRST_GROUPS);
  const [first, second] = [readGroup(groups.by), readGroup(groups.beneath)];
  const by = useMemo(
    () => [first, second].filter((f, i, all) => f !== '' && all.indexOf(f) === i) as GroupField[],
    [first, second],
  );
  const { data: plan, error } = usePlan(project.id, by);
  const { closed, toggle } = useClosed(`${project.id}/plan`);
  const [selectedId, setSelectedId] = useState<string | null>(null);
  const { select, frame, keys } = useSelection();
  const navigate = useNavigate();
  const change = useCommit(project.id);
  const items = useMemo(() => new Map(basis.items.map((i) => [i.code, i])), [basis.items]);
  const names = useRateNames();
  const notice = useProblemNotice();
  const showStates = useShowStates();
  const rows = useMemo(() => (plan ? flatten(plan, closed) : []), [plan, closed]);

  const choose = async (row: Row) => {
    setSelectedId(row.id);
    try {
      select(
        await getJson<number[]>(
          `/projects/${project.id}/plan/elements?by=${by.join()}&id=${encodeURIComponent(row.id)}`,
        ),
      );
    } catch (failed) {
      notice(failed);
    }
  };
  const open = (row: Row) => {
    if (row.kind === 'group') return toggle(row.id);
    frame();
    navigate(`/projects/${project.id}/model`);
  };
  const money = (row: Row) =>
    row.kind === 'group'
      ? showMinor(row.group.minor, summary.minorDigits)
      : isLineUnknown(row.line)
        ? 'unknown'
        : showMinor(row.line.minor, summary.minorDigits);
  const columns: TableColumn<Row>[] = [
    {
      key: 'label',
      heading: 'Item',
      width: 0,
      cell: (row) =>
        row.kind === 'group' ? (
          <GroupLabel
            label={row.group.label}
            note={row.group.unknown > 0 ? `incomplete: ${row.group.unknown} unknown` : null}
            isOpen={!closed.has(row.id)}
            onToggle={() => toggle(row.id)}
          />
        ) : (
          <LineLabel line={row.line} />
        ),
      text: (row) => (row.kind === 'group' ? row.group.label : `${row.line.item} ${row.line.description}`),
    },
    {
      key: 'net',
      heading: 'Net',
      width: 92,
      isFigure: true,
      cell: (row) => (row.kind === 'line' ? showAligned(row.line.net, row.line.unit) : ''),
    },
    {
      key: 'waste',
      heading: 'Waste',
      width: 56,
      isFigure: true,
      isFaint: true,
      cell: (row) => (row.kind === 'line' ? showWaste(row.line) : ''),
    },
    {
      key: 'buy',
      heading: 'To buy',
      width: 92,
      isFigure: true,
      cell: (row) => (row.kind === 'line' ? showAligned(row.line.toBuy, row.line.unit) : ''),
    },
    {
      key: 'unit',
      heading: 'Unit',
      width: 52,
      isFaint: true,
      cell: (row) => (row.kind === 'line' ? showUnit(row.line.unit) : ''),
    },
    {
      key: 'rate',
      heading: 'Rate',
      width: 88,
      isFigure: true,
      cell: (row) => (row.kind === 'line' ? showRate(row.line) : ''),
      edit: (row) => (row.kind === 'line' && items.has(row.line.item) ? rateText(items.get(row.line.item)!) : null),
      save: async (row, text) => {
        if (row.kind !== 'line') return null;
        const item = items.get(row.line.item)!;
        const made = changeRate(item, text, names, summary.currency);
        if (typeof made === 'string') return made;
        return refusalOf(change.mutateAsync(made));
      },
    },
    {
      key: 'amount',
      heading: `Amount ${summary.currency}`,
      width: widthOfMoney([summary.total, ...rows.map(minorOf)], summary.minorDigits, 118),
      isFigure: true,
      cell: money,
    },
    {
      key: 'elements',
      heading: 'Elements',
      width: 72,
      isFigure: true,
      isFaint: true,
      cell: (row) => (row.kind === 'line' ? String(row.line.elements) : ''),
    },
  ];
  if (error && !plan) return <Empty title="The plan cannot be shown">{error.message}</Empty>;
  if (plan && rows.length === 0) {
    return (
      <Empty title="Nothing is priced yet">
        <span>A plan needs a model and rules that catch its elements.</span>
        <Button
          variant="contained"
          onClick={() => navigate(`/projects/${project.id}/${summary.counts.unpriced > 0 ? 'mapping' : 'sources'}`)}
        >
          {summary.counts.unpriced > 0 ? 'Make a rule' : 'Bring a model'}
        </Button>
        <Button onClick={() => navigate(`/projects/${project.id}/plan?view=allowances`)}>
          Add costs without an object
        </Button>
      </Empty>
    );
  }
  return (
    <PicturePane name="plan" hasSelection={keys.size > 0}>
      <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
        <Box role="toolbar" aria-label="Plan" sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13 }}>
          {choice}
          <GroupSelect
            label="Grouped by"
            fields={GROUP_FIELDS as readonly GroupField[]}
            words={nameGroup}
            value={first}
            onChange={(by) => changeGroups({ by: by === '' ? 'none' : by })}
          />
          <GroupSelect
            label="then by"
            fields={GROUP_FIELDS as readonly GroupField[]}
            words={nameGroup}
            value={second}
            onChange={(by) => changeGroups({ beneath: by === '' ? 'none' : by })}
          />
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <CompletenessBar counts={summary.counts} onChoose={showStates} />
          </Box>
          <PictureButton name="plan" />
          <ShowInModel
            isOff={keys.size === 0}
            onClick={() => {
              frame();
              navigate(`/projects/${project.id}/model`);
            }}
          />
          {(['XLSX', 'CSV'] as const).map((kind) => (
            <Button
              key={kind}
              component="a"
              aria-label={`Save as ${kind}`}
              href={`/api/projects/${project.id}/plan.${kind.toLowerCase()}?by=${by.join()}`}
              download
              sx={{ minWidth: 0, px: 0.5 }}
            >
              {kind}
            </Button>
          ))}
        </Box>
        <VirtualTable
          label="Plan"
          keep={`${project.id}/plan`}
          rows={rows}
          columns={columns}
          rowId={(r) => r.id}
          level={(r) => r.level}
          isGroup={(r) => r.kind === 'group'}
          isMarked={(r) => r.kind === 'line' && r.line.unknown > 0}
          selectedId={selectedId}
          onSelect={(r) => void choose(r)}
          onOpen={open}
          footer={
            <Box
              sx={{
                display: 'flex',
                justifyContent: 'space-between',
                px: 1,
                py: 1,
                borderTop: 1,
                borderColor: 'text.primary',
                fontWeight: 650,
              }}
            >
              <span data-testid="plan-total-name">{plan?.label ?? 'Total'}</span>
              <Box component="span" data-testid="plan-total" sx={{ fontFamily: FIGURES, pr: '72px' }}>
                {plan ? showMinor(plan.minor, summary.minorDigits) : ''}
              </Box>
            </Box>
          }
        />
      </Box>
    </PicturePane>
  );
}

function LineLabel({ line }: { readonly line: PlanLine }) {
  return (
    <Box title={line.problem ?? line.description} sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
      <Box component="span" sx={{ color: 'text.secondary', mr: 1 }}>
        {line.item}
      </Box>
      {line.description || line.problem}
    </Box>
  );
}

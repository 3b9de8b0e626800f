import AccountTreeIcon from '@mui/icons-material/AccountTreeOutlined';
import DoneIcon from '@mui/icons-material/Done';
import PrintIcon from '@mui/icons-material/PrintOutlined';
import { Box, Button, MenuItem, Select, useMediaQuery } from '@mui/material';
import type { GroupField, PlanRows, PlanView } from '@tally/core';
import { type KeyboardEvent, type ReactNode, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { changeWaste, markChecked, unmark } from '../../store/change-plan.ts';
import { changeRate, rateText } from '../../store/change-rate.ts';
import { getJson, postJson, readAuthorName } from '../../store/client.ts';
import { usePageView } from '../../store/page-view.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { planQuery, usePlan, useTargets } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { refusalOf, useCommit, useProblemNotice } from '../../store/use-commit.ts';
import { useRateNames } from '../../store/use-elements.ts';
import { useShowStates } from '../../store/use-show-states.ts';
import { CompletenessBar } from '../../ui/completeness-bar.tsx';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { editFigure, showFigure, showMinor } from '../../ui/format.ts';
import { IconAct } from '../../ui/icon-act.tsx';
import { useKept } from '../../ui/kept-state.ts';
import { isPageKey } from '../../ui/page-key.ts';
import { Panes } from '../../ui/panes.tsx';
import { PictureButton } from '../../ui/picture-pane.tsx';
import { ShowInModel } from '../../ui/show-in-model.tsx';
import { useClosed } from '../../ui/use-closed.ts';
import { useLatest } from '../../ui/use-latest.ts';
import { VirtualTable } from '../../ui/virtual-table.tsx';
import { DerivationPane } from './derivation-pane.tsx';
import { listPlanColumns } from './plan-columns.tsx';
import { PlanLevels } from './plan-levels.tsx';
import { PlanLimits } from './plan-limits.tsx';
import { PlanPrint } from './plan-print.tsx';
import { PlanStrip } from './plan-strip.tsx';
import { checkedOf, listPlanRows, markedOf, type PlanTableRow } from './plan-table-rows.ts';
import { FIRST_LOOK, listFields, type PlanLook, READY_LOOKS, readLook, writeLevels, writeLook } from './plan-view.ts';
import { SavedLooks } from './saved-looks.tsx';

const ROW_WORDS: Readonly<Record<PlanRows, string>> = { item: 'Items', element: 'Elements', cell: 'Elements × items' };
/** What stands beside the table takes room: columns that it does without meanwhile. */
const BESIDE: ReadonlySet<string> = new Set(['waste', 'buy', 'share', 'elements', 'target']);
/** And on a small screen, where item, rate and amount are what matters. */
const BESIDE_NARROW: ReadonlySet<string> = new Set([...BESIDE, 'net', 'unit', 'perArea']);
/** What a small screen does without. */
const NARROW: ReadonlySet<string> = new Set(['net', 'waste', 'share', 'elements']);

/** The priced lines: broken down as wanted, every column adding up to the total below, what is not priced in its place. */
export function PlanLines({ choice }: { readonly choice: ReactNode }) {
  const { project, summary, layer, notes } = useProjectState('project', 'summary', 'layer', 'notes');
  const basis = useBasis('items', 'checked', 'targets');
  const wanted = basis.targets;
  const [look, changeLook] = usePageView<PlanLook>('plan-groups', FIRST_LOOK);
  const view = useMemo<PlanView>(() => readLook(look), [look]);
  const { data: plan, error } = usePlan(project.id, view);
  // Until another is there, the rows on screen are those of the view before.
  const seen = plan?.view ?? view;
  const by = seen.by as GroupField[];
  const { data: targets } = useTargets(project.id, (wanted ?? []).length > 0);
  const { closed, toggle } = useClosed(`${project.id}/plan`);
  const [selectedId, setSelectedId] = useKept<string | null>(`${project.id}/plan/selected`, null);
  const [isPaneShown, showPane] = useKept('plan/derivation', false);
  const { select, frame, keys } = useSelection();
  const navigate = useNavigate();
  const change = useCommit(project.id);
  const items = useMemo(() => new Map(basis.items.map((i) => [i.code, i])), [basis.items]);
  const names = useRateNames();
  const notice = useProblemNotice();
  const showStates = useShowStates();
  const rows = useMemo(() => (plan ? listPlanRows(plan, by, closed) : []), [plan, by, closed]);
  const selected = rows.find((r) => r.id === selectedId) ?? null;
  const [isMarking, setMarking] = useState(false);
  const isNarrow = useMediaQuery('(max-width: 1180px)');
  const attributes = useMemo(
    () => [...new Set(Object.values(layer.attributes).flatMap((a) => Object.keys(a)))].sort(),
    [layer.attributes],
  );

  /** The row that was chosen last: answers about others come too late. */
  const wantedId = useRef<string | null>(null);
  const choose = async (row: PlanTableRow) => {
    setSelectedId(row.id);
    wantedId.current = row.id;
    try {
      const found = await getJson<number[]>(`/projects/${project.id}/plan/elements?${planQuery(seen)}&id=${encodeURIComponent(row.id)}`); // biome-ignore format: one question
      if (wantedId.current === row.id) select(found);
    } catch (failed) {
      notice(failed);
    }
  };
  const open = (row: PlanTableRow) => (row.kind === 'group' ? toggle(row.id) : showPane(true));
  const check = async () => {
    const on = selected && markedOf(selected);
    if (!on || isMarking) return;
    setMarking(true);
    try {
      if (checkedOf(selected) === 'all') {
        const off = unmark(basis.checked, [on]);
        if (off.diff.removed.length > 0) await change.mutateAsync(off);
        else notice(new Error('It is checked with what is around it, or with its elements: take the mark off there.'));
      } else {
        const signed = await postJson<{ signature: string; amount: number }[]>(`/projects/${project.id}/plan/sign`, { things: [on] }); // biome-ignore format: one question
        await change.mutateAsync(markChecked(basis.checked, [on], signed, readAuthorName()));
      }
    } catch (failed) {
      notice(failed);
    } finally {
      setMarking(false);
    }
  };
  const onKey = (event: KeyboardEvent) => {
    if (!isPageKey(event)) return;
    if (event.key === 'k') void check();
    if (event.key === 'e') showPane((now) => !now);
  };
  const edit = useLatest((row: PlanTableRow, what: 'rate' | 'waste'): string | null => {
    const item = row.kind === 'line' && row.line.open === 0 ? items.get(row.line.item) : undefined;
    if (!item) return null;
    if (what === 'rate') return rateText(item);
    // A line of an assembly may have a waste of its own, and a cutting list has that of its cuts.
    const isOfItem = row.kind === 'line' && row.line.wastePercent === (item.wastePercent ?? 0) && !item.soldAs?.cut;
    return isOfItem ? editFigure(item.wastePercent ?? 0) : null;
  });
  const save = useLatest((row: PlanTableRow, what: 'rate' | 'waste', text: string) => {
    if (row.kind !== 'line') return null;
    const item = items.get(row.line.item)!;
    const made = what === 'rate' ? changeRate(item, text, names, summary.currency) : changeWaste(item, text);
    return typeof made === 'string' ? made : refusalOf(change.mutateAsync(made));
  });
  const total = plan?.minor ?? 0;
  const away = isPaneShown ? (isNarrow ? BESIDE_NARROW : BESIDE) : isNarrow ? NARROW : null;
  // The same columns as long as they read the same: rows are not drawn again for a click.
  const columns = useMemo(() => {
    const all = listPlanColumns({ summary, targets: targets ?? [], rows, total, closed, toggle, notes, edit, save });
    return away ? all.filter((c) => !away.has(c.key)) : all;
  }, [summary, targets, rows, total, closed, toggle, notes, edit, save, away]);
  if (error && !plan) return <Empty title="The plan cannot be shown">{error.message}</Empty>;
  // Where nothing is decided yet, the next step is said instead of a list of what is open.
  if (plan && plan.cells === plan.open && !seen.scope && !seen.sources) {
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
  if (plan?.tooMany !== undefined) {
    return (
      <Empty title={`${showFigure(plan.tooMany, 0)} lines are too many to read`}>
        <span>Limit the plan to a storey, a kind or a source, or make items its rows.</span>
        <Button variant="contained" onClick={() => changeLook({ rows: 'item' })}>
          Items as rows
        </Button>
        <Button onClick={() => changeLook(FIRST_LOOK)}>By work section</Button>
      </Empty>
    );
  }
  const area = summary.building.floorAreaM2;
  // Beside the derivation there is room for one figure.
  const unit = isPaneShown ? undefined : summary.building.units.find((u) => u.count > 0);
  const perArea = plan && area ? showFigure(plan.minor / 10 ** summary.minorDigits / area, 2) : null;
  return (
    <Panes
      name="plan"
      left={null}
      right={
        // It stays while one looks from row to row: the table must not move under the mouse.
        isPaneShown ? (
          selected ? (
            <DerivationPane
              row={selected}
              view={seen}
              onClose={() => showPane(false)}
              onOpenRow={(id) => setSelectedId(id)}
            />
          ) : (
            <Box sx={{ p: 1.5, fontSize: 13, color: 'text.secondary' }}>
              Select a row: here stands how its figure came about.
            </Box>
          )
        ) : null
      }
    >
      <Box onKeyDown={onKey} sx={{ height: '100%', display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
        <Box
          role="toolbar"
          aria-label="Plan"
          sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'center', fontSize: 13 }}
        >
          {choice}
          <Box sx={{ flex: '1 1 0', minWidth: 0 }}>
            {!(isPaneShown && isNarrow) && <CompletenessBar counts={summary.counts} onChoose={showStates} />}
          </Box>
          <IconAct
            word={selected && checkedOf(selected) === 'all' ? 'Not checked any more' : 'Mark as checked'}
            hint={
              selected
                ? 'Looked at and found right, until it moves (K)'
                : 'Select a line, a group or an element to mark it as checked'
            }
            isOff={!selected || markedOf(selected) === null || isMarking}
            onClick={() => void check()}
          >
            <DoneIcon fontSize="small" />
          </IconAct>
          <IconAct
            word={isPaneShown ? 'Put the derivation away' : 'How a figure came about'}
            hint="How the figure of a row came about, beside it (E)"
            isOn={isPaneShown}
            onClick={() => showPane(!isPaneShown)}
          >
            <AccountTreeIcon fontSize="small" />
          </IconAct>
          <PictureButton name="plan" isShownFirst />
          <ShowInModel
            isOff={keys.size === 0}
            onClick={() => {
              frame();
              navigate(`/projects/${project.id}/model`);
            }}
          />
          <IconAct word="Print the plan" onClick={() => window.print()}>
            <PrintIcon fontSize="small" />
          </IconAct>
          {(['XLSX', 'CSV'] as const).map((kind) => (
            <Button
              key={kind}
              component="a"
              aria-label={`Save as ${kind}`}
              href={`/api/projects/${project.id}/plan.${kind.toLowerCase()}?${planQuery(view)}`}
              download
              sx={{ minWidth: 0, px: 0.5 }}
            >
              {kind}
            </Button>
          ))}
        </Box>
        <Box
          role="toolbar"
          aria-label="Breakdown"
          sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13, minWidth: 0 }}
        >
          <SavedLooks
            ready={READY_LOOKS}
            view={view}
            onChoose={(next) => changeLook({ ...FIRST_LOOK, ...writeLook(next) })}
          />
          <PlanLevels
            levels={view.by as GroupField[]}
            fields={listFields(attributes)}
            onChange={(levels) => changeLook({ by: writeLevels(levels) })}
          />
          <Box sx={{ flex: 1 }} />
          <Select
            value={view.rows ?? 'item'}
            onChange={(e) => changeLook({ rows: e.target.value })}
            inputProps={{ 'aria-label': 'A row is' }}
            sx={{ fontSize: 13, '& .MuiSelect-select': { py: 0.5 } }}
          >
            {(Object.keys(ROW_WORDS) as PlanRows[]).map((r) => (
              <MenuItem key={r} value={r}>
                {ROW_WORDS[r]}
              </MenuItem>
            ))}
          </Select>
          <PlanLimits view={view} onChange={(next) => changeLook(writeLook(next))} />
        </Box>
        {plan && <PlanPrint plan={plan} by={by} />}
        <PlanStrip onShow={(levels) => changeLook({ by: writeLevels(levels) })} />
        <VirtualTable
          label="Plan"
          keep={`${project.id}/plan`}
          rows={rows}
          columns={columns}
          rowId={(r) => r.id}
          level={(r) => r.level}
          isGroup={(r) => r.kind === 'group'}
          isMarked={(r) => r.kind === 'line' && r.line.unknown + r.line.open > 0}
          selectedId={selectedId}
          onSelect={(r) => void choose(r)}
          onOpen={open}
          footer={
            <Box
              sx={{
                display: 'flex',
                gap: 2,
                px: 1,
                py: 1,
                borderTop: 1,
                borderColor: 'text.primary',
                fontWeight: 650,
              }}
            >
              <Box
                component="span"
                data-testid="plan-total-name"
                title={plan?.label}
                sx={{
                  flex: 1,
                  minWidth: 0,
                  overflow: 'hidden',
                  textOverflow: 'ellipsis',
                  whiteSpace: 'nowrap',
                  fontSize: 14,
                }}
              >
                {plan?.label ?? 'Total'}
              </Box>
              {perArea && (
                <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary', whiteSpace: 'nowrap' }}>
                  <Box component="span" data-testid="plan-per-area" sx={{ fontFamily: FIGURES }}>
                    {perArea}
                  </Box>{' '}
                  per m² of {showFigure(area!, 1)} m²
                </Box>
              )}
              {plan && unit && (
                <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary', whiteSpace: 'nowrap' }}>
                  <Box component="span" sx={{ fontFamily: FIGURES }}>
                    {showFigure(plan.minor / 10 ** summary.minorDigits / unit.count, 2)}
                  </Box>{' '}
                  per {unit.name}
                </Box>
              )}
              <Box component="span" data-testid="plan-total" sx={{ fontFamily: FIGURES, whiteSpace: 'nowrap' }}>
                {plan ? showMinor(plan.minor, summary.minorDigits) : ''}
              </Box>
            </Box>
          }
        />
      </Box>
    </Panes>
  );
}

import { Box, Typography } from '@mui/material';
import {
  amountToMinor,
  CHANGED_GROUPS,
  type ChangeDto,
  type ChangedElementDto,
  type ElementChangesDto,
  groupChanged,
  MOVE_CAUSES,
  type MoveCause,
  nameChangedGroup,
  nameProperty,
  nameQuantity,
  type TableLine,
} from '@tally/core';
import { useMemo } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useProjectState } from '../../store/project-store.tsx';
import { useChangedElements, useChanges } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure, showMinor, showMove, showTime, widthOfMoney } from '../../ui/format.ts';
import { GroupLabel } from '../../ui/group-label.tsx';
import { GroupSelect } from '../../ui/group-select.tsx';
import { hideClosed } from '../../ui/hide-closed.ts';
import { useKept } from '../../ui/kept-state.ts';
import { PictureButton, PicturePane } from '../../ui/picture-pane.tsx';
import { useClosed } from '../../ui/use-closed.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';

const CAUSE_WORDS: Record<MoveCause, string> = {
  extent: 'Extent: elements came or went',
  quantity: 'Quantity of elements that stayed',
  mapping: 'Mapping: priced with something else',
  price: 'Price',
  factors: 'Factors: waste, place, date, exchange',
  rounding: 'Packs and rounding: what whole ones leave over',
};

/** What moved the total, change by change, and for a revision element by element. */
export function ChangesPage() {
  const { project, money } = useProjectState('project', 'money');
  const { data: changes } = useChanges(project.id, 200);
  const [params, setParams] = useSearchParams();
  const seq = Number(params.get('seq')) || changes?.[0]?.seq || null;
  const chosen = changes?.find((c) => c.seq === seq);
  const { keys } = useSelection();
  return (
    <PicturePane name="changes" hasSelection={keys.size > 0}>
      <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: 'minmax(300px, 2fr) 3fr', gap: 1.5, p: 1.5 }}>
        <VirtualTable
          label="Changes"
          rows={changes ?? []}
          rowId={(c) => String(c.seq)}
          selectedId={String(seq)}
          onSelect={(c) => setParams({ seq: String(c.seq) }, { replace: true })}
          columns={[
            {
              key: 'cause',
              heading: 'Change',
              width: 0,
              cell: (c) => (
                <span
                  title={c.cause}
                  style={{
                    textDecoration: c.isUndone ? 'line-through' : undefined,
                    overflow: 'hidden',
                    textOverflow: 'ellipsis',
                  }}
                >
                  {c.cause}
                </span>
              ),
              text: (c) => c.cause,
            },
            { key: 'who', heading: 'By', width: 84, isFaint: true, cell: (c) => c.author },
            {
              key: 'move',
              heading: `Move ${money.currency}`,
              width: widthOfMoney(
                (changes ?? []).map((c) => c.move?.move ?? 0),
                money.minorDigits,
                108,
              ),
              isFigure: true,
              cell: (c) => (c.move ? showMove(c.move.move, money.minorDigits) : '…'),
            },
          ]}
        />
        <Box sx={{ minHeight: 0, display: 'flex', flexDirection: 'column', gap: 1.5 }}>
          {chosen && <ChangeDetails change={chosen} />}
        </Box>
      </Box>
    </PicturePane>
  );
}

function ChangeDetails({ change }: { readonly change: ChangeDto }) {
  const { project, money } = useProjectState('project', 'money');
  const { isRevision } = change;
  const { data } = useChangedElements(project.id, isRevision ? change.seq : null);
  const minor = (m: number) => showMinor(m, money.minorDigits);
  const causes = change.move ? MOVE_CAUSES.filter((c) => (change.move!.causes[c] ?? 0) !== 0) : [];
  return (
    <>
      <Box sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1, p: 1.5 }}>
        <Typography variant="h2">{change.cause}</Typography>
        <Box sx={{ color: 'text.secondary', fontSize: 13, mb: 1 }}>
          {change.author}, {showTime(change.at)}
          {change.isUndone ? ', taken back since' : ''}
        </Box>
        {change.move && (
          <Box
            data-testid="move-split"
            sx={{
              display: 'grid',
              gridTemplateColumns: '1fr auto',
              rowGap: 0.25,
              columnGap: 2,
              fontSize: 13,
              maxWidth: 460,
              '& > :nth-of-type(even)': { fontFamily: FIGURES, textAlign: 'right' },
            }}
          >
            <Box>Before</Box>
            <Box>{minor(change.move.before)}</Box>
            {causes.map((c) => [
              <Box key={c} sx={{ pl: 1.5 }}>
                {CAUSE_WORDS[c]}
              </Box>,
              <Box key={`${c}f`}>{showMove(change.move!.causes[c], money.minorDigits)}</Box>,
            ])}
            <Box sx={{ fontWeight: 650, borderTop: 1, borderColor: 'divider' }}>After</Box>
            <Box sx={{ fontWeight: 650, borderTop: 1, borderColor: 'divider' }}>{minor(change.move.after)}</Box>
          </Box>
        )}
      </Box>
      {data && data.elements.length > 0 && <ChangedElements changes={data} move={change.move?.move ?? null} />}
      {isRevision && data && data.elements.length === 0 && (
        <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
          {data.came > 0 ? `The first revision: ${data.came} elements came.` : 'No element changed.'}
        </Box>
      )}
    </>
  );
}

function describe(e: ChangedElementDto): string {
  const figures = Object.entries(e.quantities).map(
    ([name, [a, b]]) =>
      `${nameQuantity(name).word} ${a === null ? 'none' : showFigure(a)} > ${b === null ? 'none' : showFigure(b)}`,
  );
  const texts = Object.entries(e.attributes).map(
    ([name, [a, b]]) => `${nameProperty(name.replace(/^.*\./, ''))} ${a ?? 'none'} > ${b ?? 'none'}`,
  );
  return [...texts, ...figures].join('; ');
}

/** Elements that came, went or changed, the largest move first; grouped as wanted, the moves adding up, and what of the move is not theirs. */
function ChangedElements({
  changes,
  move: whole,
}: {
  readonly changes: ElementChangesDto;
  /** Move of the change in minor units; null while it is not known. */
  readonly move: number | null;
}) {
  const { elements } = changes;
  const { project, money } = useProjectState('project', 'money');
  const { select, frame } = useSelection();
  const navigate = useNavigate();
  const [kept, setBy] = useKept<string>(`${project.id}/changed/by`, '');
  const by = CHANGED_GROUPS.find((f) => f === kept) ?? '';
  const { closed, toggle } = useClosed(`${project.id}/changed`);
  const table = useMemo(() => groupChanged(elements, by === '' ? [] : [by]), [elements, by]);
  const rows = useMemo(() => hideClosed(table.lines, closed), [table, closed]);
  const of = (line: TableLine): ChangedElementDto | null => (line.kind === 'row' ? elements[line.keys[0]!]! : null);
  const minorOf = (cells: TableLine['cells']) => amountToMinor(Number(cells[0] ?? 0));
  const move = (cells: TableLine['cells']) => showMove(minorOf(cells), money.minorDigits);
  const rest = whole === null ? 0 : whole - minorOf(table.totals);
  const columns: TableColumn<TableLine>[] = [
    {
      key: 'label',
      heading: 'Element',
      width: 0,
      cell: (l) =>
        l.kind === 'group' ? (
          <GroupLabel label={`${l.label} (${l.count})`} isOpen={!closed.has(l.id)} onToggle={() => toggle(l.id)} />
        ) : (
          of(l)!.label
        ),
      text: (l) => of(l)?.label ?? l.label,
    },
    { key: 'what', heading: '', width: 76, isFaint: true, cell: (l) => of(l)?.what ?? '' },
    {
      key: 'how',
      heading: 'What',
      width: 220,
      isFaint: true,
      cell: (l) => {
        const text = l.kind === 'row' ? describe(of(l)!) : '';
        return (
          <span title={text} style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
            {text}
          </span>
        );
      },
      text: (l) => (l.kind === 'row' ? describe(of(l)!) : ''),
    },
    {
      key: 'move',
      heading: `Move ${money.currency}`,
      width: widthOfMoney(
        rows.map((l) => minorOf(l.cells)),
        money.minorDigits,
      ),
      isFigure: true,
      cell: (l) => move(l.cells),
    },
  ];
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13 }}>
        <span data-testid="changed-counts">
          {changes.came} came, {changes.went} went, {changes.changed} changed
        </span>
        <Box sx={{ flex: 1 }} />
        <PictureButton name="changes" />
        <GroupSelect
          label="Grouped by"
          fields={CHANGED_GROUPS}
          words={(field) => ({ word: nameChangedGroup(field) })}
          value={by}
          onChange={setBy}
        />
      </Box>
      <VirtualTable
        label="Changed elements"
        rows={rows}
        columns={columns}
        rowId={(l) => l.id}
        level={(l) => l.level}
        isGroup={(l) => l.kind === 'group'}
        onSelect={(l) => select(l.keys.map((i) => elements[i]!.key))}
        onOpen={(l) => {
          if (l.kind === 'group') return toggle(l.id);
          frame();
          navigate(`/projects/${project.id}/model`);
        }}
        footerCells={(c) => (c.key === 'label' ? `All ${table.count}` : c.key === 'move' ? move(table.totals) : '')}
      />
      {rest !== 0 && (
        <Box sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 13, color: 'text.secondary', px: 1 }}>
          <span>Not of these elements: other sources, whole packs, prices</span>
          <Box component="span" sx={{ fontFamily: FIGURES }}>
            {showMove(rest, money.minorDigits)}
          </Box>
        </Box>
      )}
    </>
  );
}

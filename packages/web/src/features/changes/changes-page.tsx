import { Box, Typography } from '@mui/material';
import { type ChangeDto, type ChangedElementDto, MOVE_CAUSES, type MoveCause } from '@tally/core';
import { useNavigate, useSearchParams } from 'react-router';
import { useProjectState } from '../../api/project-context.tsx';
import { useChangedElements, useChanges } from '../../api/queries.ts';
import { useSelection } from '../../api/selection.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure, showMinor, showMove, showTime } from '../../ui/format.ts';
import { VirtualTable } from '../../ui/virtual-table.tsx';

const CAUSE_WORDS: Record<MoveCause, string> = {
  extent: 'Extent: elements came or went',
  quantity: 'Quantity of elements that stayed',
  mapping: 'Mapping: priced with something else',
  price: 'Price',
  factors: 'Factors: waste, place, date, exchange',
  packs: 'Packs: what whole ones leave over',
};

/** What moved the total, change by change, and for a revision element by element. */
export function ChangesPage() {
  const { project, summary } = useProjectState();
  const { data: changes } = useChanges(project.id);
  const [params, setParams] = useSearchParams();
  const seq = Number(params.get('seq')) || changes?.[0]?.seq || null;
  const chosen = changes?.find((c) => c.seq === seq);
  return (
    <Box
      sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: 'minmax(300px, 2fr) 3fr', gap: 1.5, p: 1.5 }}
    >
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
            heading: `Move ${summary.currency}`,
            width: 108,
            isFigure: true,
            cell: (c) => (c.move ? showMove(c.move.move, summary.minorDigits) : '…'),
          },
        ]}
      />
      <Box sx={{ minHeight: 0, display: 'flex', flexDirection: 'column', gap: 1.5 }}>
        {chosen && <ChangeDetails change={chosen} />}
      </Box>
    </Box>
  );
}

function ChangeDetails({ change }: { readonly change: ChangeDto }) {
  const { project, summary } = useProjectState();
  const { isRevision } = change;
  const { data } = useChangedElements(project.id, isRevision ? change.seq : null);
  const { select, frame } = useSelection();
  const navigate = useNavigate();
  const minor = (m: number) => showMinor(m, summary.minorDigits);
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
              <Box key={`${c}f`}>{showMove(change.move!.causes[c], summary.minorDigits)}</Box>,
            ])}
            <Box sx={{ fontWeight: 650, borderTop: 1, borderColor: 'divider' }}>After</Box>
            <Box sx={{ fontWeight: 650, borderTop: 1, borderColor: 'divider' }}>{minor(change.move.after)}</Box>
          </Box>
        )}
      </Box>
      {data && data.elements.length > 0 && (
        <>
          <Box data-testid="changed-counts" sx={{ fontSize: 13 }}>
            {data.came} came, {data.went} went, {data.changed} changed
          </Box>
          <VirtualTable<ChangedElementDto>
            label="Changed elements"
            rows={data.elements}
            rowId={(e) => `${e.what}${e.key}`}
            onSelect={(e) => select([e.key])}
            onOpen={() => {
              frame();
              navigate(`/projects/${project.id}/model`);
            }}
            columns={[
              { key: 'what', heading: '', width: 76, isFaint: true, cell: (e) => e.what },
              { key: 'label', heading: 'Element', width: 0, cell: (e) => e.label },
              {
                key: 'how',
                heading: 'What',
                width: 220,
                isFaint: true,
                cell: (e) => (
                  <span title={describe(e)} style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
                    {describe(e)}
                  </span>
                ),
                text: describe,
              },
              {
                key: 'move',
                heading: `Move ${summary.currency}`,
                width: 104,
                isFigure: true,
                cell: (e) => showMove(e.move, summary.minorDigits),
              },
            ]}
          />
        </>
      )}
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
    ([name, [a, b]]) => `${name} ${a === null ? 'none' : showFigure(a)} > ${b === null ? 'none' : showFigure(b)}`,
  );
  const texts = Object.entries(e.attributes).map(
    ([name, [a, b]]) => `${name.replace(/^.*\./, '')} ${a ?? 'none'} > ${b ?? 'none'}`,
  );
  return [...texts, ...figures].join('; ');
}

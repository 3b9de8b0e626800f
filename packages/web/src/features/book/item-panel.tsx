import { Box, Button, Link, Typography } from '@mui/material';
import {
  type CostItem,
  findClass,
  findCodeUses,
  type PastRate,
  readClassCode,
  showClass,
  takeOutDiff,
  type Use,
} from '@tally/core';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { useProjectState } from '../../store/project-store.tsx';
import { useRateHistory } from '../../store/queries.ts';
import { useCommit } from '../../store/use-commit.ts';
import { useClassification } from '../../store/use-elements.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showRate, showTime } from '../../ui/format.ts';
import { loadLater } from '../../ui/load-later.tsx';
import { BackToBook } from './back-to-book.tsx';
import { RatePropertyDialog } from './rate-property-dialog.tsx';
import { useBook } from './use-book.ts';

const RateChart = loadLater('The chart', () => import('./rate-chart.tsx').then((m) => m.RateChart));

/** What an item is, where it is used, what its rate was before, and what can be done with it. */
export function ItemPanel({ item }: { readonly item: CostItem }) {
  const { project } = useProjectState('project');
  const { data } = useRateHistory(project.id, item.code);
  const uses = findCodeUses(item.code, useBook());
  const history = data ?? [];
  return (
    <Box
      component="section"
      aria-label={`About ${item.code}`}
      sx={{
        height: 150,
        display: 'grid',
        gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1.1fr) 260px',
        gap: 2,
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        p: 1.5,
        fontSize: 13,
      }}
    >
      <Box sx={{ overflow: 'auto' }}>
        <Typography variant="h3">
          {item.code} {item.description}
        </Typography>
        <ItemFacts item={item} />
        <ItemActions item={item} isUsed={uses.length > 0} />
        <Box sx={{ color: 'text.secondary' }}>{uses.length === 0 ? 'Not used yet.' : 'Used in'}</Box>
        {uses.map((u) => (
          <Box key={`${u.kind}/${u.id}`}>
            <UseLink use={u} projectId={project.id} />
          </Box>
        ))}
      </Box>
      <Box component="ol" aria-label="Past rates" sx={{ listStyle: 'none', m: 0, p: 0, overflow: 'auto' }}>
        {[...history].reverse().map((past) => (
          <Box component="li" key={past.at} sx={{ display: 'flex', gap: 1.5, py: 0.25 }}>
            <Box component="span" sx={{ fontFamily: FIGURES, minWidth: 76, textAlign: 'right' }}>
              {describeRate(past)}
            </Box>
            <Box component="span" sx={{ flex: 1, color: 'text.secondary' }}>
              {showTime(past.at)}, {past.author}
              {past.source ? `, ${past.source}` : ''}
            </Box>
          </Box>
        ))}
      </Box>
      {history.length > 1 && <RateChart history={history} />}
    </Box>
  );
}

/** What the grid may not show of an item: its class in words, its notes. */
function ItemFacts({ item }: { readonly item: CostItem }) {
  const classification = useClassification();
  const code = readClassCode(item.classes, classification);
  const found = code === null ? null : findClass(classification, code);
  const facts = [found ? showClass(found) : code, item.notes].filter(Boolean);
  return facts.length > 0 ? <Box sx={{ color: 'text.secondary' }}>{facts.join(' · ')}</Box> : null;
}

function ItemActions({ item, isUsed }: { readonly item: CostItem; readonly isUsed: boolean }) {
  const { project, book } = useProjectState('project', 'book');
  const change = useCommit(project.id);
  const [isChoosing, setChoosing] = useState(false);
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, my: 0.5, alignItems: 'center' }}>
      <Button size="small" variant="outlined" color="inherit" onClick={() => setChoosing(true)}>
        Rate from a property
      </Button>
      <BackToBook kind="item" id={item.code} body={item} size="small" />
      <Button
        size="small"
        variant="outlined"
        color="inherit"
        disabled={isUsed || change.isPending}
        title={isUsed ? 'It is used; take it out there first' : undefined}
        onClick={() =>
          change.mutate({
            cause: `Item taken out: ${item.code} ${item.description}`,
            diff: takeOutDiff('item', item.code, item, book),
          })
        }
      >
        Take out
      </Button>
      {isChoosing && <RatePropertyDialog item={item} onClose={() => setChoosing(false)} />}
    </Box>
  );
}

const describeRate = ({ rate, workedOut }: PastRate): string => workedOut ?? (rate === null ? 'none' : showRate(rate));

function UseLink({ use, projectId }: { readonly use: Use; readonly projectId: string }) {
  if (use.kind !== 'assembly') return <>{use.label}</>;
  return (
    <Link component={RouterLink} to={`/projects/${projectId}/book?assembly=${encodeURIComponent(use.id)}`}>
      {use.label}
    </Link>
  );
}

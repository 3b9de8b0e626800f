import KeyboardDoubleArrowLeftIcon from '@mui/icons-material/KeyboardDoubleArrowLeft';
import KeyboardDoubleArrowRightIcon from '@mui/icons-material/KeyboardDoubleArrowRight';
import UndoIcon from '@mui/icons-material/Undo';
import { Box } from '@mui/material';
import { type BaselineBody, type ChangeDto, listKinds } from '@tally/core';
import { memo } from 'react';
import { Link } from 'react-router';
import { useIsConnected } from '../../store/connection.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useChanges, useSelectionAmount } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { useUndo } from '../../store/use-commit.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure, showMinor, showMove, showTime } from '../../ui/format.ts';
import { IconAct } from '../../ui/icon-act.tsx';
import { useKept } from '../../ui/kept-state.ts';
import { UnreadNotice } from './unread-notice.tsx';

const label = { fontSize: 11.5, color: 'text.secondary' } as const;
const figure = { fontFamily: FIGURES, textAlign: 'right', whiteSpace: 'nowrap' } as const;

/** Moves that the tape tells. */
const MOST_MOVES = 30;

/** Whether only the figures of the tape are shown; on a small screen they are, until one says otherwise. */
export const useNarrowTape = () => useKept('tape/narrow', typeof window !== 'undefined' && window.innerWidth < 1150);

/** The running record at the edge of every page: total, selection, last moves and their causes. */
export const Tape = memo(function Tape() {
  const [isNarrow, setNarrow] = useNarrowTape();
  const isConnected = useIsConnected();
  const { project, summary, baselines } = useProjectState('project', 'summary', 'baselines');
  const since = findSince(baselines, summary.currency);
  const { data: changes } = useChanges(project.id, MOST_MOVES);
  const { keys } = useSelection();
  const undo = useUndo(project.id);
  const { data: cost, isPlaceholderData } = useSelectionAmount(project.id, keys);
  // Unknown while it is asked for: never 0, nor what another selection costs.
  const selected = keys.size === 0 ? 0 : cost && !isPlaceholderData ? cost.amount : null;
  const open = summary.counts.unpriced + summary.counts.partly;
  const signs = Math.max(10, showMinor(summary.total, summary.minorDigits).length);
  const size = isNarrow ? Math.min(15, Math.floor(175 / signs)) : Math.min(22, Math.floor(240 / signs));
  const whole = summary.target;
  const area = summary.building.floorAreaM2;
  const edge = isNarrow ? 0.75 : 1.5;
  return (
    <Box
      component="aside"
      aria-label="Tape"
      sx={{
        borderLeft: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
        display: 'flex',
        flexDirection: 'column',
        minHeight: 0,
        width: isNarrow ? 116 : 208,
      }}
    >
      {!isConnected && (
        <Box
          role="status"
          sx={{ px: edge, py: 0.75, fontSize: 12, bgcolor: 'tally.unpricedSoft', color: 'text.primary' }}
        >
          {isNarrow ? 'No connection' : 'The server does not answer. What you type waits and is sent when it does.'}
        </Box>
      )}
      <UnreadNotice isNarrow={isNarrow} />
      <Box sx={{ px: edge, pt: 1.5, pb: 1, borderBottom: 2, borderColor: 'text.primary', borderBottomStyle: 'double' }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', ...label }}>
          <span>
            {summary.shortfall?.isTooLarge ? 'Total not exact' : summary.shortfall ? 'Total so far' : 'Total'}
          </span>
          <span>{summary.currency}</span>
        </Box>
        <Box data-testid="tape-total" sx={{ ...figure, fontSize: size, fontWeight: 650, lineHeight: 1.4 }}>
          {showMinor(summary.total, summary.minorDigits)}
        </Box>
        {whole?.left != null && (
          <Box
            component={Link}
            to={`/projects/${project.id}/plan?view=targets`}
            data-testid="tape-target"
            title={`Target ${showMinor(whole.aim ?? 0, summary.minorDigits)}`}
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              flexWrap: 'wrap',
              color: whole.left < 0 ? 'error.main' : 'text.primary',
              textDecoration: 'none',
              fontSize: 12.5,
            }}
          >
            <span>{whole.left < 0 ? (isNarrow ? 'Over' : 'Over target') : isNarrow ? 'Left' : 'Left of target'}</span>
            <Box component="span" sx={figure}>
              {showMinor(Math.abs(whole.left), summary.minorDigits)}
            </Box>
          </Box>
        )}
        {since && (
          <Box
            component={Link}
            to={`/projects/${project.id}/changes?from=baseline:${since.id}&to=live`}
            data-testid="tape-since"
            title={`Since ${since.name}: ${showMinor(since.total, summary.minorDigits)}`}
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              flexWrap: 'wrap',
              columnGap: 1,
              color: 'text.primary',
              textDecoration: 'none',
              fontSize: 12.5,
            }}
          >
            <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
              {isNarrow ? 'Since' : `Since ${since.name}`}
            </Box>
            <Box component="span" sx={{ ...figure, ml: 'auto' }}>
              {showMove(summary.total - since.total, summary.minorDigits)}
            </Box>
          </Box>
        )}
        {open > 0 && (
          <Box
            component={Link}
            to={`/projects/${project.id}/mapping`}
            data-testid="tape-open"
            title={summary.shortfall ? listKinds(summary.shortfall) : undefined}
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              px: 0.75,
              mx: -0.75,
              borderRadius: 0.5,
              bgcolor: 'tally.unpricedSoft',
              color: 'text.primary',
              textDecoration: 'none',
              fontSize: 12.5,
            }}
          >
            <span>{isNarrow ? 'Open' : 'Not fully priced'}</span>
            <Box component="span" sx={figure}>
              {isNarrow ? open : `${open} of ${open + summary.counts.priced}`}
            </Box>
          </Box>
        )}
      </Box>
      <Box sx={{ px: edge, py: 1, borderBottom: 1, borderColor: 'divider', minHeight: 56 }}>
        <Box sx={label}>
          {keys.size === 0
            ? isNarrow
              ? 'None selected'
              : 'Nothing selected'
            : keys.size === 1
              ? `Selected: 1${isNarrow ? '' : ' element'}`
              : `Selected: ${keys.size}${isNarrow ? '' : ' elements'}`}
        </Box>
        {keys.size > 0 && (
          <Box data-testid="tape-selection" sx={{ ...figure, fontSize: isNarrow ? 13.5 : 16 }}>
            {selected === null ? '…' : showMinor(Math.round(selected / 10_000), summary.minorDigits)}
          </Box>
        )}
        {keys.size > 0 && selected !== null && area !== null && area > 0 && !isNarrow && (
          <Box sx={{ ...figure, fontSize: 12, color: 'text.secondary' }}>
            {showFigure(selected / 10_000 / 10 ** summary.minorDigits / area, 2)} per m² of floor
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', px: edge, pt: 0.75 }}>
        <Box sx={{ ...label, flex: 1 }}>{isNarrow ? 'Moves' : 'Last moves'}</Box>
        <IconAct
          word={isNarrow ? 'The whole tape' : 'Only the figures of the tape'}
          hint={isNarrow ? 'The whole tape (T)' : 'Only the figures of the tape (T)'}
          onClick={() => setNarrow(!isNarrow)}
        >
          {isNarrow ? (
            <KeyboardDoubleArrowLeftIcon sx={{ fontSize: 16 }} />
          ) : (
            <KeyboardDoubleArrowRightIcon sx={{ fontSize: 16 }} />
          )}
        </IconAct>
        <IconAct
          word="Undo"
          hint="Undo your last change (Ctrl/⌘ Z)"
          isOff={undo.isPending}
          onClick={() => undo.mutate('undo')}
        >
          <UndoIcon sx={{ fontSize: 16 }} />
        </IconAct>
      </Box>
      <Box
        component="ol"
        aria-label="Last moves"
        sx={{ listStyle: 'none', m: 0, p: 0, overflow: 'auto', flex: 1, minHeight: 0 }}
      >
        {(changes ?? []).map((change) => (
          <TapeEntry
            key={change.seq}
            change={change}
            minorDigits={summary.minorDigits}
            projectId={project.id}
            isNarrow={isNarrow}
          />
        ))}
      </Box>
    </Box>
  );
});

/** The frozen plan that the total is held against: the contract, else the last one; none in another currency. */
function findSince(
  baselines: Readonly<Record<string, BaselineBody>>,
  currency: string,
): (BaselineBody & { readonly id: string }) | null {
  const all = Object.entries(baselines)
    .filter(([, b]) => b.currency === currency)
    .sort(
      ([, a], [, b]) =>
        Number(b.isContract ?? false) - Number(a.isContract ?? false) || (b.at ?? '').localeCompare(a.at ?? ''),
    );
  const [first] = all;
  return first ? { ...first[1], id: first[0] } : null;
}

const TapeEntry = memo(function TapeEntry({
  change,
  minorDigits,
  projectId,
  isNarrow,
}: {
  readonly change: ChangeDto;
  readonly minorDigits: number;
  readonly projectId: string;
  readonly isNarrow: boolean;
}) {
  const moved = change.move?.move ?? 0;
  const to = `/projects/${projectId}/changes?seq=${change.seq}`;
  const strike = change.isUndone ? 'line-through' : 'none';
  if (isNarrow)
    return (
      <Box component="li" sx={{ px: 0.75, py: 0.25, opacity: change.isUndone ? 0.5 : 1 }}>
        <Box
          component={Link}
          to={to}
          title={change.cause}
          aria-label={`${change.cause}: ${change.move ? showMove(moved, minorDigits) : 'being worked out'}`}
          sx={{
            ...figure,
            display: 'block',
            fontSize: 12,
            fontWeight: moved === 0 ? 400 : 650,
            color: moved === 0 ? 'text.secondary' : 'text.primary',
            textDecoration: strike,
          }}
        >
          {change.move ? showMove(moved, minorDigits) : '…'}
        </Box>
      </Box>
    );
  return (
    <Box
      component="li"
      sx={{
        px: 1.5,
        py: 0.75,
        borderBottom: 1,
        borderColor: 'divider',
        borderBottomStyle: 'dashed',
        opacity: change.isUndone ? 0.5 : 1,
      }}
    >
      <Box
        component={Link}
        to={to}
        sx={{
          color: 'inherit',
          textDecoration: strike,
          fontSize: 12.5,
          display: 'block',
          lineHeight: 1.3,
          overflowWrap: 'anywhere',
        }}
      >
        {change.cause}
      </Box>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline', gap: 1 }}>
        <Box
          component="span"
          sx={{ ...label, fontSize: 11, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
        >
          {change.author} {showTime(change.at)}
        </Box>
        <Box
          component="span"
          sx={{
            ...figure,
            fontSize: 12.5,
            fontWeight: moved === 0 ? 400 : 650,
            color: moved === 0 ? 'text.secondary' : undefined,
          }}
        >
          {change.move ? showMove(moved, minorDigits) : '…'}
        </Box>
      </Box>
    </Box>
  );
});

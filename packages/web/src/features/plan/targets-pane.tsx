import { Box, Button, TextField } from '@mui/material';
import type { GroupField, HeldTarget, Target } from '@tally/core';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { setTarget } from '../../store/change-plan.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useTargets } from '../../store/queries.ts';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { editFigure, showMinor } from '../../ui/format.ts';
import { useOneAtATime } from '../../ui/use-one-at-a-time.ts';
import { CheckedPart } from './checked-part.tsx';
import { NewTarget } from './new-target.tsx';
import { ShareBar } from './plan-columns.tsx';
import { writeLevels } from './plan-view.ts';
import { readTarget } from './read-target.ts';

const GRID = 'minmax(150px, 2fr) minmax(104px, 1fr) minmax(96px, 0.8fr) 108px 150px 108px minmax(80px, 1fr) 78px';
const right = { fontFamily: FIGURES, textAlign: 'right', whiteSpace: 'nowrap' } as const;

/** What the client wants to spend, held against the plan; beside it what was checked, what fell away since, and what nobody looked at. */
export function TargetsPane({ choice }: { readonly choice: ReactNode }) {
  const { project } = useProjectState('project');
  const { targets } = useBasis('targets');
  const { data: held } = useTargets(project.id);
  const change = useCommit(project.id);
  const list = targets ?? [];
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1, overflow: 'auto' }}>
      <Box role="toolbar" aria-label="Plan" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <Box sx={{ color: 'text.secondary' }}>
          What the client wants to spend, for the whole or for groups; per m² of floor or per unit, if so said.
        </Box>
      </Box>
      <Box
        role="table"
        aria-label="Targets"
        sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1, minWidth: 860 }}
      >
        <Box
          role="row"
          sx={{
            display: 'grid',
            gridTemplateColumns: GRID,
            gap: 1,
            px: 1,
            py: 0.75,
            borderBottom: 1,
            borderColor: 'divider',
            fontSize: 12,
            color: 'text.secondary',
          }}
        >
          {['Of', 'Target', 'Per', 'Comes to', 'Plan has', 'Left', '', ''].map((h, i) => (
            <Box key={i} role="columnheader" sx={{ textAlign: i > 2 && i < 6 ? 'right' : 'left' }}>
              {h}
            </Box>
          ))}
        </Box>
        {(held ?? []).map((of) => (
          <TargetRow key={of.id} held={of} onTake={() => change.mutate(setTarget(list, of.target, null, of.label))} />
        ))}
        {list.length === 0 && (
          <Box sx={{ p: 1.5, fontSize: 13, color: 'text.secondary' }}>
            None yet. Say below what the whole may cost; groups can follow.
          </Box>
        )}
        <NewTarget known={list} />
      </Box>
      <CheckedPart />
    </Box>
  );
}

const perWords = ({ per = 'whole', counted }: Target): string =>
  per === 'whole' ? 'all together' : per === 'floorArea' ? 'm² of floor' : (counted ?? 'unit');

function TargetRow({ held, onTake }: { readonly held: HeldTarget; readonly onTake: () => void }) {
  const { project, money } = useProjectState('project', 'money');
  const { targets } = useBasis('targets');
  const change = useCommit(project.id);
  const navigate = useNavigate();
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { target, aim, now, left, open } = held;
  // Enter and then leaving the field keep it once.
  const keep = useOneAtATime(async () => {
    if (typed === null) return;
    if (typed === editFigure(target.amount)) {
      setProblem(null);
      return setTyped(null);
    }
    const made = readTarget(target, typed);
    if (typeof made === 'string') return setProblem(made);
    const refused = await refusalOf(change.mutateAsync(setTarget(targets ?? [], target, made, held.label)));
    setProblem(refused);
    // What was typed on meanwhile stays.
    if (refused === null) setTyped((now) => (now === typed ? null : now));
  });
  const show = (minor: number | null) => (minor === null ? '–' : showMinor(minor, money.minorDigits));
  const used = aim && now !== null ? now / aim : null;
  return (
    <Box
      role="row"
      sx={{
        display: 'grid',
        gridTemplateColumns: GRID,
        gap: 1,
        px: 1,
        py: 0.25,
        borderBottom: 1,
        borderColor: 'divider',
        alignItems: 'center',
        fontSize: 13,
      }}
    >
      <Button
        color="inherit"
        onClick={() =>
          navigate(
            `/projects/${project.id}/plan?view=lines${target.by === undefined ? '' : `&by=${encodeURIComponent(writeLevels([target.by as GroupField, ...(target.by === 'section' ? [] : (['section'] as const))]))}`}`,
          )
        }
        sx={{ justifyContent: 'flex-start', fontWeight: target.by === undefined ? 650 : 400, textAlign: 'left' }}
      >
        {held.label}
      </Button>
      <TextField
        value={typed ?? editFigure(target.amount)}
        error={problem !== null}
        helperText={problem}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === 'Enter') keep();
          if (e.key === 'Escape') {
            setTyped(null);
            setProblem(null);
          }
        }}
        slotProps={{
          htmlInput: {
            'aria-label': `Target of ${held.label}`,
            style: { textAlign: 'right', fontFamily: FIGURES, padding: '4px 8px', fontSize: 13 },
          },
        }}
      />
      <Box sx={{ color: 'text.secondary' }}>{perWords(target)}</Box>
      <Box sx={right}>{show(aim)}</Box>
      <Box sx={right}>
        {show(now)}
        {open > 0 && (
          <Box
            component="span"
            title={`${open} in it are not priced or unknown: it is not all`}
            sx={{ color: 'warning.main', ml: 0.5 }}
          >
            so far
          </Box>
        )}
      </Box>
      <Box
        sx={{ ...right, color: left !== null && left < 0 ? 'error.main' : undefined }}
        title={held.problem ?? undefined}
      >
        {held.problem ? 'not known' : show(left)}
      </Box>
      <Box sx={{ fontSize: 12 }}>{used === null ? (held.problem ?? '') : <ShareBar share={used} />}</Box>
      <Button
        color="inherit"
        onClick={onTake}
        aria-label={`No target of ${held.label}`}
        sx={{ fontSize: 12, minWidth: 0, whiteSpace: 'nowrap', px: 0 }}
      >
        Take away
      </Button>
    </Box>
  );
}

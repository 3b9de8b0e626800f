import { Box, Button, MenuItem, Select, TextField } from '@mui/material';
import {
  GROUP_FIELDS,
  type GroupField,
  type HeldTarget,
  nameGroup,
  OWN_SECTIONS,
  type Target,
  targetId,
  targetSchema,
} from '@tally/core';
import { type ReactNode, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { listFallen, setTarget, unmark } from '../../store/change-plan.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useChecked, usePlan } from '../../store/queries.ts';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { askFigure, editFigure, readFigure, showFigure, showMinor } from '../../ui/format.ts';
import { ShareBar } from './plan-columns.tsx';
import { writeLevels } from './plan-view.ts';

/** Fields whose groups may have a target: those that keep their labels from revision to revision. */
const FIELDS: readonly GroupField[] = GROUP_FIELDS.filter((f) => f !== 'item' && f !== 'name');
const GRID = 'minmax(150px, 2fr) minmax(104px, 1fr) minmax(96px, 0.8fr) 108px 150px 108px minmax(80px, 1fr) 78px';
const right = { fontFamily: FIGURES, textAlign: 'right', whiteSpace: 'nowrap' } as const;

/** What the client wants to spend, held against the plan; beside it what was checked, what fell away since, and what nobody looked at. */
export function TargetsPane({ choice }: { readonly choice: ReactNode }) {
  const { project, summary } = useProjectState('project', 'summary');
  const { targets } = useBasis('targets');
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
        {summary.targets.map((held) => (
          <TargetRow
            key={held.id}
            held={held}
            onTake={() => change.mutate(setTarget(list, held.target, null, held.label))}
          />
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
  const keep = async () => {
    if (typed === null) return;
    const made = readTarget(target, typed);
    if (typeof made === 'string') return setProblem(made);
    const refused = await refusalOf(change.mutateAsync(setTarget(targets ?? [], target, made, held.label)));
    setProblem(refused);
    if (refused === null) setTyped(null);
  };
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
        onBlur={() => void keep()}
        onKeyDown={(e) => {
          if (e.key === 'Enter') void keep();
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

/** A target with another amount as it was typed; a text says why it cannot be taken. */
function readTarget(target: Target, typed: string): Target | string {
  const unclear = askFigure(typed);
  if (unclear) return unclear;
  const figure = readFigure(typed);
  if (figure === null) return `"${typed}" is no figure. Write e.g. 640000.`;
  const made = targetSchema.safeParse({ ...target, amount: String(figure) });
  return made.success ? made.data : made.error.issues[0]!.message;
}

function NewTarget({ known }: { readonly known: readonly Target[] }) {
  const { project, summary } = useProjectState('project', 'summary');
  const change = useCommit(project.id);
  const [by, setBy] = useState<GroupField | ''>(known.some((t) => t.by === undefined) ? 'section' : '');
  const [is, setIs] = useState('');
  const [per, setPer] = useState('whole');
  const [amount, setAmount] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const view = useMemo(() => ({ by: by === '' ? [] : [by] }), [by]);
  const { data } = usePlan(project.id, view);
  const labels = by === '' ? [] : (data?.groups ?? []).map((g) => g.label);
  const add = async () => {
    const of = by === '' ? {} : { by, is };
    const measure =
      per === 'whole'
        ? {}
        : per === 'floorArea'
          ? { per: 'floorArea' as const }
          : { per: 'unit' as const, counted: per };
    if (by !== '' && is === '') return setProblem('Say which group it is of.');
    const made = readTarget({ ...of, ...measure, amount: '1' }, amount);
    if (typeof made === 'string') return setProblem(made);
    if (known.some((t) => targetId(t) === targetId(of))) return setProblem('It has a target already: change that.');
    const label = by === '' ? 'the whole' : `${nameGroup(by).word} ${is}`;
    const refused = await refusalOf(change.mutateAsync(setTarget(known, of, made, label)));
    setProblem(refused);
    if (refused === null) {
      setAmount('');
      setIs('');
    }
  };
  const select = { fontSize: 13, '& .MuiSelect-select': { py: 0.5 } };
  return (
    <Box sx={{ px: 1, py: 0.75 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13 }}>
        <Select
          value={by}
          displayEmpty
          onChange={(e) => {
            setBy(e.target.value as GroupField | '');
            setIs('');
          }}
          inputProps={{ 'aria-label': 'Target of' }}
          sx={select}
        >
          <MenuItem value="">The whole</MenuItem>
          {FIELDS.map((f) => (
            <MenuItem key={f} value={f}>
              {nameGroup(f).word}
            </MenuItem>
          ))}
        </Select>
        {by !== '' && (
          <Select
            value={labels.includes(is) ? is : ''}
            displayEmpty
            onChange={(e) => setIs(e.target.value)}
            inputProps={{ 'aria-label': 'Group' }}
            sx={{ ...select, minWidth: 160 }}
          >
            <MenuItem value="" disabled>
              which
            </MenuItem>
            {labels.map((label) => (
              <MenuItem key={label} value={label}>
                {label}
              </MenuItem>
            ))}
          </Select>
        )}
        <TextField
          placeholder="may cost"
          value={amount}
          onChange={(e) => setAmount(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && void add()}
          slotProps={{
            htmlInput: { 'aria-label': 'Target amount', style: { textAlign: 'right', fontFamily: FIGURES } },
          }}
          sx={{ width: 130 }}
        />
        <Select
          value={per}
          onChange={(e) => setPer(e.target.value)}
          inputProps={{ 'aria-label': 'Target per' }}
          sx={select}
        >
          <MenuItem value="whole">all together</MenuItem>
          <MenuItem value="floorArea">per m² of floor</MenuItem>
          {summary.building.units.map((u) => (
            <MenuItem key={u.name} value={u.name}>
              per {u.name}
            </MenuItem>
          ))}
        </Select>
        <Button variant="contained" disabled={change.isPending || amount.trim() === ''} onClick={() => void add()}>
          Set target
        </Button>
      </Box>
      {problem && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 12.5, pt: 0.5 }}>
          {problem}
        </Box>
      )}
    </Box>
  );
}

/** Lines that nobody has checked yet that are told. */
const MOST_TOLD = 40;

/** How much of the money was looked at: what fell away since, and what nobody looked at, the most money first. */
function CheckedPart() {
  const { project, money } = useProjectState('project', 'money');
  const basis = useBasis('checked', 'sections');
  const { data, error } = useChecked(project.id);
  const change = useCommit(project.id);
  const navigate = useNavigate();
  if (error && !data) return <Empty title="What was checked cannot be shown">{error.message}</Empty>;
  if (!data) return null;
  const fallen = listFallen(data.marks);
  const open = data.unchecked.reduce((sum, l) => sum + l.amount, 0);
  const share = data.total > 0 ? Math.max(0, 1 - open / data.total) : 0;
  const sectionOf = (id: string | null) =>
    [...basis.sections, ...OWN_SECTIONS].find((s) => s.id === id)?.name ?? id ?? '';
  const show = (amount: number) => showMinor(Math.round(amount / 10_000), money.minorDigits);
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '1fr 1fr',
        alignItems: 'start',
        gap: 1.5,
        minWidth: 860,
        fontSize: 13,
      }}
    >
      <Box
        role="region"
        aria-label="Fell away"
        sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
      >
        <Head
          text={`Checked ${showFigure(share * 100, 1)} % of the money`}
          note={
            fallen.length > 0
              ? `${fallen.length} fell away: what was checked has moved`
              : 'nothing that was checked has moved'
          }
        />
        {fallen.map((h) => (
          <Box
            key={h.id}
            sx={{
              display: 'grid',
              gridTemplateColumns: '1fr auto auto auto',
              gap: 1,
              px: 1,
              py: 0.5,
              borderTop: 1,
              borderColor: 'divider',
              bgcolor: 'tally.unpricedSoft',
            }}
          >
            <Box>
              {'element' in h.mark.on
                ? 'An element'
                : [...h.mark.on.path.map((p) => p.is), h.mark.on.item].filter(Boolean).join(' › ')}
              <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
                {h.mark.by} {h.mark.at}
              </Box>
            </Box>
            <Box sx={right} title="As it was checked">
              {showMinor(h.mark.amount, money.minorDigits)}
            </Box>
            <Box sx={right} title="By now">
              {h.signature === '' ? 'gone' : show(h.amount)}
            </Box>
            <Button size="small" color="inherit" onClick={() => change.mutate(unmark(basis.checked, [h.mark.on]))}>
              Take off
            </Button>
          </Box>
        ))}
      </Box>
      <Box
        role="region"
        aria-label="Not checked"
        sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
      >
        <Head text="Not checked, the most money first" note={show(open)} />
        {data.unchecked.slice(0, MOST_TOLD).map((l) => (
          <Box
            key={`${l.section}|${l.item}`}
            component="button"
            type="button"
            onClick={() => navigate(`/projects/${project.id}/plan?view=lines&by=section`)}
            sx={{
              all: 'unset',
              boxSizing: 'border-box',
              width: '100%',
              cursor: 'pointer',
              display: 'grid',
              gridTemplateColumns: '1fr auto',
              gap: 1,
              px: 1,
              py: 0.5,
              borderTop: 1,
              borderColor: 'divider',
              borderStyle: 'solid',
              borderWidth: '1px 0 0',
              '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
            }}
          >
            <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
              <Box component="span" sx={{ color: 'text.secondary', mr: 1 }}>
                {l.item}
              </Box>
              {l.description}
              <Box component="span" sx={{ color: 'text.secondary', ml: 1, fontSize: 12 }}>
                {sectionOf(l.section)}
              </Box>
            </Box>
            <Box sx={right}>{show(l.amount)}</Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function Head({ text, note }: { readonly text: string; readonly note: string }) {
  return (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, px: 1, py: 0.75, fontWeight: 650 }}>
      {text}
      <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary' }}>
        {note}
      </Box>
    </Box>
  );
}

import HistoryIcon from '@mui/icons-material/History';
import SwapHorizIcon from '@mui/icons-material/SwapHoriz';
import { Box, Button, LinearProgress, ToggleButton, ToggleButtonGroup } from '@mui/material';
import {
  type ComparisonDto,
  ELEMENT_CHANGES,
  GROUP_FIELDS,
  type GroupField,
  MOVE_CAUSES,
  type MoveCause,
  nameGroup,
  type OutlineTable,
  readWorkspaceId,
} from '@tally/core';
import { useQueryClient } from '@tanstack/react-query';
import { type ComponentType, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { comparisonKey, useChanges, useComparison } from '../../store/queries.ts';
import { describeError } from '../../store/use-commit.ts';
import { useSaveTable } from '../../store/use-save-table.ts';
import { showMinor, showMove } from '../../ui/format.ts';
import { GroupSelect } from '../../ui/group-select.tsx';
import { IconAct } from '../../ui/icon-act.tsx';
import { useKept } from '../../ui/kept-state.ts';
import { type ComparedPictureProps, useComparedPicture } from '../../ui/model-picture.tsx';
import { Panes } from '../../ui/panes.tsx';
import { PictureButton, usePictureShown } from '../../ui/picture-pane.tsx';
import { useSchemePalette } from '../../ui/use-scheme.ts';
import { CAUSE_WORDS } from './cause-words.ts';
import { ChangeLog } from './change-log.tsx';
import { ChangesPrint } from './changes-print.tsx';
import { CheckedMoved } from './checked-moved.tsx';
import { ComparedElement } from './compared-element.tsx';
import { ElementChanges } from './element-changes.tsx';
import { FrozenPlans } from './frozen-plans.tsx';
import { GroupMoves } from './group-moves.tsx';
import { KnownAgain, useIdentified } from './known-again.tsx';
import { isAsked } from './list-identified.ts';
import { MoveWaterfall } from './move-waterfall.tsx';
import { listActing, listCostedGroups } from './moved-groups.ts';
import { chooseFirst, listStates } from './name-states.ts';
import { Options } from './options.tsx';
import { OptionsBeside } from './options-beside.tsx';
import { CHANGE_WORDS, sayChange } from './say-change.ts';
import { StatePicker } from './state-picker.tsx';

const VIEWS = ['groups', 'elements', 'options', 'again', 'checked'] as const;
type View = (typeof VIEWS)[number];

/** Changes of the log that are listed. */
const MOST_CHANGES = 200;

/** What is compared with what, as the address says, else what one wants to know first. A change of the log is the state after it with the one before. */
function useSides() {
  const { project, baselines } = useProjectState('project', 'baselines');
  const { data: changes } = useChanges(project.id, MOST_CHANGES);
  const [params, setParams] = useSearchParams();
  const seq = Number(params.get('seq')) || null;
  const first = useMemo(
    () => (changes ? chooseFirst(project.id, baselines, changes) : null),
    [project.id, baselines, changes],
  );
  const ofSeq = seq === null ? null : { from: `seq:${seq - 1}`, to: `seq:${seq}` };
  const asked = ofSeq ?? first;
  const [from, to] = [params.get('from') ?? asked?.from ?? null, params.get('to') ?? asked?.to ?? null];
  const choose = (sides: { readonly from: string | null; readonly to: string | null }) =>
    setParams(
      (before) => {
        before.delete('seq');
        if (sides.from) before.set('from', sides.from);
        if (sides.to) before.set('to', sides.to);
        return before;
      },
      { replace: true },
    );
  const chooseSeq = (n: number) =>
    setParams(
      (before) => {
        before.delete('from');
        before.delete('to');
        before.set('seq', String(n));
        return before;
      },
      { replace: true },
    );
  // Whoever says from what only wants to know what moved since.
  const isChosen = params.has('to');
  return { changes: changes ?? [], from, to, seq, isChosen, choose, chooseSeq };
}

/** What moved the total between any two states: by cause, by group, by element, with what was checked and has moved. */
export function ChangesPage() {
  const { project, baselines, options, sources, money } = useProjectState('project', 'baselines', 'options', 'sources', 'money'); // biome-ignore format: one state
  const { changes, from, to, seq, isChosen, choose, chooseSeq } = useSides();
  const [keptBy, setBy] = useKept<GroupField>(`${project.id}/changes/by`, 'section');
  const [view, setView] = useKept<View>(`${project.id}/changes/view`, 'groups');
  const [cause, setCause] = useState<MoveCause | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const [isLogShown, setLogShown] = useKept('changes/log', typeof window !== 'undefined' && window.innerWidth >= 1500);
  const [isPictureShown] = usePictureShown('changes', false);
  const Compared = useComparedPicture();
  const client = useQueryClient();
  const { data, error, isFetching, isPlaceholderData, refetch } = useComparison(project.id, from, to, keptBy);
  const isStopped = from !== null && to !== null && !isFetching && !error && (!data || isPlaceholderData);
  const stop = () => void client.cancelQueries({ queryKey: comparisonKey(project.id, from, to, keptBy) });
  const identified = useIdentified();
  const states = useMemo(
    () => listStates(project.id, options, baselines, sources, changes),
    [project.id, options, baselines, sources, changes],
  );
  const open = identified.filter(isAsked).length;
  const acting = cause !== null && data && data.move.causes[cause] === 0 ? null : cause;
  const hasOptions = Object.values(options).some((o) => !o.isAway);
  const words: Record<View, string> = {
    groups: 'Groups',
    elements: 'Elements',
    options: 'Options side by side',
    again: open > 0 ? `Known again (${open} to look at)` : 'Known again',
    checked: 'Checked and moved',
  };
  return (
    <Panes
      name="changes"
      left={isLogShown ? <ChangeLog changes={changes} chosen={seq} onChoose={chooseSeq} /> : null}
      leftSize={300}
      right={isPictureShown && data && Compared ? <Picture comparison={data} Compared={Compared} /> : null}
    >
      <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', gap: 1, p: 1.5, minWidth: 0 }}>
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13, flexWrap: 'wrap' }}>
          <IconAct
            word={isLogShown ? 'Put the list of changes away' : 'All changes, one by one'}
            isOn={isLogShown}
            onClick={() => setLogShown(!isLogShown)}
          >
            <HistoryIcon fontSize="small" />
          </IconAct>
          <span>From</span>
          <StatePicker
            label="From"
            states={states}
            value={from}
            onChange={(ref) => choose({ from: ref, to: isChosen ? to : 'live' })}
          />
          <IconAct word="The other way round" onClick={() => choose({ from: to, to: from })}>
            <SwapHorizIcon fontSize="small" />
          </IconAct>
          <span>to</span>
          <StatePicker label="To" states={states} value={to} onChange={(ref) => choose({ from, to: ref })} />
          <Box sx={{ flex: 1 }} />
          <Options
            onCompare={(ref) =>
              choose({ from: readWorkspaceId(project.id).option === null ? 'live' : 'base', to: ref })
            }
          />
          <FrozenPlans onCompare={(ref) => choose({ from: ref, to: 'live' })} />
          {data && !isPlaceholderData && <Export comparison={data} name={nameSides(states, from, to)} by={keptBy} />}
          <PictureButton name="changes" />
        </Box>
        {isFetching && (!data || isPlaceholderData) && (
          <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
            <LinearProgress aria-label="Comparing" sx={{ flex: 1 }} />
            <Button size="small" color="inherit" variant="outlined" onClick={stop}>
              Stop
            </Button>
          </Box>
        )}
        {isStopped && (
          <Box role="status" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
            Stopped: the two are not compared.
            <Button size="small" variant="outlined" onClick={() => void refetch()}>
              Compare
            </Button>
          </Box>
        )}
        {error && (
          <Box role="alert" sx={{ color: 'error.main', fontSize: 13 }}>
            {describeError(error)}
          </Box>
        )}
        {data && !error && (
          <>
            <Headline comparison={data} />
            {MOVE_CAUSES.some((c) => data.move.causes[c] !== 0) ? (
              <MoveWaterfall
                move={data.move}
                minorDigits={data.minorDigits}
                chosen={acting}
                onChoose={(c) => setCause(c)}
              />
            ) : (
              <Box sx={{ fontSize: 13, color: 'text.secondary' }}>Nothing moved between the two.</Box>
            )}
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13, flexWrap: 'wrap' }}>
              <ToggleButtonGroup
                size="small"
                exclusive
                value={view}
                onChange={(_, next: View | null) => next && setView(next)}
                aria-label="What is listed"
              >
                {VIEWS.filter((v) => v !== 'options' || hasOptions).map((v) => (
                  <ToggleButton key={v} value={v} sx={{ fontSize: 13, py: 0.25, textTransform: 'none' }}>
                    {words[v]}
                  </ToggleButton>
                ))}
              </ToggleButtonGroup>
              {acting && (view === 'groups' || view === 'elements') && (
                <Button size="small" color="inherit" variant="outlined" onClick={() => setCause(null)}>
                  Only {CAUSE_WORDS[acting].word.toLowerCase()} ×
                </Button>
              )}
              <Box sx={{ flex: 1 }} />
              {(view === 'groups' || view === 'options') && (
                <GroupSelect
                  label="By"
                  fields={GROUP_FIELDS}
                  words={nameGroup}
                  value={keptBy}
                  onChange={(field) => setBy(field === '' ? 'section' : field)}
                />
              )}
            </Box>
            {view === 'groups' && !isPlaceholderData && (
              <GroupMoves
                comparison={data}
                heading={nameGroup(keptBy).word}
                cause={acting}
                onOpen={() => setView('elements')}
              />
            )}
            {view === 'elements' && (
              <ElementChanges comparison={data} cause={acting} chosen={chosen} onChoose={setChosen} />
            )}
            {view === 'elements' && chosen !== null && from && to && (
              <Box
                sx={{
                  maxHeight: 190,
                  overflow: 'auto',
                  border: 1,
                  borderColor: 'divider',
                  borderRadius: 1,
                  flexShrink: 0,
                }}
              >
                <ComparedElement from={from} to={to} elementKey={chosen} />
              </Box>
            )}
            {view === 'options' && hasOptions && <OptionsBeside by={keptBy} />}
            {view === 'again' && <KnownAgain elements={data.elements} />}
            {view === 'checked' && <CheckedMoved />}
            {!isPlaceholderData && (
              <ChangesPrint
                comparison={data}
                title={nameSides(states, from, to)}
                by={keptBy}
                currency={money.currency}
              />
            )}
          </>
        )}
      </Box>
    </Panes>
  );
}

/** What is compared, as a name of a file or a sheet. */
function nameSides(states: ReturnType<typeof listStates>, from: string | null, to: string | null): string {
  const word = (ref: string | null) => states.find((s) => s.ref === ref)?.word ?? ref ?? '';
  return `From ${word(from)} to ${word(to)}`;
}

/** The move in a line, per m2 where the floor is known, and what of a frozen plan this version works out otherwise. */
function Headline({ comparison: { move, minorDigits, currency, floorAreaM2, drift } }: { readonly comparison: ComparisonDto }) {
  const per = ([move.before, move.after] as const).map((m, i) => (floorAreaM2[i] ? Math.round(m / floorAreaM2[i]!) : null)); // biome-ignore format: one list
  const share = move.before === 0 ? '' : ` (${showMove(Math.round((move.move / move.before) * 1000), 1)} %)`;
  return (
    <Box sx={{ fontSize: 13, display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
      <Box data-testid="move" sx={{ fontSize: 18, fontWeight: 650 }}>
        {showMove(move.move, minorDigits)} {currency}
        {share}
      </Box>
      <span>
        {showMinor(move.before, minorDigits)} to {showMinor(move.after, minorDigits)}
      </span>
      {per[0] !== null && per[1] !== null && (
        <span>
          {showMinor(per[0]!, minorDigits)} to {showMinor(per[1]!, minorDigits)} per m² of floor
        </span>
      )}
      {drift.map(
        (d, i) =>
          d && (
            <Box key={i === 0 ? 'from' : 'to'} role="alert" sx={{ bgcolor: 'tally.unpricedSoft', px: 1, borderRadius: 0.5 }}>
              This version works the frozen plan out otherwise in {d.cells} cells: {showMinor(Math.round(d.total[0] / 10_000), minorDigits)} then, {showMinor(Math.round(d.total[1] / 10_000), minorDigits)} now.
            </Box>
          ),
      )}
    </Box>
  );
} // biome-ignore format: one head

/** How what became of elements is drawn, and what it is called. */
function useLooks() {
  const { tally } = useSchemePalette();
  return useMemo(
    () => ({
      came: { colour: tally.petrol, pattern: 'rising' as const },
      went: { colour: tally.error, pattern: 'falling' as const },
      changed: { colour: tally.groups[4]!, pattern: 'plain' as const },
      priced: { colour: tally.pricedBody, pattern: 'dots' as const },
    }),
    [tally],
  );
}

/** How a pattern of the model looks in a legend. */
const STRIPES = { rising: '45deg', falling: '-45deg' } as const;

/** Both states of the building, coloured by what became of its elements. */
function Picture({
  comparison,
  Compared,
}: {
  readonly comparison: ComparisonDto;
  readonly Compared: ComponentType<ComparedPictureProps>;
}) {
  const looks = useLooks();
  const colourOf = useMemo(() => new Map(comparison.elements.map((e) => [e.key, looks[e.what]])), [comparison, looks]);
  const [before, after] = comparison.revisions;
  const fill = ({ colour, pattern }: (typeof looks)[keyof typeof looks]) =>
    pattern === 'rising' || pattern === 'falling'
      ? `repeating-linear-gradient(${STRIPES[pattern]}, ${colour} 0 2px, transparent 2px 4px)`
      : colour;
  return (
      <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
        <Box sx={{ flex: 1, minHeight: 0 }}>
          <Compared before={before} after={after} colourOf={colourOf} />
        </Box>
        <Box
          sx={{ px: 1.5, py: 0.75, fontSize: 12, borderTop: 1, borderColor: 'divider', display: 'flex', gap: 1.5, flexWrap: 'wrap' }}
        >
          {ELEMENT_CHANGES.filter((what) => comparison.counts[what] > 0).map((what) => (
            <Box key={what} sx={{ display: 'flex', gap: 0.5, alignItems: 'center' }}>
              <Box sx={{ width: 14, height: 10, border: 1, borderColor: looks[what].colour, background: fill(looks[what]) }} />
              {CHANGE_WORDS[what]} {comparison.counts[what]}
            </Box>
          ))}
        </Box>
      </Box>
  );
} // biome-ignore format: a swatch a line

function Export({ comparison, name, by }: { readonly comparison: ComparisonDto; readonly name: string; readonly by: GroupField }) {
  const { project } = useProjectState('project');
  const { settings } = useBasis('settings');
  const saveTable = useSaveTable(project.id);
  const save = () => {
    const { groups, elements, move, minorDigits, currency } = comparison;
    const major = (minor: number) => minor / 10 ** minorDigits;
    const [acting, costed] = [listActing(groups), listCostedGroups(groups)];
    const rows: OutlineTable['rows'] = [
      ...costed.map((g) => [g.label, '', major(g.from), major(g.to), major(g.move), ...acting.map((c) => major(g.causes[c]))]),
      ['All', '', major(move.before), major(move.after), major(move.move), ...acting.map((c) => major(move.causes[c]))],
      ...elements.map((e) => [e.label, sayChange(e, settings.units, true), null, null, major(Math.round(e.move / 10_000)), ...acting.map((c) => major(Math.round(e.causes[c] / 10_000)))]),
    ];
    const body: OutlineTable = {
      name: 'Changes',
      columns: [nameGroup(by).word, 'How', `Before ${currency}`, `After ${currency}`, `Move ${currency}`, ...acting.map((c) => CAUSE_WORDS[c].word)],
      rows,
      levels: rows.map(() => 0),
      heads: rows.map((_, i) => i === costed.length),
      sums: [],
    };
    void saveTable(`${project.name} changes`, body);
  };
  return (
    <Button color="inherit" variant="outlined" title={name} onClick={save}>
      XLSX
    </Button>
  );
} // biome-ignore format: rows in a line each

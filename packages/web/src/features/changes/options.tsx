import { Box, Button, TextField } from '@mui/material';
import { type ChangeDto, type OptionConflict, projectOf, readWorkspaceId, workspaceId } from '@tally/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { getJson, postJson } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { planKey } from '../../store/slices.ts';
import { tellChange } from '../../store/tell-change.ts';
import { useCommit, useProblemNotice } from '../../store/use-commit.ts';
import { SheetButton } from '../../ui/sheet-button.tsx';
import { listOptions } from './name-states.ts';

const ALL = ['book', 'rules', 'layer', 'settings', 'notes'] as const;

/** Asks the server for something about options, and tells what came of it. */
function useOptionAct() {
  const { project } = useProjectState('project');
  const client = useQueryClient();
  const notice = useProblemNotice();
  const [isBusy, setBusy] = useState(false);
  const act = async <T extends { readonly change: ChangeDto } | ChangeDto>(path: string, body: object): Promise<T | null> => {
    setBusy(true);
    try {
      const done = await postJson<T>(`/projects/${project.id}/options${path}`, body);
      const change: ChangeDto = 'change' in done ? (done as { readonly change: ChangeDto }).change : (done as ChangeDto);
      await tellChange(client, { ...change, projectId: project.id }, ALL);
      return done;
    } catch (error) {
      notice(error);
      return null;
    } finally {
      setBusy(false);
    }
  };
  return { act, isBusy };
} // biome-ignore format: one act

/** Options of the project: made, opened, compared, merged into the plan, put away. */
export function Options({ onCompare }: { readonly onCompare: (ref: string) => void }) {
  const { options } = useProjectState('options');
  const all = listOptions(options);
  return (
    <SheetButton label="Options" count={all.filter(([, o]) => !o.isAway).length} width={760}>
      <OptionForm />
      {all.length > 0 && (
        <Box component="ul" aria-label="Options" sx={{ listStyle: 'none', m: 0, mt: 1.5, p: 0, maxHeight: 380, overflow: 'auto' }}>
          {all.map(([id]) => (
            <OptionRow key={id} id={id} onCompare={() => onCompare(`option:${id}`)} />
          ))}
        </Box>
      )}
    </SheetButton>
  );
} // biome-ignore format: one list

function OptionForm() {
  const { project } = useProjectState('project');
  const [name, setName] = useState('');
  const { act, isBusy } = useOptionAct();
  const navigate = useNavigate();
  const isNested = readWorkspaceId(project.id).option !== null;
  const make = async () => {
    const made = await act<{ id: string; change: ChangeDto }>('', { name });
    if (made) navigate(`/projects/${workspaceId({ projectId: projectOf(project.id), option: made.id })}/plan`);
  };
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        void make();
      }}
      sx={{ display: 'flex', gap: 1 }}
    >
      <TextField
        size="small"
        label={isNested ? 'An option of this option' : 'A new option'}
        placeholder="Rendered walls"
        value={name}
        onChange={(e) => setName(e.target.value)}
        sx={{ flex: 1 }}
      />
      <Button type="submit" variant="contained" disabled={name.trim() === '' || isBusy}>
        Make it and work in it
      </Button>
    </Box>
  );
}

function OptionRow({ id, onCompare }: { readonly id: string; readonly onCompare: () => void }) {
  const { project, options } = useProjectState('project', 'options');
  const commit = useCommit(project.id);
  const navigate = useNavigate();
  const { act, isBusy } = useOptionAct();
  const { differences, ...body } = options[id]!;
  const own = readWorkspaceId(project.id).option;
  const base = projectOf(project.id);
  const { data: conflicts } = useQuery({
    queryKey: [...planKey(project.id), 'conflicts', id],
    queryFn: () => getJson<OptionConflict[]>(`/projects/${project.id}/options/${id}/conflicts`),
  });
  const leave = () => own === id && navigate(`/projects/${base}/changes`);
  const act2 = { size: 'small', color: 'inherit', disabled: isBusy } as const;
  return (
    <Box component="li" sx={{ py: 0.75, borderTop: 1, borderColor: 'divider', fontSize: 13 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, flexWrap: 'wrap' }}>
        <Box sx={{ flex: 1, minWidth: 140 }}>
          <Box sx={{ fontWeight: own === id ? 650 : 400 }}>
            {body.name}
            {body.isAway ? ' · put away' : ''}
          </Box>
          <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>
            {differences.length === 1 ? 'One thing differs' : `${differences.length} things differ`}
          </Box>
        </Box>
        {own !== id && (
          <Button
            {...act2}
            variant="outlined"
            onClick={() => navigate(`/projects/${workspaceId({ projectId: base, option: id })}/plan`)}
          >
            Work in it
          </Button>
        )}
        {own !== id && (
          <Button {...act2} onClick={onCompare}>
            Compare
          </Button>
        )}
        <Button
          {...act2}
          disabled={isBusy || conflicts === undefined || conflicts.length > 0}
          title="Everything in which it differs is done to the plan, in one change that can be undone"
          onClick={() => void act(`/${id}/merge`, {}).then((done) => done && leave())}
        >
          Merge into the plan
        </Button>
        <Button
          {...act2}
          onClick={() =>
            commit.mutate({
              cause: body.isAway ? `Option taken up again: ${body.name}` : `Option put away: ${body.name}`,
              diff: { updated: [{ kind: 'option', id, from: body, to: { ...body, isAway: !body.isAway } }] },
            })
          }
        >
          {body.isAway ? 'Take up again' : 'Put away'}
        </Button>
        <Button {...act2} onClick={() => void act(`/${id}/remove`, {}).then((done) => done && leave())}>
          Take away
        </Button>
      </Box>
      {(conflicts?.length ?? 0) > 0 && <Conflicts id={id} conflicts={conflicts!} />}
    </Box>
  );
}

/** Conflicts that are listed one by one. */
const MOST_CONFLICTS = 20;

/** What the plan has otherwise than when the option changed it: of each somebody says what counts. */
function Conflicts({ id, conflicts }: { readonly id: string; readonly conflicts: readonly OptionConflict[] }) {
  const { act, isBusy } = useOptionAct();
  const say = (of: readonly OptionConflict[], keepsOwn: boolean) => {
    const choices = Object.fromEntries(of.map((c) => [`${c.difference.kind}/${c.difference.id}`, keepsOwn]));
    void act(`/${id}/rebase`, { keepsOwn: choices });
  };
  const small = { size: 'small', color: 'inherit', disabled: isBusy } as const;
  return (
    <Box sx={{ bgcolor: 'tally.unpricedSoft', borderRadius: 0.5, px: 1, py: 0.5, mt: 0.5 }} role="alert">
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <Box sx={{ flex: 1 }}>The plan changed too:</Box>
        {conflicts.length > 1 && (
          <>
            <Button {...small} onClick={() => say(conflicts, true)}>
              Keep all of the option
            </Button>
            <Button {...small} onClick={() => say(conflicts, false)}>
              Take all of the plan
            </Button>
          </>
        )}
      </Box>
      {conflicts.slice(0, MOST_CONFLICTS).map((c) => (
        <Box key={`${c.difference.kind}/${c.difference.id}`} sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
          <Box sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            {sayKind(c.difference.kind)} {c.difference.id}
          </Box>
          <Button {...small} onClick={() => say([c], true)}>
            The option’s counts
          </Button>
          <Button {...small} onClick={() => say([c], false)}>
            The plan’s counts
          </Button>
        </Box>
      ))}
      {conflicts.length > MOST_CONFLICTS && (
        <Box sx={{ color: 'text.secondary' }}>
          And {conflicts.length - MOST_CONFLICTS} more: settle these first, or all at once.
        </Box>
      )}
    </Box>
  );
}

const KIND_WORDS: Readonly<Record<string, string>> = {
  item: 'Item',
  assembly: 'Assembly',
  value: 'Named value',
  scale: 'Scale',
  rule: 'Rule',
  pin: 'Decision',
  counting: 'Revision of',
  settings: 'Settings',
  allowance: 'Allowance',
  finishes: 'Finishes of room',
  attributes: 'Attributes of',
};
const sayKind = (kind: string) => KIND_WORDS[kind] ?? kind;

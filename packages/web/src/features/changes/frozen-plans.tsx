import { Box, Button, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { type BaselineBody, projectOf, workspaceId } from '@tally/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { postJson } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { tellChange } from '../../store/tell-change.ts';
import { describeError, useCommit } from '../../store/use-commit.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor, showTime } from '../../ui/format.ts';
import { SheetButton } from '../../ui/sheet-button.tsx';

/** Plans that were frozen: made, compared with, called the contract, taken away. */
export function FrozenPlans({ onCompare }: { readonly onCompare: (ref: string) => void }) {
  const { baselines } = useProjectState('baselines');
  const list = Object.entries(baselines).sort(([, a], [, b]) => (b.at ?? '').localeCompare(a.at ?? ''));
  return (
    <SheetButton label="Frozen plans" count={list.length} width={760}>
      <FreezeForm />
      {list.length > 0 && (
        <Box
          component="ul"
          aria-label="Frozen plans"
          sx={{ listStyle: 'none', m: 0, mt: 1.5, p: 0, maxHeight: 320, overflow: 'auto' }}
        >
          {list.map(([id, body]) => (
            <FrozenPlan key={id} id={id} body={body} onCompare={() => onCompare(`baseline:${id}`)} />
          ))}
        </Box>
      )}
    </SheetButton>
  );
}

function FreezeForm() {
  const { project, baselines } = useProjectState('project', 'baselines');
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [isContract, setContract] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const freeze = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const change = await postJson<Parameters<typeof tellChange>[1]>(`/projects/${project.id}/baselines`, {
        name,
        isContract,
      });
      await tellChange(client, change, ['notes']);
      setName('');
      setContract(false);
    } catch (error) {
      setProblem(describeError(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        void freeze();
      }}
      sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}
    >
      <TextField
        size="small"
        label="Freeze the plan of now as"
        placeholder={Object.keys(baselines).length === 0 ? 'Cost plan 1' : 'Cost plan 2'}
        value={name}
        onChange={(e) => setName(e.target.value)}
        error={problem !== null}
        helperText={problem}
        sx={{ flex: 1 }}
      />
      <FormControlLabel
        control={<Checkbox size="small" checked={isContract} onChange={(e) => setContract(e.target.checked)} />}
        label="Contract"
        slotProps={{ typography: { sx: { fontSize: 13 } } }}
        title="The plan that was agreed on: variations are valued against it"
      />
      <Button type="submit" variant="contained" disabled={name.trim() === '' || isBusy}>
        Freeze
      </Button>
    </Box>
  );
}

function FrozenPlan({
  id,
  body,
  onCompare,
}: {
  readonly id: string;
  readonly body: BaselineBody;
  readonly onCompare: () => void;
}) {
  const { project, money, baselines } = useProjectState('project', 'money', 'baselines');
  const commit = useCommit(project.id);
  const change = (cause: string, to: BaselineBody) => {
    // One plan is the contract.
    const others = Object.entries(baselines).filter(([other, b]) => other !== id && b.isContract && to.isContract);
    const updated = [[id, body, to] as const, ...others.map(([other, b]) => [other, b, { ...b, isContract: false }] as const)]; // biome-ignore format: one list
    commit.mutate({ cause, diff: { updated: updated.map(([of, from, next]) => ({ kind: 'baseline', id: of, from, to: next })) } }); // biome-ignore format: one change
  };
  return (
    <Box
      component="li"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        py: 0.5,
        borderTop: 1,
        borderColor: 'divider',
        fontSize: 13,
      }}
    >
      <Box sx={{ flex: 1, minWidth: 160 }}>
        <Box sx={{ fontWeight: body.isContract ? 650 : 400 }}>
          {body.name}
          {body.isContract ? ' · contract' : ''}
        </Box>
        <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>
          {[body.by, body.at && showTime(body.at)].filter(Boolean).join(', ')}
        </Box>
      </Box>
      <Box sx={{ fontFamily: FIGURES }}>
        {showMinor(body.total, money.minorDigits)} {body.currency}
      </Box>
      <Button
        size="small"
        color="inherit"
        component={Link}
        to={`/projects/${workspaceId({ projectId: projectOf(project.id), past: body.seq })}/plan`}
        title="The plan as it was then, to look at"
      >
        Look at it
      </Button>
      <Button size="small" color="inherit" variant="outlined" onClick={onCompare}>
        Compare with now
      </Button>
      <Button
        size="small"
        color="inherit"
        onClick={() =>
          change(body.isContract ? `${body.name} is not the contract` : `${body.name} is the contract`, {
            ...body,
            isContract: !body.isContract,
          })
        }
      >
        {body.isContract ? 'Not the contract' : 'The contract'}
      </Button>
      <Button
        size="small"
        color="inherit"
        title="Its file stays: undo brings it back"
        onClick={() =>
          commit.mutate({
            cause: `Frozen plan taken away: ${body.name}`,
            diff: { removed: [{ kind: 'baseline', id, body }] },
          })
        }
      >
        Take away
      </Button>
    </Box>
  );
}

import { Box, Button, Divider, ListSubheader, Menu, MenuItem, TextField } from '@mui/material';
import type { GroupField, PlanView } from '@tally/core';
import { useState } from 'react';
import { savePlanView } from '../../store/change-plan.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';

/** Ready and saved ways to look at the plan; the present one can be kept under a name, for everybody in the project. */
export function SavedLooks({
  ready,
  view,
  onChoose,
}: {
  readonly ready: readonly { readonly name: string; readonly by: readonly GroupField[] }[];
  readonly view: PlanView;
  readonly onChoose: (view: PlanView) => void;
}) {
  const { project, planViews } = useProjectState('project', 'planViews');
  const change = useCommit(project.id);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [name, setName] = useState('');
  const saved = Object.entries(planViews).sort(([a], [b]) => (a < b ? -1 : 1));
  const text = JSON.stringify(view);
  const own = saved.find(([, v]) => JSON.stringify(v) === text)?.[0];
  const shown = own ?? (view.rows || view.scope || view.sources ? undefined : ready.find((r) => r.by.join() === view.by.join())?.name) ?? 'Own breakdown'; // biome-ignore format: one name
  const take = (next: PlanView) => {
    onChoose(next);
    setAnchor(null);
  };
  const keep = () => {
    const wanted = name.trim();
    if (wanted === '' || change.isPending) return;
    change.mutate(savePlanView(planViews, wanted, view), {
      onSuccess: () => {
        setName('');
        setAnchor(null);
      },
    });
  };
  return (
    <>
      <Button
        color="inherit"
        variant="outlined"
        aria-haspopup="menu"
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ whiteSpace: 'nowrap' }}
      >
        {shown}
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {ready.map((r) => (
          <MenuItem
            key={r.name}
            selected={shown === r.name}
            onClick={() => take({ by: [...r.by] })}
            sx={{ fontSize: 13 }}
          >
            {r.name}
          </MenuItem>
        ))}
        {saved.length > 0 && <ListSubheader sx={{ lineHeight: '28px' }}>Saved</ListSubheader>}
        {saved.map(([id, v]) => (
          <MenuItem
            key={id}
            selected={own === id}
            onClick={() => take(v)}
            sx={{ fontSize: 13, gap: 2, justifyContent: 'space-between' }}
          >
            {id}
            <Button
              size="small"
              color="inherit"
              aria-label={`Take ${id} away`}
              onClick={(e) => {
                e.stopPropagation();
                change.mutate(savePlanView(planViews, id, null));
              }}
              sx={{ minWidth: 0, fontSize: 12 }}
            >
              Take away
            </Button>
          </MenuItem>
        ))}
        <Divider />
        <Box sx={{ display: 'flex', gap: 1, px: 2, py: 0.5 }} onKeyDown={(e) => e.stopPropagation()}>
          <TextField
            placeholder="Name of this view"
            value={name}
            onChange={(e) => setName(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter') return;
              // The button that the focus goes back to must not be pressed by the same key.
              e.preventDefault();
              keep();
            }}
            slotProps={{ htmlInput: { 'aria-label': 'Name of this view', maxLength: 80 } }}
          />
          <Button disabled={name.trim() === ''} onClick={keep}>
            Save
          </Button>
        </Box>
      </Menu>
    </>
  );
}

import MoreVertIcon from '@mui/icons-material/MoreVert';
import {
  Button,
  DialogActions,
  DialogContent,
  DialogTitle,
  IconButton,
  Menu,
  MenuItem,
  TextField,
} from '@mui/material';
import type { ProjectDto, ProjectListDto } from '@tally/core';
import { useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { postJson } from '../../store/client.ts';
import { useProblemNotice } from '../../store/use-commit.ts';
import { FormDialog } from '../../ui/form-dialog.tsx';

/** What can be done with a project of the list. */
export function ProjectMenu({ project }: { readonly project: ProjectListDto }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [asking, setAsking] = useState<'rename' | 'duplicate' | null>(null);
  const client = useQueryClient();
  const notice = useProblemNotice();
  const post = async (path: string, body: object = {}) => {
    try {
      await postJson<ProjectDto>(`/projects/${project.id}/${path}`, body);
    } catch (failed) {
      notice(failed);
      return false;
    }
    await client.invalidateQueries({ queryKey: ['projects'] });
    return true;
  };
  const pick = (what: () => void) => () => {
    setAnchor(null);
    what();
  };
  const isAway = project.putAwayAt !== null;
  return (
    <>
      <IconButton
        aria-label={`More about ${project.name}`}
        aria-haspopup="menu"
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        <MoreVertIcon fontSize="small" />
      </IconButton>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {isAway && <MenuItem onClick={pick(() => void post('bring-back'))}>Bring back</MenuItem>}
        {!isAway && <MenuItem onClick={pick(() => setAsking('rename'))}>Rename</MenuItem>}
        {!isAway && <MenuItem onClick={pick(() => setAsking('duplicate'))}>Duplicate</MenuItem>}
        <MenuItem component="a" href={`/api/projects/${project.id}/template.json`} onClick={() => setAnchor(null)}>
          Save its rules and book as a template
        </MenuItem>
        {!isAway && <MenuItem onClick={pick(() => void post('put-away'))}>Put away</MenuItem>}
      </Menu>
      {asking && (
        <NameDialog
          title={asking === 'rename' ? `Rename ${project.name}` : `Duplicate ${project.name}`}
          start={asking === 'rename' ? project.name : `${project.name}, copy`}
          word={asking === 'rename' ? 'Rename' : 'Duplicate'}
          onClose={() => setAsking(null)}
          onDone={(name) => post(asking, { name })}
        />
      )}
    </>
  );
}

function NameDialog({
  title,
  start,
  word,
  onClose,
  onDone,
}: {
  readonly title: string;
  readonly start: string;
  readonly word: string;
  readonly onClose: () => void;
  readonly onDone: (name: string) => Promise<boolean>;
}) {
  const [name, setName] = useState(start);
  const [isBusy, setBusy] = useState(false);
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    setBusy(true);
    // A form that was refused stays as it is.
    if (await onDone(name.trim())) onClose();
    else setBusy(false);
  };
  return (
    <FormDialog onClose={onClose} maxWidth="xs">
      <form onSubmit={(e) => void submit(e)}>
        <DialogTitle>{title}</DialogTitle>
        <DialogContent>
          <TextField
            label="Name"
            value={name}
            autoFocus
            fullWidth
            onChange={(e) => setName(e.target.value)}
            sx={{ mt: 1 }}
          />
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={isBusy || name.trim() === ''}>
            {word}
          </Button>
        </DialogActions>
      </form>
    </FormDialog>
  );
}

import { Box, Button, TextField } from '@mui/material';
import { type Classification, type ClassListDto, type CostClass, foldText, UNIFORMAT } from '@tally/core';
import { useState } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { SHEET_SX } from './book-list.tsx';
import { compareClasses } from './compare-classes.ts';

/** A list of classes that was brought: its name, what is new in it, what was left out, and the way to keep it. */
export function BroughtClasses({
  brought,
  onDone,
}: {
  readonly brought: ClassListDto;
  /** With the name under which it was kept; null if it was put away. */
  readonly onDone: (name: string | null) => void;
}) {
  const { project, classifications } = useProjectState('project', 'classifications');
  const change = useCommit(project.id);
  const [typed, setTyped] = useState(brought.name);
  const name = typed.trim();
  const before = classifications.find((c) => foldText(c.name) === foldText(name));
  const isShipped = foldText(name) === foldText(UNIFORMAT.name);
  const { came, went, renamed } = compareClasses(before, brought.classes);
  const isSame = before !== undefined && came.length + went.length + renamed.length === 0;
  const keep = () => {
    const body: Classification = { name: before?.name ?? name, classes: brought.classes };
    const entry = { kind: 'classification', id: body.name };
    change.mutate(
      {
        cause: `Classification ${before ? 'brought anew' : 'brought'}: ${body.name}`,
        diff: before ? { updated: [{ ...entry, from: before, to: body }] } : { added: [{ ...entry, body }] },
      },
      { onSuccess: () => onDone(body.name) },
    );
  };
  const columns: TableColumn<CostClass>[] = [
    { key: 'code', heading: 'Code', width: 150, cell: (c) => c.code },
    { key: 'title', heading: 'Title', width: 0, cell: (c) => c.title },
  ];
  return (
    <Box
      component="section"
      aria-label="Classification brought"
      sx={{ ...SHEET_SX, gridTemplateRows: 'auto auto minmax(0, 1fr)', alignContent: 'stretch' }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
        <TextField
          label="Name of the classification"
          value={typed}
          error={isShipped}
          onChange={(e) => setTyped(e.target.value)}
          sx={{ width: 260, mt: 0.5 }}
        />
        <Box role="status" aria-label="What is new" sx={{ flex: 1, fontSize: 13 }}>
          {isShipped
            ? 'UNIFORMAT II comes with the application; take another name.'
            : before
              ? `${came.length} classes come, ${went.length} go, ${renamed.length} are called otherwise.`
              : `${brought.classes.length} classes.`}
        </Box>
        <Button color="inherit" onClick={() => onDone(null)}>
          Put away
        </Button>
        <Button variant="contained" disabled={name === '' || isShipped || isSame || change.isPending} onClick={keep}>
          Keep the classification
        </Button>
      </Box>
      {brought.skipped.length > 0 && (
        <Box
          component="ul"
          aria-label="Rows not used"
          sx={{ m: 0, pl: 2, fontSize: 13, maxHeight: 90, overflow: 'auto' }}
        >
          {brought.skipped.map((s) => (
            <li key={s.row}>
              Row {s.row}: {s.reason}
            </li>
          ))}
        </Box>
      )}
      <Box sx={{ minHeight: 0, display: 'flex' }}>
        <VirtualTable label="Classes brought" rows={brought.classes} columns={columns} rowId={(c) => c.code} />
      </Box>
    </Box>
  );
}

import { Box, Button, MenuItem, Select, TextField } from '@mui/material';
import { GROUP_FIELDS, type GroupField, nameGroup, type Target, targetId } from '@tally/core';
import { useState } from 'react';

import { setTarget } from '../../store/change-plan.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { usePlanLabels } from '../../store/queries.ts';
import { refusalOf, useCommit } from '../../store/use-commit.ts';

import { FIGURES } from '../../ui/fonts.ts';

import { readTarget } from './read-target.ts';

/** Fields whose groups may have a target: those that keep their labels from revision to revision. */
const FIELDS: readonly GroupField[] = GROUP_FIELDS.filter((f) => f !== 'item' && f !== 'name');
/** A target that is not there yet: of what, how much, and per what. */
export function NewTarget({ known }: { readonly known: readonly Target[] }) {
  const { project, summary } = useProjectState('project', 'summary');
  const change = useCommit(project.id);
  const [by, setBy] = useState<GroupField | ''>(known.some((t) => t.by === undefined) ? 'section' : '');
  const [is, setIs] = useState('');
  const [per, setPer] = useState('whole');
  const [amount, setAmount] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const labels = usePlanLabels(project.id, by);
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

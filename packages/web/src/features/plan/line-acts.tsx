import { Autocomplete, Box, Button, MenuItem, Select, TextField } from '@mui/material';
import type { PlanLine } from '@tally/core';
import { useState } from 'react';
import { noteId, noteLine, swapItem } from '../../store/change-plan.ts';
import { readAuthorName } from '../../store/client.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useElementCost } from '../../store/queries.ts';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { swapOnElement } from './swap-on-element.ts';

type Where = 'section' | 'everywhere' | 'element';

/** What can be done with a line of the plan where it stands: a note, another item in its place. */
export function LineActs({ line, elementKey }: { readonly line: PlanLine; readonly elementKey: number | null }) {
  const { project, notes } = useProjectState('project', 'notes');
  const { swaps, sections } = useBasis('swaps', 'sections');
  const change = useCommit(project.id);
  const [open, setOpen] = useState<'note' | 'swap' | 'section' | null>(null);
  const id = noteId(line.section, line.item);
  const known = notes[id];
  const here = swaps.filter((s) => s.to === line.item && (s.section === undefined || s.section === line.section));
  return (
    <Box sx={{ px: 1.5, py: 0.5, borderBottom: 1, borderColor: 'divider', fontSize: 12.5 }}>
      <Box sx={{ display: 'flex', gap: 1.5 }}>
        <Act word={known ? 'Change the note' : 'Note'} onClick={() => setOpen(open === 'note' ? null : 'note')} />
        <Act word="Another item" onClick={() => setOpen(open === 'swap' ? null : 'swap')} />
        <Act word="Another section" onClick={() => setOpen(open === 'section' ? null : 'section')} />
      </Box>
      {known && open !== 'note' && (
        <Box sx={{ fontStyle: 'italic' }}>
          {known.text}{' '}
          <Box component="span" sx={{ color: 'text.secondary', fontStyle: 'normal' }}>
            {known.by} {known.at}
          </Box>
        </Box>
      )}
      {here.map((s) => (
        <Box key={`${s.section}${s.from}`}>
          In place of {s.from},{' '}
          {s.section === undefined ? 'everywhere' : `in ${sections.find((x) => x.id === s.section)?.name ?? s.section}`}{' '}
          <Act word="Back" onClick={() => change.mutate(swapItem(swaps, s.from, s.section ?? null, null))} />
        </Box>
      ))}
      {open === 'note' && <NoteForm key={id} id={id} onDone={() => setOpen(null)} />}
      {open === 'section' && (
        <SectionForm key={`${id}${elementKey}`} line={line} elementKey={elementKey} onDone={() => setOpen(null)} />
      )}
      {open === 'swap' && (
        <SwapForm key={`${id}${elementKey}`} line={line} elementKey={elementKey} onDone={() => setOpen(null)} />
      )}
    </Box>
  );
}

function Act({ word, onClick }: { readonly word: string; readonly onClick: () => void }) {
  return (
    <Button size="small" onClick={onClick} sx={{ p: 0, minWidth: 0, fontSize: 12.5 }}>
      {word}
    </Button>
  );
}

function NoteForm({ id, onDone }: { readonly id: string; readonly onDone: () => void }) {
  const { project, notes } = useProjectState('project', 'notes');
  const change = useCommit(project.id);
  const [text, setText] = useState(notes[id]?.text ?? '');
  const keep = async () => {
    if ((await refusalOf(change.mutateAsync(noteLine(notes, id, text, readAuthorName())))) === null) onDone();
  };
  return (
    <Box sx={{ display: 'grid', gap: 0.75, py: 0.75 }}>
      <TextField
        autoFocus
        multiline
        maxRows={5}
        label="Note on this line"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button variant="contained" disabled={change.isPending} onClick={() => void keep()}>
          Keep
        </Button>
        <Button color="inherit" onClick={onDone}>
          Leave it
        </Button>
      </Box>
    </Box>
  );
}

/** Another work section for what decides about the chosen element; what else the same rule decides goes along, and is said. */
function SectionForm({
  line,
  elementKey,
  onDone,
}: {
  readonly line: PlanLine;
  readonly elementKey: number | null;
  readonly onDone: () => void;
}) {
  const { project, summary } = useProjectState('project', 'summary');
  const { sections, rules, pins } = useBasis('sections', 'rules', 'pins');
  const { data: cost } = useElementCost(project.id, elementKey);
  const change = useCommit(project.id);
  const [to, setTo] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const own = cost?.lines.find((l) => l.code === line.item && l.section === line.section);
  const rule = rules.find((r) => r.id === own?.rule);
  const pin = pins.find((p) => p.element === elementKey && p.section === line.section);
  if (!own || (!rule && !pin))
    return <Box sx={{ py: 0.5, color: 'text.secondary' }}>{own ? 'It is priced by itself; its section is set where it stands.' : 'Choose an element below first: what decides about it is moved.'}</Box>; // biome-ignore format: one sentence
  const keep = async () => {
    const name = sections.find((s) => s.id === to)?.name;
    if (name === undefined) return setProblem('Choose the section.');
    const [kind, from] = pin ? (['pin', pin] as const) : (['rule', rule!] as const);
    const cause = `${pin ? 'A decision by hand' : `Rule ${rule!.name}`} in section ${name}`;
    const refused = await refusalOf(change.mutateAsync({ cause, diff: { updated: [{ kind, id: from.id, from, to: { ...from, section: to } }] } })); // biome-ignore format: one change
    setProblem(refused);
    if (refused === null) onDone();
  };
  const count = rule ? (summary.priced[rule.id] ?? 0) : 1;
  return (
    <Box sx={{ display: 'grid', gap: 0.75, py: 0.75 }}>
      <Box>
        {pin ? 'Of this element only.' : `Of the rule ${rule!.name}: all ${count} elements that it prices go along.`}
      </Box>
      <Select
        value={to}
        displayEmpty
        onChange={(e) => setTo(e.target.value)}
        inputProps={{ 'aria-label': 'Another section' }}
        sx={{ fontSize: 13 }}
      >
        <MenuItem value="" disabled>
          which section
        </MenuItem>
        {sections
          .filter((s) => s.id !== line.section)
          .map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.name}
            </MenuItem>
          ))}
      </Select>
      {problem && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 12.5 }}>
          {problem}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button variant="contained" disabled={change.isPending} onClick={() => void keep()}>
          Move
        </Button>
        <Button color="inherit" onClick={onDone}>
          Leave it
        </Button>
      </Box>
    </Box>
  );
}

/** Another item in place of the line's, and where it is so: said before it is done. */
function SwapForm({
  line,
  elementKey,
  onDone,
}: {
  readonly line: PlanLine;
  readonly elementKey: number | null;
  readonly onDone: () => void;
}) {
  const { project } = useProjectState('project');
  const basis = useBasis('items', 'swaps', 'pins', 'rules', 'sections');
  const { data: cost } = useElementCost(project.id, elementKey);
  const change = useCommit(project.id);
  const [to, setTo] = useState<string | null>(null);
  const [where, setWhere] = useState<Where>('section');
  const [problem, setProblem] = useState<string | null>(null);
  const fitting = basis.items.filter((i) => i.unit === line.unit && i.code !== line.item);
  const sectionName = basis.sections.find((s) => s.id === line.section)?.name ?? line.section ?? '';
  const keep = async () => {
    if (to === null) return setProblem('Choose the item that takes its place.');
    const original = basis.swaps.find((s) => s.to === line.item)?.from ?? line.item;
    const made =
      where === 'element'
        ? swapOnElement(basis, cost ?? null, line, to)
        : swapItem(basis.swaps, original, where === 'section' ? line.section : null, to);
    if (typeof made === 'string') return setProblem(made);
    const refused = await refusalOf(change.mutateAsync(made));
    setProblem(refused);
    if (refused === null) onDone();
  };
  return (
    <Box sx={{ display: 'grid', gap: 0.75, py: 0.75 }}>
      <Autocomplete
        options={fitting.map((i) => i.code)}
        value={to}
        onChange={(_, next) => setTo(next)}
        getOptionLabel={(code) => `${code} ${fitting.find((i) => i.code === code)?.description ?? ''}`}
        renderInput={(params) => <TextField {...params} label={`In place of ${line.item}, in ${line.unit}`} />}
      />
      <Select
        value={where}
        onChange={(e) => setWhere(e.target.value as Where)}
        inputProps={{ 'aria-label': 'Where' }}
        sx={{ fontSize: 13 }}
      >
        <MenuItem value="section">On this line: in {sectionName}</MenuItem>
        <MenuItem value="element" disabled={elementKey === null}>
          On the chosen element only
        </MenuItem>
        <MenuItem value="everywhere">Everywhere in this project</MenuItem>
      </Select>
      {problem && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 12.5 }}>
          {problem}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button variant="contained" disabled={change.isPending} onClick={() => void keep()}>
          Put in its place
        </Button>
        <Button color="inherit" onClick={onDone}>
          Leave it
        </Button>
      </Box>
    </Box>
  );
}

import { Box, Button, TextField } from '@mui/material';
import { type ExplainedQuantity, nameQuantity, type SiUnit } from '@tally/core';
import { type KeyboardEvent, useState } from 'react';
import { setFigure } from '../../store/change-plan.ts';
import { readAuthorName } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { askFigure, editFigure, readFigure, showQuantity, showUnit } from '../../ui/format.ts';
import { useQuestion } from '../../ui/use-question.tsx';

/** So many times more or less than the model says is asked about before it is kept. */
const FAR = 5;

/** A figure of an element set by hand, with the reason; the model's own comes back in one step. */
export function FigureForm({
  elementKey,
  quantity: q,
  onDone,
}: {
  readonly elementKey: number;
  readonly quantity: ExplainedQuantity;
  readonly onDone: () => void;
}) {
  const { project, layer } = useProjectState('project', 'layer');
  const change = useCommit(project.id);
  const known = layer.given[elementKey]?.[q.name];
  const [text, setText] = useState(editFigure(Number(q.value.toPrecision(6))));
  const [reason, setReason] = useState(known?.reason ?? '');
  const [problem, setProblem] = useState<string | null>(null);
  const { ask, dialog } = useQuestion();
  const own = known ? known.was : q.basis === 'given' ? null : q.value;
  const keep = async (value: number | null) => {
    const made = setFigure(
      layer,
      elementKey,
      { name: q.name, unit: q.unit as SiUnit, was: own },
      value,
      reason,
      readAuthorName(),
    );
    const refused = await refusalOf(change.mutateAsync(made));
    setProblem(refused);
    if (refused === null) onDone();
  };
  const save = async () => {
    setProblem(null);
    const unclear = askFigure(text);
    if (unclear) return setProblem(unclear);
    const value = readFigure(text);
    if (value === null || value < 0) return setProblem(`"${text}" is no figure of 0 or more.`);
    if (reason.trim() === '') return setProblem('Say why: whoever reads the plan will ask.');
    const isFar = own !== null && own > 0 && (value > own * FAR || value < own / FAR);
    if (isFar) {
      const isMeant = await ask({
        title: `${showQuantity(value, q.unit)} ${showUnit(q.unit)}?`,
        text: `The model has ${showQuantity(own, q.unit)} ${showUnit(q.unit)}. Is that meant?`,
        yes: 'Keep it',
        no: 'Correct it',
      });
      if (!isMeant) return;
    }
    await keep(value);
  };
  const onEnter = (e: KeyboardEvent) => {
    if (e.key !== 'Enter') return;
    // A question that comes up must not be answered by the same key.
    e.preventDefault();
    void save();
  };
  return (
    <Box sx={{ display: 'grid', gap: 0.75, pb: 1 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', gap: 0.75 }}>
        <TextField
          autoFocus
          label={`${nameQuantity(q.name).word}, ${showUnit(q.unit)}`}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={onEnter}
        />
        <TextField label="Why" value={reason} onChange={(e) => setReason(e.target.value)} onKeyDown={onEnter} />
      </Box>
      {problem && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 12.5 }}>
          {problem}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button variant="contained" disabled={change.isPending} onClick={() => void save()}>
          Set
        </Button>
        {known && (
          <Button color="inherit" disabled={change.isPending} onClick={() => void keep(null)}>
            The model&rsquo;s own again
          </Button>
        )}
        <Button color="inherit" onClick={onDone}>
          Leave it
        </Button>
      </Box>
      {known && (
        <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
          Set by {known.by ?? 'somebody'}
          {known.at ? `, ${known.at}` : ''}; the model had{' '}
          {known.was === null ? 'none' : `${showQuantity(known.was, q.unit)} ${showUnit(q.unit)}`}.
        </Box>
      )}
      {dialog}
    </Box>
  );
}

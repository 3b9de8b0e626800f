import { Autocomplete, Box, Dialog, DialogContent, DialogTitle, MenuItem, TextField } from '@mui/material';
import { type CostItem, codeKey, costItemSchema, ITEM_KINDS, UNIT_SYMBOLS } from '@tally/core';
import { useState } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { askFigure, readFigure } from '../../ui/format.ts';
import { ClassField } from './class-field.tsx';

/** Makes a new cost item. */
export function ItemDialog({ item, onClose }: { readonly item: CostItem; readonly onClose: () => void }) {
  const { project } = useProjectState('project');
  const basis = useBasis('items', 'settings');
  const change = useCommit(project.id);
  const [draft, setDraft] = useState(item);
  const [rate, setRate] = useState(item.rate ?? '');
  const figure = rate.trim() === '' ? null : readFigure(rate);
  const isTaken = basis.items.some((i) => codeKey(i.code) === codeKey(draft.code));
  const tidy = JSON.parse(JSON.stringify(draft)) as CostItem;
  const made = {
    ...(figure === null ? tidy : withoutWorkedOut(tidy)),
    code: draft.code.trim(),
    rate: figure === null ? null : String(figure),
  };
  const checked = costItemSchema.safeParse(made);
  const problem = isTaken
    ? 'There is an item of this code already.'
    : rate.trim() !== '' && figure === null
      ? (askFigure(rate) ?? `"${rate}" is no rate.`)
      : checked.success
        ? null
        : checked.error.issues[0]!.message;
  const save = () =>
    change.mutate(
      {
        cause: `Item added: ${made.code} ${made.description}`,
        diff: { added: [{ kind: 'item', id: made.code, body: made }] },
      },
      { onSuccess: onClose },
    );
  const field = (key: 'description' | 'supplier' | 'source' | 'group', label: string) => (
    <TextField label={label} value={draft[key] ?? ''} onChange={(e) => setDraft({ ...draft, [key]: e.target.value })} />
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>New item</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, pt: '8px !important' }}>
        <TextField
          autoFocus
          label="Code"
          value={draft.code}
          onChange={(e) => setDraft({ ...draft, code: e.target.value })}
        />
        <TextField
          select
          label="Kind"
          value={draft.kind}
          onChange={(e) => setDraft({ ...draft, kind: e.target.value as CostItem['kind'] })}
        >
          {ITEM_KINDS.map((k) => (
            <MenuItem key={k} value={k}>
              {k}
            </MenuItem>
          ))}
        </TextField>
        <Box sx={{ gridColumn: '1 / -1', display: 'grid' }}>{field('description', 'Description')}</Box>
        <Autocomplete
          freeSolo
          disableClearable
          options={UNIT_SYMBOLS}
          inputValue={draft.unit}
          onInputChange={(_, unit) => setDraft({ ...draft, unit })}
          renderInput={(p) => <TextField {...p} label="Unit" />}
        />
        <TextField label={`Rate ${basis.settings.currency}`} value={rate} onChange={(e) => setRate(e.target.value)} />
        {field('group', 'Group')}
        <ClassField classes={draft.classes} onChange={(classes) => setDraft({ ...draft, classes })} />
        {field('supplier', 'Supplier')}
        {field('source', 'Source of the rate')}
        <Box sx={{ gridColumn: '1 / -1', minHeight: 20, fontSize: 13, color: 'error.main' }}>
          {draft.code !== '' ? problem : ''}
        </Box>
      </DialogContent>
      <DialogFoot label="Add the item" isOff={problem !== null || change.isPending} onAct={save} onCancel={onClose} />
    </Dialog>
  );
}

/** An item without what its rate was worked out by, for a plain one to count. */
function withoutWorkedOut({ rateFormula: _, soldAs, ...item }: CostItem): CostItem {
  if (!soldAs) return item;
  const { packPrice: __, lengthPrices: ___, ...sold } = soldAs;
  return { ...item, soldAs: sold };
}

import { zodResolver } from '@hookform/resolvers/zod';
import { Autocomplete, Box, DialogContent, DialogTitle, MenuItem, TextField } from '@mui/material';
import { type CostItem, ITEM_KINDS, UNIT_SYMBOLS } from '@tally/core';
import { useMemo } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { FormDialog } from '../../ui/form-dialog.tsx';
import { FormText } from '../../ui/form-text.tsx';
import { ClassField } from './class-field.tsx';
import { fillItemForm, type ItemForm, itemFormSchema } from './item-form.ts';

/** Makes a new cost item. */
export function ItemDialog({ item, onClose }: { readonly item: CostItem; readonly onClose: () => void }) {
  const { project } = useProjectState('project');
  const { items, settings } = useBasis('items', 'settings');
  const commit = useCommit(project.id);
  const schema = useMemo(() => itemFormSchema(item, items), [item, items]);
  const { control, handleSubmit, formState } = useForm<ItemForm, unknown, CostItem>({
    defaultValues: fillItemForm(item),
    resolver: zodResolver(schema) as never,
    mode: 'onChange',
  });
  const save = handleSubmit((made) =>
    commit.mutate(
      {
        cause: `Item added: ${made.code} ${made.description}`,
        diff: { added: [{ kind: 'item', id: made.code, body: made }] },
      },
      { onSuccess: onClose },
    ),
  );
  return (
    <FormDialog onClose={onClose} maxWidth="sm">
      <DialogTitle>New item</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, pt: '8px !important' }}>
        <FormText control={control} name="code" label="Code" autoFocus />
        <FormText control={control} name="kind" label="Kind" select>
          {ITEM_KINDS.map((k) => (
            <MenuItem key={k} value={k}>
              {k}
            </MenuItem>
          ))}
        </FormText>
        <Box sx={{ gridColumn: '1 / -1', display: 'grid' }}>
          <FormText control={control} name="description" label="Description" />
        </Box>
        <Controller
          control={control}
          name="unit"
          render={({ field, fieldState: { error } }) => (
            <Autocomplete
              freeSolo
              disableClearable
              options={UNIT_SYMBOLS}
              inputValue={field.value}
              onInputChange={(_, unit) => field.onChange(unit)}
              renderInput={(p) => (
                <TextField {...p} label="Unit" error={error !== undefined} helperText={error?.message} />
              )}
            />
          )}
        />
        <FormText control={control} name="rate" label={`Rate ${settings.currency}`} />
        <FormText control={control} name="group" label="Group" />
        <Controller
          control={control}
          name="classes"
          render={({ field }) => <ClassField classes={field.value} onChange={(next) => field.onChange(next ?? {})} />}
        />
        <FormText control={control} name="supplier" label="Supplier" />
        <FormText control={control} name="source" label="Source of the rate" />
      </DialogContent>
      <DialogFoot
        label="Add the item"
        isOff={!formState.isValid || commit.isPending}
        onAct={() => void save()}
        onCancel={onClose}
      />
    </FormDialog>
  );
}

import { TextField, type TextFieldProps } from '@mui/material';
import { type Control, Controller, type FieldPath, type FieldValues } from 'react-hook-form';

/** A text of a form, with what is wrong with it beneath; with `select` one of the choices given as its children. */
export function FormText<T extends FieldValues>({
  control,
  name,
  helperText,
  ...field
}: { readonly control: Control<T, unknown, unknown>; readonly name: FieldPath<T> } & Omit<
  TextFieldProps,
  'name' | 'value' | 'onChange' | 'error'
>) {
  return (
    <Controller
      control={control as Control<T>}
      name={name}
      render={({ field: { ref, value, ...own }, fieldState: { error, isDirty } }) => (
        <TextField
          {...field}
          {...own}
          inputRef={ref}
          value={value ?? ''}
          error={isDirty && error !== undefined}
          helperText={isDirty && error ? error.message : helperText}
        />
      )}
    />
  );
}

import { Autocomplete, TextField } from '@mui/material';
import { type ClassCodes, findClass, readClassCode, setClassCode, showClass } from '@tally/core';
import { useClassification } from '../../store/use-elements.ts';

/** The class of an item or assembly in the classification in use, picked by code or words. */
export function ClassField({
  classes,
  onChange,
}: {
  readonly classes: ClassCodes | undefined;
  readonly onChange: (classes: ClassCodes | undefined) => void;
}) {
  const classification = useClassification();
  const code = readClassCode(classes, classification);
  const chosen = code === null ? null : (findClass(classification, code) ?? { code, title: '' });
  return (
    <Autocomplete
      options={classification.classes}
      value={chosen}
      getOptionKey={(c) => c.code}
      getOptionLabel={showClass}
      isOptionEqualToValue={(a, b) => a.code === b.code}
      onChange={(_, next) => onChange(setClassCode(classes, classification, next?.code ?? null))}
      renderInput={(p) => <TextField {...p} label={`Class, ${classification.name}`} />}
    />
  );
}

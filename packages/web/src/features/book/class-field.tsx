import { Autocomplete, TextField } from '@mui/material';
import { type ClassCodes, chooseClassification, findClass, readClassCode, showClass } from '@tally/core';
import { useProjectState } from '../../api/project-context.tsx';

/** The class of an item or assembly in the classification in use, picked by code or words. */
export function ClassField({
  classes,
  onChange,
}: {
  readonly classes: ClassCodes | undefined;
  readonly onChange: (classes: ClassCodes | undefined) => void;
}) {
  const { basis, classifications } = useProjectState();
  const classification = chooseClassification(basis.settings.classification, classifications);
  const { name } = classification;
  const code = readClassCode(classes, classification);
  const chosen = code === null ? null : (findClass(classification, code) ?? { code, title: '' });
  return (
    <Autocomplete
      options={classification.classes}
      value={chosen}
      getOptionKey={(c) => c.code}
      getOptionLabel={showClass}
      isOptionEqualToValue={(a, b) => a.code === b.code}
      onChange={(_, next) => {
        const { [name]: __, ...others } = classes ?? {};
        const all = next ? { ...others, [name]: next.code } : others;
        onChange(Object.keys(all).length > 0 ? all : undefined);
      }}
      renderInput={(p) => <TextField {...p} label={`Class, ${name}`} />}
    />
  );
}

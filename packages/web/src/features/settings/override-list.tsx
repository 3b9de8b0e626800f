import { Box, Button, MenuItem, TextField } from '@mui/material';
import { describeCondition, nameQuantity, type QuantityOverride, sayInWords } from '@tally/core';
import { useState } from 'react';
import { useElements, useSample } from '../../store/use-elements.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { useOneAtATime } from '../../ui/use-one-at-a-time.ts';
import { ChoiceField } from './choice-field.tsx';
import { CHOICE_WORDS } from './choice-words.ts';
import { useSettings } from './settings-part.tsx';

/** Which figure is used for some elements only, each by a scope; the first that catches an element counts. */
export function OverrideList({ names }: { readonly names: readonly string[] }) {
  const [settings, save] = useSettings();
  const { tables } = useElements();
  const sample = useSample();
  const list = settings.quantityOverrides ?? [];
  const [draft, setDraft] = useState<QuantityOverride | null>(null);
  const set = (quantityOverrides: readonly QuantityOverride[], cause: string) =>
    save(JSON.parse(JSON.stringify({ ...settings, quantityOverrides })), cause);
  const keep = useOneAtATime(async (made: QuantityOverride) => {
    const cause = `${nameQuantity(made.quantity).word}: ${CHOICE_WORDS[made.choice].toLowerCase()}, for some elements`;
    // What is refused stays as it was typed.
    if ((await set([...list, made], cause)) === null) setDraft(null);
  });
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {list.map((o, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13 }}>
          <Box sx={{ flex: 1 }}>
            {nameQuantity(o.quantity).word}: {CHOICE_WORDS[o.choice].toLowerCase()}, where{' '}
            {sayInWords(describeCondition(o.scope))}
          </Box>
          <Button
            color="inherit"
            onClick={() =>
              void set(
                list.filter((_, n) => n !== i),
                `${nameQuantity(o.quantity).word}: exception removed`,
              )
            }
          >
            Remove
          </Button>
        </Box>
      ))}
      {draft ? (
        <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
          <TextField
            select
            label="Quantity"
            value={draft.quantity}
            onChange={(e) => setDraft({ ...draft, quantity: e.target.value })}
          >
            {names.map((n) => (
              <MenuItem key={n} value={n} title={n}>
                {nameQuantity(n).word}
              </MenuItem>
            ))}
          </TextField>
          <ChoiceField label="Figure" value={draft.choice} onChoose={(choice) => setDraft({ ...draft, choice })} />
          <ConditionEditor
            scope={draft.scope}
            tables={tables}
            sample={sample}
            onChange={(scope) => setDraft({ ...draft, scope })}
          />
          <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end' }}>
            <Button color="inherit" onClick={() => setDraft(null)}>
              Cancel
            </Button>
            <Button variant="contained" disabled={draft.quantity === ''} onClick={() => keep(draft)}>
              Keep the exception
            </Button>
          </Box>
        </Box>
      ) : (
        <Box>
          <Button
            onClick={() =>
              setDraft({ quantity: '', choice: 'stated', scope: { field: 'class', op: 'is', value: 'IfcWall' } })
            }
          >
            Add an exception
          </Button>
        </Box>
      )}
    </Box>
  );
}

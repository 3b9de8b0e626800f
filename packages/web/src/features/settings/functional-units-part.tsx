import { Box, Button, TextField } from '@mui/material';
import { type Condition, evaluateScope } from '@tally/core';
import { useState } from 'react';
import { useElements, useSample } from '../../store/use-elements.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { useOneAtATime } from '../../ui/use-one-at-a-time.ts';
import { ScopeRow } from './scope-row.tsx';
import { Part, useSettings } from './settings-part.tsx';

/** What is counted for costs per unit, each by a scope. */
export function FunctionalUnitsPart() {
  const [settings, save] = useSettings();
  const { tables } = useElements();
  const sample = useSample();
  const units = settings.functionalUnits ?? [];
  const [draft, setDraft] = useState<{ at: number; name: string; scope: Condition } | null>(null);
  const count = (scope: Condition) =>
    tables.reduce((n, t) => n + evaluateScope(scope, t).reduce((sum, hit) => sum + hit, 0), 0);
  const set = (list: typeof units, cause: string) => save({ ...settings, functionalUnits: list }, cause);
  const keep = useOneAtATime(async ({ at, name, scope }: NonNullable<typeof draft>) => {
    const unit = { name: name.trim(), scope: JSON.parse(JSON.stringify(scope)) as Condition };
    const next = [...units.slice(0, at), unit, ...units.slice(at + 1)];
    // What is refused stays as it was typed.
    if ((await set(next, `Functional unit: ${unit.name}`)) === null) setDraft(null);
  });
  return (
    <Part title="Functional units" note="What is counted for costs per unit: rooms of a use, seats, boat racks.">
      {units.map((unit, i) => (
        <ScopeRow
          key={unit.name}
          name={unit.name}
          scope={unit.scope}
          count={count(unit.scope)}
          onChange={() => setDraft({ at: i, ...unit })}
          onRemove={() =>
            void set(
              units.filter((_, n) => n !== i),
              `Functional unit removed: ${unit.name}`,
            )
          }
        />
      ))}
      {draft ? (
        <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
          <TextField
            label="Name of the unit"
            value={draft.name}
            onChange={(e) => setDraft({ ...draft, name: e.target.value })}
          />
          <ConditionEditor
            scope={draft.scope}
            tables={tables}
            sample={sample}
            onChange={(scope) => setDraft({ ...draft, scope })}
          />
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Box sx={{ flex: 1, fontSize: 13 }}>{count(draft.scope)} counted</Box>
            <Button color="inherit" onClick={() => setDraft(null)}>
              Cancel
            </Button>
            <Button
              variant="contained"
              disabled={
                draft.name.trim() === '' || units.some((u, i) => i !== draft.at && u.name === draft.name.trim())
              }
              onClick={() => keep(draft)}
            >
              Keep the unit
            </Button>
          </Box>
        </Box>
      ) : (
        <Box>
          <Button
            onClick={() =>
              setDraft({ at: units.length, name: '', scope: { field: 'class', op: 'is', value: 'IfcSpace' } })
            }
          >
            Add a unit
          </Button>
        </Box>
      )}
    </Part>
  );
}

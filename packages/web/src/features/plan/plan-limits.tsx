import { Box, Button, Checkbox, FormControlLabel } from '@mui/material';
import { type Condition, type PlanView, readText } from '@tally/core';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { useElements, useSample } from '../../store/use-elements.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { SheetButton } from '../../ui/sheet-button.tsx';

/** Selected elements that the plan can be limited to: they stand in the address. */
const MOST_SELECTED = 60;
const FIRST: Condition = { field: 'storey', op: 'is', value: '' };

/** What the plan is limited to: elements that a condition catches, chosen sources. Its total is then of what is shown. */
export function PlanLimits({
  view,
  onChange,
}: {
  readonly view: PlanView;
  readonly onChange: (view: PlanView) => void;
}) {
  const { sources, layer } = useProjectState('sources', 'layer');
  const { scopes } = useBasis('scopes');
  const { tables } = useElements();
  const sample = useSample();
  const { keys } = useSelection();
  const { find } = useElements();
  const identities = [...keys].slice(0, MOST_SELECTED).flatMap((key) => {
    const place = find(key);
    return place ? [readText(place.model.table.identity, place.row) ?? ''] : [];
  });
  const { scope, sources: chosen, ...others } = view;
  const set = (next: Pick<PlanView, 'scope' | 'sources'>) =>
    onChange({
      ...others,
      ...(next.scope ? { scope: next.scope } : {}),
      ...(next.sources && next.sources.length > 0 ? { sources: next.sources } : {}),
    });
  const count = (scope ? 1 : 0) + (chosen ? 1 : 0);
  const all = [
    ...sources.map((s) => ({ id: s.id, name: s.name })),
    ...(Object.keys(layer.drawnRooms).length > 0 ? [{ id: 'drawn', name: 'Rooms drawn here' }] : []),
    ...(Object.keys(layer.allowances).length > 0 ? [{ id: 'allowances', name: 'Allowances' }] : []),
  ];
  return (
    <SheetButton label="Limits" count={count}>
      <Box sx={{ display: 'grid', gap: 1 }}>
        {scope ? (
          <ConditionEditor
            scope={scope}
            scopes={scopes}
            tables={tables}
            sample={sample}
            onChange={(next) => set({ scope: next, sources: chosen })}
          />
        ) : (
          <Box>
            <Button onClick={() => set({ scope: FIRST, sources: chosen })}>
              Only elements of a kind, storey, zone …
            </Button>
          </Box>
        )}
        {identities.length > 0 && (
          <Box>
            <Button
              onClick={() => set({ scope: { field: 'globalId', op: 'oneOf', values: identities }, sources: chosen })}
              disabled={keys.size > MOST_SELECTED}
              title={keys.size > MOST_SELECTED ? `Of up to ${MOST_SELECTED} elements` : undefined}
            >
              Only what is selected ({keys.size})
            </Button>
          </Box>
        )}
        {all.length > 1 && (
          <Box role="group" aria-label="Sources" sx={{ display: 'flex', flexWrap: 'wrap' }}>
            {all.map(({ id, name }) => (
              <FormControlLabel
                key={id}
                control={
                  <Checkbox
                    size="small"
                    checked={chosen ? chosen.includes(id) : true}
                    onChange={(e) => {
                      const now = chosen ?? all.map((s) => s.id);
                      const next = e.target.checked ? [...now, id] : now.filter((s) => s !== id);
                      set({ scope, sources: next.length === all.length ? undefined : next });
                    }}
                  />
                }
                label={name}
                slotProps={{ typography: { sx: { fontSize: 13 } } }}
              />
            ))}
          </Box>
        )}
        {count > 0 && (
          <Box>
            <Button color="inherit" onClick={() => set({})}>
              Everything
            </Button>
          </Box>
        )}
      </Box>
    </SheetButton>
  );
}

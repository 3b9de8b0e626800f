import { Box, Button, TextField } from '@mui/material';
import { listEffectiveQuantities, readText } from '@tally/core';
import { useMemo, useState } from 'react';
import { renameZone } from '../../store/change-layer.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showSiText } from '../../ui/format.ts';
import { Part } from './settings-part.tsx';

interface ZoneRow {
  readonly name: string;
  readonly elements: number;
  /** Floor of its rooms, m2. */
  readonly floorM2: number;
  /** Rooms in it whose floor is not known. */
  readonly unmeasured: number;
  /** Elements that were put into it here. */
  readonly givenHere: number;
}

/** Zones of the models and of our own, with what lies in them; those of our own are renamed and removed here. */
export function ZonesPart() {
  const { project, layer } = useProjectState('project', 'layer');
  const basis = useBasis('settings');
  const { models } = useElements();
  const change = useCommit(project.id);
  const [renaming, setRenaming] = useState<{ name: string; text: string } | null>(null);
  const rows = useMemo((): ZoneRow[] => {
    const byName = new Map<string, ZoneRow>();
    const own = Object.values(layer.zones).flat();
    for (const { table } of models) {
      const floors = listEffectiveQuantities(table).get('netfloorarea');
      for (let row = 0; row < table.count; row++) {
        for (let i = table.zones.offset[row]!; i < table.zones.offset[row + 1]!; i++) {
          const name = table.zones.pool[table.zones.index[i]!]!;
          const known = byName.get(name) ?? { name, elements: 0, floorM2: 0, unmeasured: 0, givenHere: own.filter((z) => z === name).length }; // biome-ignore format: one row
          const floor = floors?.values[row] ?? Number.NaN;
          byName.set(name, {
            ...known,
            elements: known.elements + 1,
            floorM2: known.floorM2 + (Number.isNaN(floor) ? 0 : floor),
            unmeasured: known.unmeasured + Number(Number.isNaN(floor) && readText(table.ifcClass, row) === 'IfcSpace'),
          });
        }
      }
    }
    return [...byName.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
  }, [models, layer.zones]);
  const keepName = () => {
    const to = renaming?.text.trim() ?? '';
    if (change.isPending) return;
    // What is refused stays as it was typed.
    const onSuccess = () => setRenaming(null);
    if (renaming && to !== '' && to !== renaming.name)
      change.mutate(renameZone(layer, renaming.name, to), { onSuccess });
    else setRenaming(null);
  };
  return (
    <Part
      title="Zones"
      note="They group and filter like storeys. Elements are put into zones of our own in the model, many at once."
    >
      {rows.length === 0 && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>No zones yet.</Box>}
      {rows.map((zone) => (
        <Box
          key={zone.name}
          sx={{
            display: 'grid',
            gridTemplateColumns: '1fr auto 96px 150px',
            gap: 2,
            alignItems: 'center',
            fontSize: 13,
            minHeight: 30,
          }}
        >
          {renaming?.name === zone.name ? (
            <TextField
              autoFocus
              value={renaming.text}
              slotProps={{ htmlInput: { 'aria-label': 'New name of the zone' } }}
              onChange={(e) => setRenaming({ ...renaming, text: e.target.value })}
              onBlur={keepName}
              onKeyDown={(e) => {
                if (e.key === 'Escape') setRenaming(null);
                if (e.key === 'Enter') keepName();
              }}
            />
          ) : (
            <Box sx={{ fontWeight: 600 }}>{zone.name}</Box>
          )}
          <Box sx={{ color: 'text.secondary' }}>
            {zone.elements === 1 ? 'one element' : `${zone.elements} elements`}
            {zone.givenHere === 0
              ? ', from the model'
              : zone.givenHere < zone.elements
                ? `, ${zone.givenHere} of them put in here`
                : ', put in here'}
            {zone.unmeasured > 0 &&
              `, the floor of ${zone.unmeasured === 1 ? 'one room' : `${zone.unmeasured} rooms`} not measured`}
          </Box>
          <Box sx={{ fontFamily: FIGURES, textAlign: 'right' }}>
            {zone.floorM2 > 0 ? showSiText(zone.floorM2, 'm2', basis.settings.units) : ''}
          </Box>
          <Box sx={{ textAlign: 'right' }}>
            {zone.givenHere > 0 && (
              <>
                <Button onClick={() => setRenaming({ name: zone.name, text: zone.name })}>Rename</Button>
                <Button color="inherit" onClick={() => change.mutate(renameZone(layer, zone.name, null))}>
                  Remove
                </Button>
              </>
            )}
          </Box>
        </Box>
      ))}
    </Part>
  );
}

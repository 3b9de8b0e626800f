import { Box, Button, MenuItem, TextField } from '@mui/material';
import { listEffectiveQuantities } from '@tally/core';
import { useState } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { usePreview } from '../../store/use-preview.ts';
import { askFigure, echoFigure, readFigure, showMove, showQuantity, showUnit } from '../../ui/format.ts';
import { priceElement } from './price-element.ts';

/** Quantities that somebody would price an element by, those that say most first. */
const DRIVERS = ['Count', 'NetSideArea', 'NetArea', 'NetFloorArea', 'Length', 'NetVolume', 'Weight'];

/** A rate typed on an element that nothing prices: an item of this project and the decision for it, in one step. */
export function PriceForm({ elementKey, name }: { readonly elementKey: number; readonly name: string }) {
  const { project, basis, money } = useProjectState('project', 'basis', 'money');
  const { find } = useElements();
  const change = useCommit(project.id);
  const place = find(elementKey);
  const drivers = DRIVERS.flatMap((driver) => {
    const column = place && listEffectiveQuantities(place.model.table).get(driver.toLowerCase());
    const value = column?.values[place!.row];
    return column && value !== undefined && value > 0 ? [{ driver, unit: column.unit, value }] : [];
  });
  const [rate, setRate] = useState('');
  const [driver, setDriver] = useState(drivers[0]?.driver ?? '');
  const [section, setSection] = useState(basis.sections[0]?.id ?? '');
  const by = drivers.find((d) => d.driver === driver);
  const figure = readFigure(rate);
  const made =
    by && figure !== null && figure >= 0 && section !== ''
      ? priceElement({ elementKey, name, section, driver, unit: by.unit, rate: String(figure) }, basis)
      : null;
  const move = usePreview(project.id, made?.diff ?? null);
  if (drivers.length === 0 || basis.sections.length === 0) return null;
  return (
    <Box role="group" aria-label="Price this element" sx={{ display: 'grid', gap: 1, pt: 1 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '90px 1fr', gap: 1 }}>
        <TextField
          label={`Rate ${money.currency}`}
          value={rate}
          error={rate.trim() !== '' && !(figure !== null && figure >= 0)}
          helperText={askFigure(rate) ?? echoFigure(rate)}
          onChange={(e) => setRate(e.target.value)}
        />
        <TextField select label="For each" value={driver} onChange={(e) => setDriver(e.target.value)}>
          {drivers.map((d) => (
            <MenuItem key={d.driver} value={d.driver}>
              {showUnit(d.unit)}, {d.driver} {showQuantity(d.value, d.unit)}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1, alignItems: 'center' }}>
        <TextField select label="Work section" value={section} onChange={(e) => setSection(e.target.value)}>
          {basis.sections.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.name}
            </MenuItem>
          ))}
        </TextField>
        <Button variant="contained" disabled={!made || change.isPending} onClick={() => made && change.mutate(made)}>
          {made && move ? `Price it, ${showMove(move.move, money.minorDigits)}` : 'Price it'}
        </Button>
      </Box>
    </Box>
  );
}

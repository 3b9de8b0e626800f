import { zodResolver } from '@hookform/resolvers/zod';
import { Box, Button, MenuItem } from '@mui/material';
import { listEffectiveQuantities, type SiUnit } from '@tally/core';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { usePreview } from '../../store/use-preview.ts';
import { figureText } from '../../ui/figure-text.ts';
import { FormText } from '../../ui/form-text.tsx';
import { echoFigure, showMove, showQuantity, showUnit } from '../../ui/format.ts';
import { priceElement } from './price-element.ts';

/** Quantities that somebody would price an element by, those that say most first. */
const DRIVERS = ['Count', 'NetSideArea', 'NetArea', 'NetFloorArea', 'Length', 'NetVolume', 'Weight'];

const formSchema = z.object({
  rate: figureText('rate', (figure) => figure >= 0),
  driver: z.string(),
  section: z.string().min(1),
});
type PricedBy = z.infer<typeof formSchema>;

/** A rate typed on an element that nothing prices: an item of this project and the decision for it, in one step. */
export function PriceForm({ elementKey, name }: { readonly elementKey: number; readonly name: string }) {
  const { basis } = useProjectState('basis');
  const { find } = useElements();
  const place = find(elementKey);
  const drivers = DRIVERS.flatMap((driver): Driver[] => {
    const column = place && listEffectiveQuantities(place.model.table).get(driver.toLowerCase());
    const value = column?.values[place!.row];
    return column && value !== undefined && value > 0 ? [{ driver, unit: column.unit, value }] : [];
  });
  // The form begins with what the element has: before its model is read there is nothing to begin with.
  if (drivers.length === 0 || basis.sections.length === 0) return null;
  return <PriceFields elementKey={elementKey} name={name} drivers={drivers} />;
}

/** A figure that an element can be priced by. */
interface Driver {
  readonly driver: string;
  readonly unit: SiUnit;
  readonly value: number;
}

function PriceFields({
  elementKey,
  name,
  drivers,
}: {
  readonly elementKey: number;
  readonly name: string;
  readonly drivers: readonly Driver[];
}) {
  const { project, basis, money } = useProjectState('project', 'basis', 'money');
  const change = useCommit(project.id);
  const { control, watch, handleSubmit } = useForm<
    { rate: string; driver: string; section: string },
    unknown,
    PricedBy
  >({
    defaultValues: { rate: '', driver: drivers[0]?.driver ?? '', section: basis.sections[0]?.id ?? '' },
    resolver: zodResolver(formSchema) as never,
    mode: 'onChange',
  });
  const make = ({ rate, driver, section }: PricedBy) => {
    const by = drivers.find((d) => d.driver === driver);
    return by && rate !== null ? priceElement({ elementKey, name, section, driver, unit: by.unit, rate }, basis) : null;
  };
  const typed = formSchema.safeParse(watch());
  const made = typed.success ? make(typed.data) : null;
  const save = handleSubmit((form) => {
    const priced = make(form);
    if (priced) change.mutate(priced);
  });
  const move = usePreview(project.id, made?.diff ?? null);
  return (
    <Box role="group" aria-label="Price this element" sx={{ display: 'grid', gap: 1, pt: 1 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '90px 1fr', gap: 1 }}>
        <FormText
          control={control}
          name="rate"
          label={`Rate ${money.currency}`}
          helperText={echoFigure(watch('rate'))}
        />
        <FormText control={control} name="driver" label="For each" select>
          {drivers.map((d) => (
            <MenuItem key={d.driver} value={d.driver}>
              {showUnit(d.unit)}, {d.driver} {showQuantity(d.value, d.unit)}
            </MenuItem>
          ))}
        </FormText>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1, alignItems: 'center' }}>
        <FormText control={control} name="section" label="Work section" select>
          {basis.sections.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.name}
            </MenuItem>
          ))}
        </FormText>
        <Button variant="contained" disabled={!made || change.isPending} onClick={() => void save()}>
          {made && move ? `Price it, ${showMove(move.move, money.minorDigits)}` : 'Price it'}
        </Button>
      </Box>
    </Box>
  );
}

import { costItemSchema, pinSchema } from '@tally/core';
import { priceElement } from './price-element.ts';

const typed = { elementKey: 7, name: 'Boat rack', section: 'fittings', driver: 'Count', unit: 'each', rate: '640' };

it('makes an item of the project and a decision for the element in one change', () => {
  const { cause, diff } = priceElement(typed, { items: [], pins: [] });
  expect(cause).toBe('Boat rack priced by hand: 640 per each');
  const [item, pin] = diff.added!;
  expect(costItemSchema.parse(item!.body)).toMatchObject({ code: 'E-7', rate: '640', unit: 'each' });
  expect(pinSchema.parse(pin!.body)).toMatchObject({ element: 7, section: 'fittings', item: 'E-7', driver: 'Count' });
});
it('takes no code that is there', () => {
  const taken = { code: 'e-7', description: '', kind: 'material', unit: 'm', rate: null } as const;
  const { diff } = priceElement(typed, {
    items: [taken],
    pins: [{ id: 'hand-7-fittings', element: 7, section: 'fittings', leaveOut: 'x' }],
  });
  expect(diff.added!.map((e) => e.id)).toEqual(['E-7-2', 'hand-7-fittings-2']);
});

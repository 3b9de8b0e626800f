import { type CostItem, codeKey, type EntryDiff, type ProjectStateDto } from '@tally/core';

/** What somebody types on an element to price it. */
export interface TypedPrice {
  readonly elementKey: number;
  readonly name: string;
  readonly section: string;
  /** Quantity it goes by, with its unit. */
  readonly driver: string;
  readonly unit: string;
  /** Decimal with a point. */
  readonly rate: string;
}

/** The one change that prices an element by hand: an item of this project, and the decision that it is priced with it. */
export function priceElement(
  { elementKey, name, section, driver, unit, rate }: TypedPrice,
  { items, pins }: Pick<ProjectStateDto['basis'], 'items' | 'pins'>,
): { readonly cause: string; readonly diff: Partial<EntryDiff> } {
  const free = (wanted: string, isTaken: (id: string) => boolean): string => {
    for (let n = 1; ; n++) {
      const id = n === 1 ? wanted : `${wanted}-${n}`;
      if (!isTaken(id)) return id;
    }
  };
  const code = free(`E-${elementKey}`, (id) => items.some((i) => codeKey(i.code) === codeKey(id)));
  const pin = free(`hand-${elementKey}-${section}`.slice(0, 56), (id) => pins.some((p) => p.id === id));
  const item: CostItem = {
    code,
    description: name,
    kind: 'material',
    unit,
    rate,
    group: 'Of this project',
    source: 'Typed on the element',
  };
  return {
    cause: `${name} priced by hand: ${rate} per ${unit}`,
    diff: {
      added: [
        { kind: 'item', id: code, body: item },
        { kind: 'pin', id: pin, body: { id: pin, element: elementKey, section, item: code, driver } },
      ],
    },
  };
}

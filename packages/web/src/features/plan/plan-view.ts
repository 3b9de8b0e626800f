import { type Condition, conditionSchema, GROUP_FIELDS, type GroupField, PLAN_ROWS, type PlanRows, type PlanView, readGroupField } from '@tally/core'; // biome-ignore format: one module

/** How one looks at the plan as it stands in the address: fields with commas between, what a row is, limits as JSON. */
export const FIRST_LOOK = { by: 'section', rows: 'item', only: '', sources: '' };
export type PlanLook = typeof FIRST_LOOK;

/** Ready ways to break a plan down. */
export const READY_LOOKS: readonly { readonly name: string; readonly by: readonly GroupField[] }[] = [
  { name: 'By work section', by: ['section'] },
  { name: 'Elemental', by: ['code1', 'code2'] },
  { name: 'By storey', by: ['storey', 'section'] },
  { name: 'By trade', by: ['section', 'item'] },
  { name: 'By kind of cost', by: ['kind'] },
  { name: 'By supplier', by: ['supplier', 'item'] },
  { name: 'By room', by: ['room', 'section'] },
  { name: 'By price class', by: ['itemClass1', 'itemClass2'] },
];

/** Fields in an address; each is written so that a comma in a name is no end of it. */
export const writeLevels = (by: readonly GroupField[]): string =>
  by.length === 0 ? 'none' : by.map((f) => f.replaceAll(',', '%2C')).join();

export function readLevels(text: string): GroupField[] {
  const fields = text.split(',').flatMap((part) => readGroupField(part.replaceAll('%2C', ',')) ?? []);
  return fields.filter((f, i) => fields.indexOf(f) === i);
}

/** The view that a look asks for; limits that cannot be read are none. */
export function readLook({ by, rows, only, sources }: PlanLook): PlanView {
  const scope = readScope(only);
  return {
    by: readLevels(by),
    ...(rows !== 'item' && PLAN_ROWS.includes(rows as PlanRows) ? { rows: rows as PlanRows } : {}),
    ...(scope ? { scope } : {}),
    ...(sources === '' ? {} : { sources: sources.split(',') }),
  };
}

export function readScope(text: string): Condition | null {
  try {
    const read = conditionSchema.safeParse(text === '' ? null : JSON.parse(text));
    return read.success ? (read.data as Condition) : null;
  } catch {
    return null;
  }
}

/** The look that a view is. */
export const writeLook = ({ by, rows, scope, sources }: PlanView): PlanLook => ({
  by: writeLevels(by.flatMap((f) => readGroupField(f) ?? [])),
  rows: rows ?? 'item',
  only: scope ? JSON.stringify(scope) : '',
  sources: sources?.join() ?? '',
});

/** Fields that a level may be set to: those that are always there, then attributes given here. */
export const listFields = (attributes: readonly string[]): GroupField[] => [
  ...GROUP_FIELDS,
  ...attributes.map((name): GroupField => `attribute:${name}`),
];

/** What a row of a takeoff table is. */
export const TAKEOFF_ROWS = [
  'element',
  'room',
  'finish',
  'layer',
  'opening',
  'face',
  'junction',
  'material',
  'type',
] as const;
export type TakeoffRowKind = (typeof TAKEOFF_ROWS)[number];

import type { TakeoffView } from '@tally/core';

type Ready = Omit<TakeoffView, 'columns'> & { readonly columns: readonly string[] };

const READY: readonly Ready[] = [
  {
    name: 'Elements by storey and class',
    row: 'element',
    scope: null,
    columns: ['name', 'type', 'count', 'q:Length', 'q:NetSideArea', 'q:NetArea', 'q:NetVolume'],
    groups: ['storey', 'class'],
    sort: null,
    isBundled: false,
  },
  {
    name: 'Walls by type',
    row: 'element',
    scope: { field: 'class', op: 'is', value: 'IfcWall' },
    columns: ['type', 'count', 'q:Length', 'q:NetSideArea', 'q:Corners', 'q:Tees', 'q:FreeEnds', 'q:Jambs'],
    groups: ['storey'],
    sort: null,
    isBundled: true,
  },
  {
    name: 'Rooms by floor finish',
    row: 'room',
    scope: null,
    columns: [
      'name',
      'storey',
      'q:NetFloorArea',
      'q:NetWallArea',
      'q:NetPerimeter',
      'finish:floor',
      'finish:wall',
      'finish:skirting',
    ],
    groups: ['finish:floor'],
    sort: null,
    isBundled: false,
  },
  {
    name: 'Materials and what they amount to',
    row: 'material',
    scope: null,
    columns: ['layer.material', 'layer.thickness', 'layer.area', 'layer.volume', 'layer.weight'],
    groups: [],
    sort: { field: 'layer.material', isDescending: false },
    isBundled: true,
  },
  {
    name: 'Types and what they amount to',
    row: 'type',
    scope: null,
    columns: ['class', 'type', 'count', 'q:Length', 'q:NetSideArea', 'q:NetArea', 'q:NetVolume'],
    groups: [],
    sort: { field: 'class', isDescending: false },
    isBundled: true,
  },
  {
    name: 'Openings by size',
    row: 'opening',
    scope: null,
    columns: [
      'opening.filledBy',
      'opening.width',
      'opening.height',
      'opening.sill',
      'count',
      'opening.area',
      'opening.perimeter',
    ],
    groups: ['storey'],
    sort: null,
    isBundled: true,
  },
  {
    name: 'How walls meet',
    row: 'junction',
    scope: null,
    columns: ['junction.types', 'junction.kind', 'count'],
    groups: ['storey'],
    sort: null,
    isBundled: true,
  },
];

/** Tables that every project has. */
export const READY_VIEWS: readonly TakeoffView[] = READY.map((v) => ({
  ...v,
  columns: v.columns.map((field) => ({ field })),
}));

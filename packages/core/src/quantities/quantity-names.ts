import type { SiUnit } from '../units/branded.ts';

/** What a quantity is, for formulas, pick lists and the documentation. */
export interface QuantityDefinition {
  readonly name: string;
  readonly unit: SiUnit;
  readonly meaning: string;
}

/** Quantities that formulas know by name. Names and meanings are those of the IFC quantity sets (Qto_*BaseQuantities). */
export const QUANTITY_DEFINITIONS: readonly QuantityDefinition[] = [
  { name: 'Count', unit: 'each', meaning: 'One per element.' },
  {
    name: 'Length',
    unit: 'm',
    meaning: 'Along the axis or the direction of extrusion; the longer horizontal side of plates and footings.',
  },
  {
    name: 'Width',
    unit: 'm',
    meaning:
      'Thickness of a wall; the shorter horizontal side of plates and footings; clear width of a door or window.',
  },
  { name: 'Height', unit: 'm', meaning: 'Upward extent of a wall, footing, room, door, window or other body.' },
  { name: 'Depth', unit: 'm', meaning: 'Thickness of a slab, covering or plate, square to its face.' },
  {
    name: 'Perimeter',
    unit: 'm',
    meaning: 'Outer boundary of a slab or covering; 2 x (width + height) of a door or window.',
  },
  { name: 'GrossSideArea', unit: 'm2', meaning: 'Wall seen from the side, one face, openings not deducted.' },
  { name: 'NetSideArea', unit: 'm2', meaning: 'Wall seen from the side, one face, openings deducted.' },
  { name: 'GrossFootprintArea', unit: 'm2', meaning: 'Wall seen from above.' },
  { name: 'GrossArea', unit: 'm2', meaning: 'Face of a slab, covering or plate, openings not deducted.' },
  { name: 'NetArea', unit: 'm2', meaning: 'Face of a slab, covering or plate, openings deducted.' },
  { name: 'Area', unit: 'm2', meaning: 'Width x height of a door or window.' },
  { name: 'CrossSectionArea', unit: 'm2', meaning: 'Section square to the axis of a beam, column or member.' },
  {
    name: 'OuterSurfaceArea',
    unit: 'm2',
    meaning: 'Drawn faces without the two ends (beams, columns, walls, footings); the whole surface of other bodies.',
  },
  { name: 'TopArea', unit: 'm2', meaning: 'Faces that look up, openings not counted; of a slab its upper face, net.' },
  { name: 'BottomArea', unit: 'm2', meaning: 'Faces that look down; of a slab its soffit, net.' },
  {
    name: 'SidesArea',
    unit: 'm2',
    meaning: 'Both sides of a wall, openings deducted; upright faces of beams, columns and footings without the ends.',
  },
  {
    name: 'OuterSideArea',
    unit: 'm2',
    meaning: 'The one side of an outer wall that the weather meets, openings deducted; an inner wall has none.',
  },
  {
    name: 'InnerSideArea',
    unit: 'm2',
    meaning: 'The sides of a wall inside: one of an outer wall, both of an inner one, openings deducted.',
  },
  {
    name: 'ExposedSidesArea',
    unit: 'm2',
    meaning: 'Both sides of a wall, openings deducted, less what other walls cover face to face.',
  },
  { name: 'EndsArea', unit: 'm2', meaning: 'The two ends of a wall, beam or column.' },
  { name: 'EdgesArea', unit: 'm2', meaning: 'Edges of a slab around its outline, openings not counted.' },
  { name: 'Pitch', unit: 'number', meaning: 'Angle of a roof from level, degrees.' },
  { name: 'SlopedArea', unit: 'm2', meaning: 'Area of the slopes of a roof, openings not deducted.' },
  { name: 'EavesLength', unit: 'm', meaning: 'Level lower edges of a roof.' },
  {
    name: 'RidgeLength',
    unit: 'm',
    meaning: 'Level upper edges of a roof, where two slopes meet or a single one ends.',
  },
  { name: 'HipLength', unit: 'm', meaning: 'Sloping edges where two slopes fall away from each other.' },
  { name: 'ValleyLength', unit: 'm', meaning: 'Edges where two slopes fall towards each other.' },
  { name: 'VergeLength', unit: 'm', meaning: 'Sloping free edges of a roof.' },
  { name: 'GrossVolume', unit: 'm3', meaning: 'Body, openings not deducted.' },
  { name: 'NetVolume', unit: 'm3', meaning: 'Body, openings deducted.' },
  { name: 'NetFloorArea', unit: 'm2', meaning: 'Floor of a room.' },
  { name: 'GrossCeilingArea', unit: 'm2', meaning: 'Ceiling of a room, level as its floor.' },
  { name: 'GrossWallArea', unit: 'm2', meaning: 'Walls of a room to its height, openings not deducted.' },
  { name: 'NetWallArea', unit: 'm2', meaning: 'Walls of a room to its height, doors, windows and openings deducted.' },
  {
    name: 'NetPerimeter',
    unit: 'm',
    meaning: 'Boundary of a room at the floor without the widths of its doors: skirting.',
  },
  {
    name: 'StructuralFloorArea',
    unit: 'm2',
    meaning:
      'Floor of a room to the structural face of its walls: without what lies on their thickest layer on its side.',
  },
  { name: 'StructuralPerimeter', unit: 'm', meaning: 'Boundary of a room along the structural face of its walls.' },
  {
    name: 'StructuralWallArea',
    unit: 'm2',
    meaning: 'Walls of a room along their structural face to its height, openings deducted.',
  },
  { name: 'GrossFloorArea', unit: 'm2', meaning: 'Floor of a room, nothing deducted (stated by the file).' },
  { name: 'GrossPerimeter', unit: 'm', meaning: 'Boundary of a room at the floor.' },
  { name: 'Corners', unit: 'each', meaning: 'Corners counted with this wall; over all walls each corner counts once.' },
  { name: 'Tees', unit: 'each', meaning: 'Tees counted with this wall: those it ends at.' },
  { name: 'Crosses', unit: 'each', meaning: 'Crosses counted with this wall.' },
  { name: 'FreeEnds', unit: 'each', meaning: 'Ends of this wall that meet no other.' },
  { name: 'Jambs', unit: 'each', meaning: 'Upright edges of the openings of this wall: two per opening.' },
  { name: 'Weight', unit: 'kg', meaning: 'Net volume x density of the material; of layers one by one.' },
  { name: 'GrossWeight', unit: 'kg', meaning: 'Weight stated by the file, gross.' },
  { name: 'NetWeight', unit: 'kg', meaning: 'Weight stated by the file, net.' },
  { name: 'GrossSurfaceArea', unit: 'm2', meaning: 'Whole surface stated by the file, gross.' },
  { name: 'TotalSurfaceArea', unit: 'm2', meaning: 'Whole surface with ends, stated by the file.' },
  { name: 'NetSurfaceArea', unit: 'm2', meaning: 'Whole surface stated by the file, net.' },
];

/** Quantities that describe a thing: many of them have a range, but no sum worth reading. */
export const DESCRIBING_QUANTITIES: ReadonlySet<string> = new Set([
  'Width',
  'Height',
  'Depth',
  'Pitch',
  'CrossSectionArea',
]);

/** Classes that are measured alike. */
export type MeasureGroup = 'wall' | 'slab' | 'linear' | 'footing' | 'filler' | 'space' | 'other';

/** Measured quantities by group of classes. */
export const GROUP_QUANTITIES: Record<MeasureGroup, readonly string[]> = {
  wall: [
    'Length',
    'Height',
    'Width',
    'GrossSideArea',
    'NetSideArea',
    'GrossFootprintArea',
    'GrossVolume',
    'NetVolume',
    'OuterSurfaceArea',
    'SidesArea',
    'OuterSideArea',
    'InnerSideArea',
    'ExposedSidesArea',
    'EndsArea',
    'TopArea',
    'BottomArea',
    'Corners',
    'Tees',
    'Crosses',
    'FreeEnds',
    'Jambs',
  ],
  slab: [
    'Length',
    'Width',
    'Depth',
    'Perimeter',
    'GrossArea',
    'NetArea',
    'TopArea',
    'BottomArea',
    'EdgesArea',
    'GrossVolume',
    'NetVolume',
  ],
  linear: [
    'Length',
    'CrossSectionArea',
    'OuterSurfaceArea',
    'SidesArea',
    'TopArea',
    'BottomArea',
    'EndsArea',
    'GrossVolume',
    'NetVolume',
  ],
  footing: [
    'Length',
    'Width',
    'Height',
    'GrossVolume',
    'NetVolume',
    'OuterSurfaceArea',
    'SidesArea',
    'TopArea',
    'BottomArea',
  ],
  filler: ['Width', 'Height', 'Perimeter', 'Area', 'NetVolume'],
  space: [
    'Height',
    'NetFloorArea',
    'GrossCeilingArea',
    'GrossPerimeter',
    'NetPerimeter',
    'GrossWallArea',
    'NetWallArea',
    'StructuralFloorArea',
    'StructuralPerimeter',
    'StructuralWallArea',
    'NetVolume',
  ],
  other: ['Length', 'Width', 'Height', 'GrossVolume', 'NetVolume', 'OuterSurfaceArea'],
};

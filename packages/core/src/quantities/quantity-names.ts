import type { SiUnit } from '../units/branded.ts';

/** What a quantity is, for formulas, pick lists and the documentation. */
export interface QuantityDefinition {
  /** IFC's name: what is typed in formulas. */
  readonly name: string;
  /** What people call it on screen. */
  readonly word: string;
  readonly unit: SiUnit;
  readonly meaning: string;
}

/** Quantities that formulas know by name. Names and meanings are those of the IFC quantity sets (Qto_*BaseQuantities). */
export const QUANTITY_DEFINITIONS: readonly QuantityDefinition[] = [
  { name: 'Count', word: 'Count', unit: 'each', meaning: 'One per element.' },
  {
    name: 'Length',
    word: 'Length',
    unit: 'm',
    meaning: 'Along the axis or the direction of extrusion; the longer horizontal side of plates and footings.',
  },
  {
    name: 'Width',
    word: 'Width',
    unit: 'm',
    meaning:
      'Thickness of a wall; the shorter horizontal side of plates and footings; clear width of a door or window.',
  },
  {
    name: 'Height',
    word: 'Height',
    unit: 'm',
    meaning: 'Upward extent of a wall, footing, room, door, window or other body.',
  },
  { name: 'Depth', word: 'Depth', unit: 'm', meaning: 'Thickness of a slab, covering or plate, square to its face.' },
  {
    name: 'Perimeter',
    word: 'Perimeter',
    unit: 'm',
    meaning: 'Outer boundary of a slab or covering; 2 x (width + height) of a door or window.',
  },
  {
    name: 'GrossSideArea',
    word: 'Side area, gross',
    unit: 'm2',
    meaning: 'Wall seen from the side, one face, openings not deducted.',
  },
  {
    name: 'NetSideArea',
    word: 'Side area, net',
    unit: 'm2',
    meaning: 'Wall seen from the side, one face, openings deducted.',
  },
  { name: 'GrossFootprintArea', word: 'Footprint', unit: 'm2', meaning: 'Wall seen from above.' },
  {
    name: 'GrossArea',
    word: 'Face area, gross',
    unit: 'm2',
    meaning: 'Face of a slab, covering or plate, openings not deducted.',
  },
  {
    name: 'NetArea',
    word: 'Face area, net',
    unit: 'm2',
    meaning: 'Face of a slab, covering or plate, openings deducted.',
  },
  { name: 'Area', word: 'Area', unit: 'm2', meaning: 'Width x height of a door or window.' },
  {
    name: 'CrossSectionArea',
    word: 'Cross-section',
    unit: 'm2',
    meaning: 'Section square to the axis of a beam, column or member.',
  },
  {
    name: 'OuterSurfaceArea',
    word: 'Surface without ends',
    unit: 'm2',
    meaning: 'Drawn faces without the two ends (beams, columns, walls, footings); the whole surface of other bodies.',
  },
  {
    name: 'TopArea',
    word: 'Top area',
    unit: 'm2',
    meaning: 'Faces that look up, openings not counted; of a slab its upper face, net.',
  },
  { name: 'BottomArea', word: 'Underside', unit: 'm2', meaning: 'Faces that look down; of a slab its soffit, net.' },
  {
    name: 'SidesArea',
    word: 'Both sides',
    unit: 'm2',
    meaning: 'Both sides of a wall, openings deducted; upright faces of beams, columns and footings without the ends.',
  },
  {
    name: 'OuterSideArea',
    word: 'Weather side',
    unit: 'm2',
    meaning: 'The one side of an outer wall that the weather meets, openings deducted; an inner wall has none.',
  },
  {
    name: 'InnerSideArea',
    word: 'Inner sides',
    unit: 'm2',
    meaning: 'The sides of a wall inside: one of an outer wall, both of an inner one, openings deducted.',
  },
  {
    name: 'ExposedSidesArea',
    word: 'Sides not covered',
    unit: 'm2',
    meaning: 'Both sides of a wall, openings deducted, less what other walls cover face to face.',
  },
  { name: 'EndsArea', word: 'Ends', unit: 'm2', meaning: 'The two ends of a wall, beam or column.' },
  {
    name: 'EdgesArea',
    word: 'Edges',
    unit: 'm2',
    meaning: 'Edges of a slab around its outline, openings not counted.',
  },
  { name: 'Pitch', word: 'Pitch', unit: 'number', meaning: 'Angle of a roof from level, degrees.' },
  {
    name: 'SlopedArea',
    word: 'Sloped area',
    unit: 'm2',
    meaning: 'Area of the slopes of a roof, openings not deducted.',
  },
  { name: 'EavesLength', word: 'Eaves', unit: 'm', meaning: 'Level lower edges of a roof.' },
  {
    name: 'RidgeLength',
    word: 'Ridge',
    unit: 'm',
    meaning: 'Level upper edges of a roof, where two slopes meet or a single one ends.',
  },
  { name: 'HipLength', word: 'Hips', unit: 'm', meaning: 'Sloping edges where two slopes fall away from each other.' },
  { name: 'ValleyLength', word: 'Valleys', unit: 'm', meaning: 'Edges where two slopes fall towards each other.' },
  { name: 'VergeLength', word: 'Verges', unit: 'm', meaning: 'Sloping free edges of a roof.' },
  { name: 'GrossVolume', word: 'Volume, gross', unit: 'm3', meaning: 'Body, openings not deducted.' },
  { name: 'NetVolume', word: 'Volume, net', unit: 'm3', meaning: 'Body, openings deducted.' },
  { name: 'NetFloorArea', word: 'Floor area, net', unit: 'm2', meaning: 'Floor of a room.' },
  { name: 'GrossCeilingArea', word: 'Ceiling area', unit: 'm2', meaning: 'Ceiling of a room, level as its floor.' },
  {
    name: 'GrossWallArea',
    word: 'Wall area of the room, gross',
    unit: 'm2',
    meaning: 'Walls of a room to its height, openings not deducted.',
  },
  {
    name: 'NetWallArea',
    word: 'Wall area of the room, net',
    unit: 'm2',
    meaning: 'Walls of a room to its height, doors, windows and openings deducted.',
  },
  {
    name: 'NetPerimeter',
    word: 'Skirting length',
    unit: 'm',
    meaning: 'Boundary of a room at the floor without the widths of its doors: skirting.',
  },
  {
    name: 'StructuralFloorArea',
    word: 'Floor area, structural',
    unit: 'm2',
    meaning:
      'Floor of a room to the structural face of its walls: without what lies on their thickest layer on its side.',
  },
  {
    name: 'StructuralPerimeter',
    word: 'Perimeter, structural',
    unit: 'm',
    meaning: 'Boundary of a room along the structural face of its walls.',
  },
  {
    name: 'StructuralWallArea',
    word: 'Wall area, structural',
    unit: 'm2',
    meaning: 'Walls of a room along their structural face to its height, openings deducted.',
  },
  {
    name: 'GrossFloorArea',
    word: 'Floor area, gross',
    unit: 'm2',
    meaning: 'Floor of a room, nothing deducted (stated by the file).',
  },
  { name: 'GrossPerimeter', word: 'Perimeter of the room', unit: 'm', meaning: 'Boundary of a room at the floor.' },
  {
    name: 'Corners',
    word: 'Corners',
    unit: 'each',
    meaning: 'Corners counted with this wall; over all walls each corner counts once.',
  },
  { name: 'Tees', word: 'Tees', unit: 'each', meaning: 'Tees counted with this wall: those it ends at.' },
  { name: 'Crosses', word: 'Crosses', unit: 'each', meaning: 'Crosses counted with this wall.' },
  { name: 'FreeEnds', word: 'Free ends', unit: 'each', meaning: 'Ends of this wall that meet no other.' },
  {
    name: 'Jambs',
    word: 'Jambs',
    unit: 'each',
    meaning: 'Upright edges of the openings of this wall: two per opening.',
  },
  {
    name: 'Weight',
    word: 'Weight',
    unit: 'kg',
    meaning: 'Net volume x density of the material; of layers one by one.',
  },
  { name: 'GrossWeight', word: 'Weight stated, gross', unit: 'kg', meaning: 'Weight stated by the file, gross.' },
  { name: 'NetWeight', word: 'Weight stated, net', unit: 'kg', meaning: 'Weight stated by the file, net.' },
  {
    name: 'GrossSurfaceArea',
    word: 'Surface stated, gross',
    unit: 'm2',
    meaning: 'Whole surface stated by the file, gross.',
  },
  {
    name: 'TotalSurfaceArea',
    word: 'Surface stated, with ends',
    unit: 'm2',
    meaning: 'Whole surface with ends, stated by the file.',
  },
  {
    name: 'NetSurfaceArea',
    word: 'Surface stated, net',
    unit: 'm2',
    meaning: 'Whole surface stated by the file, net.',
  },
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

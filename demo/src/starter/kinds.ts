import type { Condition } from '@tally/core';
import { saidOf, type WordField } from './words.ts';

/** A kind of thing that the starter prices: what it is, what its figure is taken by, and a rough rate in EUR. */
export interface RoughKind {
  /** Code of its item and id of its rule. */
  readonly code: string;
  readonly name: string;
  readonly section: string;
  readonly scope: Condition;
  /** Quantity that it is priced by; pieces where it is not known of an element, at the rate of a usual one. */
  readonly by: 'Count' | 'NetVolume' | 'NetSideArea' | 'NetArea' | 'Length' | 'Area' | 'NetFloorArea' | 'SlopedArea';
  readonly rate: number;
  /** How much of it a usual piece is, in the unit of `by`: for those without a figure. */
  readonly usual?: number;
}

/** What a thing is called; what it is made of says something else. */
const NAMED: readonly WordField[] = ['type', 'name'];

const isA = (...classes: string[]): Condition =>
  classes.length === 1
    ? { field: 'class', op: 'is', value: classes[0]! }
    : { field: 'class', op: 'oneOf', values: classes };
const all = (...parts: Condition[]): Condition => ({ all: parts });
const any = (...parts: Condition[]): Condition => ({ any: parts });
const predefined = (...values: string[]): Condition => ({
  field: 'property',
  of: 'PredefinedType',
  op: 'oneOf',
  values,
});

/** Said to be outside by the file, or by its name where the file says nothing. */
const OUTSIDE = any(
  { field: 'property', of: 'IsExternal', op: 'is', value: true },
  all({ field: 'property', of: 'IsExternal', op: 'missing' }, saidOf('outside', NAMED)),
);
const WALL = isA('IfcWall');
const COLUMN = isA('IfcColumn');
const BEAM = isA('IfcBeam');
const MEMBER = isA('IfcMember');
const SLAB = isA('IfcSlab');
const COVERING = isA('IfcCovering');
const IS_ROOF = any(predefined('ROOF'), saidOf('roof', NAMED));

/** The kinds, the particular before the general: in one section the first that catches an element prices it. */
// biome-ignore format: a table
export const ROUGH_KINDS: readonly RoughKind[] = [
  { code: 'R-FOOT', name: 'Footing', section: 'structure', scope: isA('IfcFooting'), by: 'NetVolume', rate: 340, usual: 1 },
  { code: 'R-PILE', name: 'Pile', section: 'structure', scope: isA('IfcPile'), by: 'Length', rate: 135, usual: 8 },
  { code: 'R-COL-S', name: 'Column of steel', section: 'structure', scope: all(COLUMN, saidOf('steel')), by: 'Length', rate: 190, usual: 3 },
  { code: 'R-COL-T', name: 'Column of timber', section: 'structure', scope: all(COLUMN, saidOf('timber')), by: 'NetVolume', rate: 1450, usual: 0.12 },
  { code: 'R-COL', name: 'Column, concrete or other', section: 'structure', scope: COLUMN, by: 'NetVolume', rate: 880, usual: 0.3 },
  { code: 'R-BEAM-S', name: 'Beam of steel', section: 'structure', scope: all(BEAM, saidOf('steel')), by: 'Length', rate: 165, usual: 4 },
  { code: 'R-BEAM-T', name: 'Beam of timber', section: 'structure', scope: all(BEAM, saidOf('timber')), by: 'NetVolume', rate: 1350, usual: 0.15 },
  { code: 'R-BEAM', name: 'Beam, concrete or other', section: 'structure', scope: BEAM, by: 'NetVolume', rate: 820, usual: 0.4 },
  { code: 'R-ROOF-SLAB', name: 'Roof, slab with build-up', section: 'structure', scope: all(SLAB, IS_ROOF), by: 'NetArea', rate: 245, usual: 20 },
  { code: 'R-SLAB-T', name: 'Floor of timber', section: 'structure', scope: all(SLAB, saidOf('timber')), by: 'NetArea', rate: 155, usual: 20 },
  { code: 'R-SLAB', name: 'Floor, concrete or other', section: 'structure', scope: SLAB, by: 'NetVolume', rate: 420, usual: 4 },
  { code: 'R-ROOF', name: 'Roof', section: 'structure', scope: isA('IfcRoof'), by: 'SlopedArea', rate: 230, usual: 60 },
  { code: 'R-CURTAIN', name: 'Curtain wall', section: 'structure', scope: all(isA('IfcCurtainWall'), { field: 'quantity', of: 'NetSideArea', op: 'present' }), by: 'NetSideArea', rate: 640 },
  { code: 'R-WALL-G', name: 'Wall of glass', section: 'structure', scope: all(WALL, saidOf('glass', NAMED)), by: 'NetSideArea', rate: 430, usual: 8 },
  { code: 'R-WALL-MO', name: 'Outer wall of masonry', section: 'structure', scope: all(WALL, OUTSIDE, saidOf('masonry')), by: 'NetSideArea', rate: 195, usual: 12 },
  { code: 'R-WALL-CO', name: 'Outer wall of concrete', section: 'structure', scope: all(WALL, OUTSIDE, saidOf('concrete')), by: 'NetSideArea', rate: 265, usual: 12 },
  { code: 'R-WALL-TO', name: 'Outer wall of timber', section: 'structure', scope: all(WALL, OUTSIDE, saidOf('timber')), by: 'NetSideArea', rate: 235, usual: 12 },
  { code: 'R-WALL-O', name: 'Outer wall', section: 'structure', scope: all(WALL, OUTSIDE), by: 'NetSideArea', rate: 220, usual: 12 },
  { code: 'R-WALL-D', name: 'Partition of boards', section: 'structure', scope: all(WALL, saidOf('drywall')), by: 'NetSideArea', rate: 78, usual: 8 },
  { code: 'R-WALL-M', name: 'Inner wall of masonry', section: 'structure', scope: all(WALL, saidOf('masonry')), by: 'NetSideArea', rate: 105, usual: 8 },
  { code: 'R-WALL-C', name: 'Inner wall of concrete', section: 'structure', scope: all(WALL, saidOf('concrete')), by: 'NetSideArea', rate: 185, usual: 8 },
  { code: 'R-WALL-T', name: 'Inner wall of timber', section: 'structure', scope: all(WALL, saidOf('timber')), by: 'NetSideArea', rate: 112, usual: 8 },
  { code: 'R-WALL', name: 'Inner wall', section: 'structure', scope: WALL, by: 'NetSideArea', rate: 98, usual: 8 },
  { code: 'R-PLATE-G', name: 'Pane of glass', section: 'structure', scope: all(isA('IfcPlate'), saidOf('glass')), by: 'NetArea', rate: 390, usual: 1.5 },
  { code: 'R-PLATE', name: 'Plate or panel', section: 'structure', scope: isA('IfcPlate'), by: 'NetArea', rate: 145, usual: 1 },
  { code: 'R-MEM-S', name: 'Member of steel', section: 'structure', scope: all(MEMBER, saidOf('steel')), by: 'Length', rate: 72, usual: 2 },
  { code: 'R-MEM-T', name: 'Member of timber', section: 'structure', scope: all(MEMBER, saidOf('timber')), by: 'Length', rate: 28, usual: 2 },
  { code: 'R-MEM', name: 'Member or mullion', section: 'structure', scope: MEMBER, by: 'Length', rate: 48, usual: 1.5 },
  { code: 'R-CURTAIN-EA', name: 'Curtain wall without a figure', section: 'structure', scope: isA('IfcCurtainWall'), by: 'Count', rate: 6400 },
  { code: 'R-STAIR', name: 'Stair', section: 'structure', scope: isA('IfcStair'), by: 'Count', rate: 5200 },
  { code: 'R-FLIGHT', name: 'Flight of stairs', section: 'structure', scope: isA('IfcStairFlight'), by: 'Count', rate: 3900 },
  { code: 'R-RAMP', name: 'Ramp', section: 'structure', scope: isA('IfcRamp', 'IfcRampFlight'), by: 'Count', rate: 4100 },
  { code: 'R-RAIL', name: 'Railing', section: 'structure', scope: isA('IfcRailing'), by: 'Length', rate: 175, usual: 3 },
  { code: 'R-REBAR', name: 'Reinforcement drawn by itself', section: 'structure', scope: isA('IfcReinforcingElement'), by: 'Length', rate: 3.2, usual: 6 },
  { code: 'R-WIN', name: 'Window, by size', section: 'openings', scope: isA('IfcWindow'), by: 'Area', rate: 520, usual: 1.6 },
  { code: 'R-DOOR-O', name: 'Outer door, by size', section: 'openings', scope: all(isA('IfcDoor'), any({ field: 'property', of: 'IsExternal', op: 'is', value: true }, saidOf('outside', NAMED))), by: 'Area', rate: 980, usual: 2.1 },
  { code: 'R-DOOR', name: 'Inner door, by size', section: 'openings', scope: isA('IfcDoor'), by: 'Area', rate: 390, usual: 1.9 },
  { code: 'R-COV-CEIL', name: 'Ceiling', section: 'finishes', scope: all(COVERING, any(predefined('CEILING'), saidOf('ceiling', NAMED))), by: 'NetArea', rate: 68, usual: 10 },
  { code: 'R-COV-FLOOR', name: 'Floor covering', section: 'finishes', scope: all(COVERING, any(predefined('FLOORING'), saidOf('flooring', NAMED))), by: 'NetArea', rate: 82, usual: 10 },
  { code: 'R-COV-CLAD', name: 'Cladding', section: 'finishes', scope: all(COVERING, any(predefined('CLADDING'), saidOf('cladding', NAMED))), by: 'NetArea', rate: 118, usual: 10 },
  { code: 'R-COV-INS', name: 'Insulation', section: 'finishes', scope: all(COVERING, any(predefined('INSULATION'), saidOf('insulation'))), by: 'NetArea', rate: 34, usual: 10 },
  { code: 'R-COV', name: 'Covering', section: 'finishes', scope: COVERING, by: 'NetArea', rate: 64, usual: 5 },
  { code: 'R-ROOM', name: 'Finishes and fitting out of a room', section: 'finishes', scope: all(isA('IfcSpace'), { not: predefined('GFA', 'EXTERNAL', 'PARKING') }), by: 'NetFloorArea', rate: 135, usual: 14 },
  { code: 'R-SANI', name: 'Sanitary piece', section: 'fittings', scope: any(isA('IfcSanitaryTerminal'), all(isA('IfcFlowTerminal', 'IfcFurnishingElement', 'IfcBuildingElementProxy'), saidOf('sanitary', NAMED))), by: 'Count', rate: 640 },
  { code: 'R-LAMP', name: 'Lamp', section: 'fittings', scope: isA('IfcLightFixture', 'IfcLamp'), by: 'Count', rate: 165 },
  { code: 'R-FURN', name: 'Piece of furniture', section: 'fittings', scope: isA('IfcFurnishingElement'), by: 'Count', rate: 380 },
  { code: 'R-LIFT', name: 'Lift or other transport', section: 'fittings', scope: isA('IfcTransportElement'), by: 'Count', rate: 48_000 },
  { code: 'R-PIPE', name: 'Pipe, duct or cable tray', section: 'fittings', scope: isA('IfcFlowSegment'), by: 'Length', rate: 46, usual: 2 },
  { code: 'R-FLOW', name: 'Part of services', section: 'fittings', scope: isA('IfcDistributionElement'), by: 'Count', rate: 145 },
  { code: 'R-ASSEMBLY', name: 'Built-up element', section: 'structure', scope: isA('IfcElementAssembly'), by: 'Count', rate: 900 },
  { code: 'R-GEO', name: 'Planting and ground', section: 'outside', scope: isA('IfcGeographicElement', 'IfcCivilElement'), by: 'Count', rate: 420 },
  { code: 'R-PROXY', name: 'Element without a class', section: 'structure', scope: isA('IfcBuildingElementProxy'), by: 'Count', rate: 250 },
];

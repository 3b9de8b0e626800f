import type { IfcBuilder, Point } from '../ifc-builder.ts';
import type { BoathouseParameters } from '../parameters.ts';
import { Enum, type Ref } from '../step-writer.ts';
import type { Materials } from './materials.ts';

/** What every part of the building is built with. */
export interface Site {
  readonly b: IfcBuilder;
  readonly p: BoathouseParameters;
  readonly m: Materials;
  /** Width of a bay and depth of the house, mm. */
  readonly bay: number;
  readonly depth: number;
}

/** Something that fills an opening of a wall: distance of its middle from the wall's start, sill, sizes, mm. */
export interface Hole {
  readonly key: string;
  readonly kind: 'door' | 'window' | 'boat door';
  readonly at: number;
  readonly sill: number;
  readonly width: number;
  readonly height: number;
}

export interface WallOptions {
  readonly key: string;
  readonly name: string;
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
  readonly height: number;
  readonly thickness: number;
  readonly type: Ref;
  readonly layers: Ref;
  readonly storey: string;
  readonly colour: readonly [number, number, number];
  readonly holes?: readonly Hole[];
  readonly ifcClass?: string;
}

/** Door and window types by size, made when first asked for. */
export class Fillings {
  private readonly types = new Map<string, { type: Ref; map: Ref }>();

  constructor(private readonly b: IfcBuilder) {}

  get(kind: Hole['kind'], width: number, height: number): { type: Ref; map: Ref } {
    const name = `${kind === 'window' ? 'Window' : kind === 'door' ? 'Door' : 'Boat-bay door'} ${width} x ${height}`;
    let made = this.types.get(name);
    if (!made) {
      const { b } = this;
      const frame = kind === 'window' ? 70 : 60;
      const across: [Point, Point] = [
        [0, -1, 0],
        [1, 0, 0],
      ];
      const solids = [
        b.colour(
          b.extrude(
            b.profile('IfcRectangleHollowProfileDef', width, height, frame, null, null),
            90,
            [0, 45, height / 2],
            ...across,
          ),
          kind === 'window' ? [0.25, 0.3, 0.32] : [0.5, 0.38, 0.26],
        ),
        b.colour(
          b.extrude(b.rectangle(width - 2 * frame, height - 2 * frame), 40, [0, 20, height / 2], ...across),
          kind === 'window' ? [0.6, 0.78, 0.85] : [0.62, 0.48, 0.33],
          kind === 'window' ? 0.5 : 0,
        ),
      ];
      const map = b.map(solids);
      const type =
        kind === 'window'
          ? b.type('IfcWindowType', name, {
              predefined: 'WINDOW',
              maps: [map],
              rest: [new Enum('SINGLE_PANEL'), null, null],
            })
          : b.type('IfcDoorType', name, {
              predefined: 'DOOR',
              maps: [map],
              rest: [new Enum(kind === 'door' ? 'SINGLE_SWING_LEFT' : 'FOLDING_TO_LEFT'), null, null],
            });
      made = { type, map };
      this.types.set(name, made);
    }
    return made;
  }
}

/** Draws a straight wall with its openings and what fills them. */
export function buildWall(b: IfcBuilder, fillings: Fillings, o: WallOptions): Ref {
  const [dx, dy] = [o.to[0] - o.from[0], o.to[1] - o.from[1]];
  const length = Math.hypot(dx, dy);
  const solid = b.colour(b.extrude(b.rectangle(length, o.thickness, [length / 2, 0]), o.height), o.colour);
  const wall = b.element(o.ifcClass ?? 'IfcWall', {
    name: o.name,
    key: o.key,
    at: [o.from[0], o.from[1], 0],
    along: [dx / length, dy / length, 0],
    shape: b.shape([solid], 'SweptSolid', [length, 0]),
    type: o.type,
    storey: o.storey,
    rest: [new Enum('SOLIDWALL')],
  });
  b.assign(o.layers, [wall.ref]);
  for (const hole of o.holes ?? []) buildHole(b, fillings, wall, hole, o);
  return wall.ref;
}

function buildHole(
  b: IfcBuilder,
  fillings: Fillings,
  wall: { ref: Ref; placement: Ref },
  hole: Hole,
  o: WallOptions,
): void {
  const opening = b.opening(
    `${hole.key}/opening`,
    wall,
    [hole.at, 0, hole.sill],
    b.extrude(b.rectangle(hole.width, o.thickness + 200), hole.height),
  );
  const { type, map } = fillings.get(hole.kind, hole.width, hole.height);
  const isWindow = hole.kind === 'window';
  const rest = [
    hole.height,
    hole.width,
    new Enum(isWindow ? 'WINDOW' : 'DOOR'),
    new Enum(isWindow ? 'SINGLE_PANEL' : hole.kind === 'door' ? 'SINGLE_SWING_LEFT' : 'FOLDING_TO_LEFT'),
    null,
  ];
  const label = { door: 'Door', window: 'Window', 'boat door': 'Boat-bay door' }[hole.kind];
  const filler = b.element(isWindow ? 'IfcWindow' : 'IfcDoor', {
    name: `${label} ${hole.key.split('/').slice(1).join('.')}`,
    key: hole.key,
    at: [0, 0, 0],
    relativeTo: opening.placement,
    shape: b.mapped(map),
    type,
    storey: o.storey,
    rest,
  });
  b.fill(hole.key, opening.ref, filler.ref);
  const isOuter = o.name.startsWith('Outer');
  if (isWindow) b.properties('Pset_WindowCommon', { IsExternal: true, ThermalTransmittance: 1.1 }, [filler.ref]);
  else
    b.properties('Pset_DoorCommon', { IsExternal: isOuter, FireRating: o.name.startsWith('Fire') ? 'EI30' : 'none' }, [
      filler.ref,
    ]);
  b.classify(isWindow ? 'B2020' : isOuter ? 'B2030' : 'C1020', [filler.ref]);
}

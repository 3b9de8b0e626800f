import type { IfcBuilder } from '../ifc-builder.ts';
import type { BoathouseParameters } from '../parameters.ts';
import type { Ref } from '../step-writer.ts';

/** Densities in kg/m3. The quilt has none: whoever weighs the model must be told. */
const DENSITIES: Record<string, number | undefined> = {
  'Concrete C30': 2400,
  'Blinding concrete': 2200,
  'Rigid insulation': 35,
  Steel: 7850,
  'Solid timber panel': 480,
  Glulam: 450,
  // Of the locker as a whole: sheet steel around air.
  'Sheet steel locker': 110,
  'Sawn timber': 420,
  'Larch boards': 590,
  'Lime render': 1600,
  'Wood fibre board': 160,
  'Timber frame insulated': 95,
  'Gypsum board': 800,
  'Acoustic board': 950,
  'Mineral quilt': undefined,
  'Concrete block': 1450,
  'Slate tiles': 2700,
  'Battens and cavity': 60,
  'Roof membrane': 1100,
  'Concrete paving': 2300,
};

export const OUTER_WALL_THICKNESS = 300;

/** Materials and layer sets of the boathouse. */
export function buildMaterials(b: IfcBuilder, p: BoathouseParameters) {
  const m = (name: string): Ref => b.material(name, DENSITIES[name]);
  const clad: readonly (readonly [Ref, number])[] =
    p.outerWall === 'timber-clad'
      ? [
          [m('Larch boards'), 25],
          [m('Battens and cavity'), 35],
        ]
      : [
          [m('Lime render'), 20],
          [m('Wood fibre board'), 40],
        ];
  const board = m(p.partition === 'acoustic' ? 'Acoustic board' : 'Gypsum board');
  const outerWall = b.layerSet('Outer wall', [
    ...clad,
    [m('Wood fibre board'), 40],
    [m('Timber frame insulated'), 185],
    [m('Gypsum board'), 15],
  ]);
  return {
    concrete: m('Concrete C30'),
    steel: m('Steel'),
    panel: m('Solid timber panel'),
    glulam: m('Glulam'),
    locker: m('Sheet steel locker'),
    sawn: m('Sawn timber'),
    groundSlab: b.layerSet('Ground slab', [
      [m('Concrete C30'), 200],
      [m('Rigid insulation'), 120],
      [m('Blinding concrete'), 50],
    ]),
    outerWall,
    /** The same in walls whose outside lies on their left. */
    outerWallTurned: b.turnLayers(outerWall, OUTER_WALL_THICKNESS),
    blockWall: b.layerSet('Block wall', [[m('Concrete block'), 200]]),
    partition: b.layerSet('Partition', [
      [board, 12.5],
      [m('Mineral quilt'), 75],
      [board, 12.5],
    ]),
    wetPartition: b.layerSet('Wet partition', [
      [m('Gypsum board'), 25],
      [m('Mineral quilt'), 75],
      [m('Gypsum board'), 25],
    ]),
    firePartition: b.layerSet('Fire partition', [
      [m('Gypsum board'), 25],
      [m('Mineral quilt'), 100],
      [m('Gypsum board'), 25],
    ]),
    paving: m('Concrete paving'),
    flatRoof: b.layerSet('Flat roof', [
      [m('Roof membrane'), 5],
      [m('Rigid insulation'), 100],
      [m('Solid timber panel'), 145],
    ]),
    shelterRoof: b.layerSet('Shelter roof', [
      [m('Slate tiles'), 20],
      [m('Battens and cavity'), 80],
    ]),
    roof: b.layerSet('Slate roof', [
      [m('Slate tiles'), 20],
      [m('Battens and cavity'), 50],
      [m('Wood fibre board'), 60],
      [m('Timber frame insulated'), 170],
    ]),
  };
}
export type Materials = ReturnType<typeof buildMaterials>;

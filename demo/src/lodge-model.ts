import { Fillings } from './boathouse/site.ts';
import { IfcBuilder, type Point, type Point2 } from './ifc-builder.ts';
import { Enum, type Ref } from './step-writer.ts';

const [LONG, WIDE, HIGH] = [12_000, 8000, 2800];
const OUTER = 365;
const INNER = 125;

/**
 * A lodge beside the boathouse as another office would draw it: German names, no property sets, half of the elements without a type, walls
 * that say in their names only whether they are outside, a pile of things without a class. IFC4, millimetres.
 */
export function writeLodgeModel(): string {
  const b = new IfcBuilder('lodge/');
  b.storey('Fundament', -600, [0, 0, 0]);
  b.storey('Erdgeschoss', 0, [0, 0, 0]);
  b.storey('Dachgeschoss', HIGH + 200, [0, 0, 0]);
  new LodgeBuilder(b).build();
  b.finish();
  return b.step.finish('lodge.ifc', '2026-03-02T09:00:00');
}

const listMaterials = (b: IfcBuilder) => ({
  brick: b.material('Hochlochziegel'),
  concrete: b.material('Stahlbeton C25/30'),
  board: b.material('Gipskartonplatte'),
  larch: b.material('Brettschichtholz GL24'),
  steel: b.material('Stahl S235'),
});

class LodgeBuilder {
  private readonly materials: ReturnType<typeof listMaterials>;
  private readonly fillings: Fillings;
  private n = 0;

  constructor(private readonly b: IfcBuilder) {
    this.materials = listMaterials(b);
    this.fillings = new Fillings(b);
  }

  build(): void {
    this.footings();
    for (const storey of ['Erdgeschoss', 'Dachgeschoss']) this.walls(storey);
    this.floors();
    this.frame();
    this.inside();
  }

  /** An upright or lying box by its corner and sizes. */
  private box(
    ifcClass: string,
    name: string,
    storey: string,
    at: Point,
    size: Point,
    more: { material?: Ref; type?: string; rest?: readonly (Enum | null | number | string)[] } = {},
  ): Ref {
    const { b } = this;
    const [x, y, z] = size;
    const solid = b.extrude(b.rectangle(x, y, [x / 2, y / 2]), z);
    const type = more.type ? { type: b.type(`${ifcClass}Type`, more.type, {}) } : {};
    const { ref } = b.element(ifcClass, { name, key: `${ifcClass}/${this.n++}`, at, shape: b.shape([solid]), storey, rest: more.rest ?? [null], ...type }); // biome-ignore format: one call
    if (more.material) b.assign(more.material, [ref]);
    return ref;
  }

  private wall(
    name: string,
    storey: string,
    from: Point2,
    to: Point2,
    thickness: number,
    material: Ref,
    holes: readonly (readonly ['door' | 'window', number])[] = [],
  ): void {
    const { b } = this;
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const length = Math.hypot(dx, dy);
    const wall = b.element('IfcWallStandardCase', {
      name,
      key: `wall/${this.n++}`,
      at: [from[0], from[1], 0],
      along: [dx / length, dy / length, 0],
      shape: b.shape([b.extrude(b.rectangle(length, thickness, [length / 2, 0]), HIGH)], 'SweptSolid', [length, 0]),
      storey,
      rest: [null],
    });
    b.assign(material, [wall.ref]);
    for (const [kind, at] of holes) {
      const [width, height, sill] = kind === 'door' ? [1000, 2100, 0] : [1200, 1400, 900];
      const key = `${kind}/${this.n++}`;
      const opening = b.opening(`${key}/opening`, wall, [at, 0, sill], b.extrude(b.rectangle(width, thickness + 200), height)); // biome-ignore format: one call
      const { map } = this.fillings.get(kind, width, height);
      const filler = b.element(kind === 'door' ? 'IfcDoor' : 'IfcWindow', {
        name:
          kind === 'door'
            ? thickness === OUTER
              ? 'Haust\u00fcr aussen'
              : 'Innent\u00fcr'
            : 'Fenster zweifl\u00fcgelig',
        key,
        at: [0, 0, 0],
        relativeTo: opening.placement,
        shape: b.mapped(map),
        storey,
        rest: [height, width, null, null, null],
      });
      b.fill(key, opening.ref, filler.ref);
    }
  }

  private footings(): void {
    const { concrete } = this.materials;
    this.box('IfcFooting', 'Streifenfundament Nord', 'Fundament', [0, WIDE - 500, 0], [LONG, 500, 400], { material: concrete }); // biome-ignore format: one call
    this.box('IfcFooting', 'Streifenfundament S\u00fcd', 'Fundament', [0, 0, 0], [LONG, 500, 400], {
      material: concrete,
    });
  }

  private walls(storey: string): void {
    const { brick, board, concrete } = this.materials;
    const edge = OUTER / 2;
    const corners: Point2[] = [[edge, edge], [LONG - edge, edge], [LONG - edge, WIDE - edge], [edge, WIDE - edge]]; // biome-ignore format: one outline
    corners.forEach((from, i) => {
      const holes = [['window', 2000], ['window', 5000], ...(i === 0 ? ([['door', 7500]] as const) : [])] as const;
      this.wall(`Au\u00dfenwand Ziegel 36,5 ${i + 1}`, storey, from, corners[(i + 1) % 4]!, OUTER, brick, holes);
    });
    this.wall('Innenwand Trockenbau 12,5', storey, [4000, OUTER], [4000, WIDE - OUTER], INNER, board, [['door', 2000]]);
    this.wall('Innenwand Trockenbau 12,5', storey, [8000, OUTER], [8000, WIDE - OUTER], INNER, board, [['door', 2000]]);
    this.wall('Treppenhauswand', storey, [4100, 4000], [7900, 4000], 200, concrete);
  }

  private floors(): void {
    const { concrete, larch } = this.materials;
    this.box('IfcSlab', 'Bodenplatte', 'Erdgeschoss', [0, 0, -200], [LONG, WIDE, 200], { material: concrete, type: 'Stahlbetonplatte 20' }); // biome-ignore format: one call
    this.box('IfcSlab', 'Geschossdecke', 'Dachgeschoss', [0, 0, -200], [LONG, WIDE, 200], { material: concrete });
    this.box('IfcSlab', 'Dachfl\u00e4che', 'Dachgeschoss', [0, 0, HIGH], [LONG, WIDE, 240], { material: larch });
  }

  private frame(): void {
    const { larch, steel } = this.materials;
    for (let i = 0; i < 4; i++) {
      this.box('IfcBeam', `Pfette ${i + 1}`, 'Dachgeschoss', [0, 400 + i * 2300, HIGH - 320], [LONG, 140, 320], { material: larch }); // biome-ignore format: one call
      this.box('IfcColumn', `St\u00fctze ${i + 1}`, 'Erdgeschoss', [1500 + i * 2800, WIDE + 1500, 0], [120, 120, HIGH], { material: steel, ...(i % 2 === 0 ? { type: 'Quadratrohr 120' } : {}) }); // biome-ignore format: one call
    }
    this.box('IfcRailing', 'Gel\u00e4nder', 'Dachgeschoss', [5000, 5000, 0], [2400, 60, 1000], { material: steel });
  }

  private inside(): void {
    const { b } = this;
    const box = (ifcClass: string, name: string, at: Point, size: Point, rest: readonly (Enum | null)[] = [null]) =>
      this.box(ifcClass, name, 'Erdgeschoss', at, size, { rest });
    box('IfcStairFlight', 'Treppenlauf', [5000, 4200, 0], [1000, 3000, 180], [null, null, null, null, null]);
    box('IfcSanitaryTerminal', 'Waschtisch', [500, 500, 800], [600, 450, 150]);
    box('IfcSanitaryTerminal', 'WC wandh\u00e4ngend', [1500, 500, 300], [380, 550, 400]);
    box('IfcFurniture', 'K\u00fcchenzeile', [8300, 500, 0], [3200, 600, 900]);
    box('IfcBuildingElementProxy', 'Kamin', [11_000, 7000, 0], [600, 600, 2400]);
    box('IfcCovering', 'Abgeh\u00e4ngte Decke Bad', [OUTER, OUTER, 2500], [3500, 3000, 25], [new Enum('CEILING')]);
    for (const [i, [name, at, wide]] of ([['Bad', OUTER, 3500], ['Diele', 4100, 3800], ['Stube', 8100, 3500]] as const).entries()) // biome-ignore format: one list
      b.space(`space/${i}`, { name, number: `0.${i + 1}`, at: [at, OUTER, 0], shape: b.shape([b.extrude(b.rectangle(wide, WIDE - 2 * OUTER, [wide / 2, (WIDE - 2 * OUTER) / 2]), 2500)]), storey: 'Erdgeschoss' }); // biome-ignore format: one call
  }
}

import type { Vector2, Vector3 } from '@tally/core';
import { takeOffIfc } from '../takeoff/read-model.ts';

/** What a test model is written in. */
export interface WriterOptions {
  readonly schema: 'IFC2X3' | 'IFC4' | 'IFC4X3_ADD2';
  /** Length of the file's unit in metres. */
  readonly unitM: number;
  /** Where elements stand in space: origin in metres, z and x of their frame. */
  readonly frame: { readonly at: Vector3; readonly z: Vector3; readonly x: Vector3 };
}

export const PLAIN: WriterOptions = {
  schema: 'IFC4',
  unitM: 1,
  frame: { at: [0, 0, 0], z: [0, 0, 1], x: [1, 0, 0] },
};

const UNITS: Record<string, string> = {
  '1': '#7=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);',
  '0.001': '#7=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);',
  '0.3048': `#4=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);
#5=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(0.3048),#4);
#6=IFCDIMENSIONALEXPONENTS(1,0,0,0,0,0,0);
#7=IFCCONVERSIONBASEDUNIT(#6,.LENGTHUNIT.,'FOOT',#5);`,
};

const real = (v: number): string => {
  const text = String(Number(v.toPrecision(15)));
  return /[.e]/.test(text) ? text.toUpperCase().replace(/^(-?\d+)E/, '$1.E') : `${text}.`;
};

/** Writes small models for tests record by record; all lengths are given in metres and written in the file's unit. */
export class ModelWriter {
  private readonly lines: string[] = [];
  private next = 100;
  private readonly storeys: { readonly name: string; readonly levelM: number; readonly contents: number[] }[] = [];
  private isPlaced = true;
  readonly placement: number;

  constructor(readonly options: WriterOptions = PLAIN) {
    const { at, z, x } = options.frame;
    this.placement = this.add(`IFCLOCALPLACEMENT($,#${this.axis3(at, z, x)})`);
  }

  add(record: string): number {
    this.lines.push(`#${this.next}=${record};`);
    return this.next++;
  }

  /** A length as the file has it. */
  len(metres: number): string {
    return real(metres / this.options.unitM);
  }

  point(p: readonly number[]): number {
    return this.add(`IFCCARTESIANPOINT((${p.map((c) => this.len(c)).join()}))`);
  }

  direction(d: readonly number[]): number {
    return this.add(`IFCDIRECTION((${d.map(real).join()}))`);
  }

  axis3(at: Vector3, z: Vector3 = [0, 0, 1], x: Vector3 = [1, 0, 0]): number {
    return this.add(`IFCAXIS2PLACEMENT3D(#${this.point(at)},#${this.direction(z)},#${this.direction(x)})`);
  }

  axis2(at: Vector2 = [0, 0], x: Vector2 = [1, 0]): number {
    return this.add(`IFCAXIS2PLACEMENT2D(#${this.point(at)},#${this.direction(x)})`);
  }

  rectangle(x: number, y: number, at: Vector2 = [0, 0]): number {
    return this.add(`IFCRECTANGLEPROFILEDEF(.AREA.,$,#${this.axis2(at)},${this.len(x)},${this.len(y)})`);
  }

  circle(radius: number, at: Vector2 = [0, 0]): number {
    return this.add(`IFCCIRCLEPROFILEDEF(.AREA.,$,#${this.axis2(at)},${this.len(radius)})`);
  }

  polyline(points: readonly (readonly number[])[]): number {
    return this.add(`IFCPOLYLINE((${points.map((p) => `#${this.point(p)}`).join()}))`);
  }

  outline(points: readonly Vector2[], holes: readonly (readonly Vector2[])[] = []): number {
    const ring = (list: readonly Vector2[]) => this.polyline([...list, list[0]!]);
    if (holes.length === 0) return this.add(`IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#${ring(points)})`);
    return this.add(`IFCARBITRARYPROFILEDEFWITHVOIDS(.AREA.,$,#${ring(points)},(${holes.map((h) => `#${ring(h)}`).join()}))`); // biome-ignore format: one record
  }

  /** A ring of a sector: two arcs about the origin and the straight ends between them, from the x axis on. */
  sector(outerM: number, innerM: number, angle: number): number {
    const arc = (r: number, from: number, to: number, isForward: boolean) => {
      const circle = this.add(`IFCCIRCLE(#${this.axis2()},${this.len(r)})`);
      const end = (a: number) => `#${this.point([r * Math.cos(a), r * Math.sin(a)])}`;
      return this.add(`IFCTRIMMEDCURVE(#${circle},(${end(from)}),(${end(to)}),.${isForward ? 'T' : 'F'}.,.CARTESIAN.)`);
    };
    const at = (r: number, a: number) => [r * Math.cos(a), r * Math.sin(a)];
    const pieces = [
      arc(outerM, 0, angle, true),
      this.polyline([at(outerM, angle), at(innerM, angle)]),
      arc(innerM, angle, 0, false),
      this.polyline([at(innerM, 0), at(outerM, 0)]),
    ].map((curve) => `#${this.add(`IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#${curve})`)}`);
    const curve = this.add(`IFCCOMPOSITECURVE((${pieces.join()}),.F.)`);
    return this.add(`IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#${curve})`);
  }

  extrude(profile: number, depth: number, axis = this.axis3([0, 0, 0]), direction: Vector3 = [0, 0, 1]): number {
    return this.add(`IFCEXTRUDEDAREASOLID(#${profile},#${axis},#${this.direction(direction)},${this.len(depth)})`);
  }

  /** A body by its faces, each an outline counter-clockwise from outside. */
  brep(faces: readonly (readonly Vector3[])[]): number {
    const made = faces.map((face) => {
      const loop = this.add(`IFCPOLYLOOP((${face.map((p) => `#${this.point(p)}`).join()}))`);
      return `#${this.add(`IFCFACE((#${this.add(`IFCFACEOUTERBOUND(#${loop},.T.)`)}))`)}`;
    });
    return this.add(`IFCFACETEDBREP(#${this.add(`IFCCLOSEDSHELL((${made.join()}))`)})`);
  }

  /** An upright prism over an outline as faces, after a map of its points. */
  prismFaces(ring: readonly Vector2[], height: number, map: (p: Vector3) => Vector3 = (p) => p): number {
    const [low, high] = [0, height].map((z) => ring.map(([x, y]) => map([x, y, z]))) as [Vector3[], Vector3[]];
    const sides = ring.map((_, i) => {
      const j = (i + 1) % ring.length;
      return [low[i]!, low[j]!, high[j]!, high[i]!];
    });
    return this.brep([[...low].reverse(), high, ...sides]);
  }

  shape(items: readonly number[], kind = 'Body'): number {
    const r = this.add(`IFCSHAPEREPRESENTATION(#9,'${kind}','SweptSolid',(${items.map((i) => `#${i}`).join()}))`);
    return r;
  }

  /** An element with a body; `rest` are its attributes after the tag. */
  element(
    kind: string,
    items: readonly number[],
    rest = '',
    more: { axis?: readonly Vector2[]; name?: string } = {},
  ): number {
    const representations = [this.shape(items)];
    if (more.axis) representations.push(this.shape([this.polyline(more.axis)], 'Axis'));
    const shape = this.add(`IFCPRODUCTDEFINITIONSHAPE($,$,(${representations.map((r) => `#${r}`).join()}))`);
    const id = this.next;
    return this.contain(this.add(`${kind}('e${id}',$,'${more.name ?? kind}',$,$,#${this.placement},#${shape},$${rest})`)); // biome-ignore format: one record
  }

  /** What follows stands in this storey. */
  storey(name: string, levelM: number): void {
    this.storeys.push({ name, levelM, contents: [] });
  }

  /** Writes something that stands in no storey. */
  unplaced<T>(write: () => T): T {
    this.isPlaced = false;
    const made = write();
    this.isPlaced = true;
    return made;
  }

  private contain(id: number): number {
    if (this.storeys.length === 0) this.storey('Storey', 0);
    if (this.isPlaced) this.storeys.at(-1)!.contents.push(id);
    return id;
  }

  space(items: readonly number[], attributes = '.ELEMENT.,.INTERNAL.'): number {
    const shape = this.add(`IFCPRODUCTDEFINITIONSHAPE($,$,(#${this.shape(items)}))`);
    return this.contain(
      this.add(`IFCSPACE('s${this.next}',$,'Room',$,$,#${this.placement},#${shape},$,${attributes},$)`),
    );
  }

  /** Cuts an opening out of a host. */
  opening(host: number, items: readonly number[]): number {
    const shape = this.add(`IFCPRODUCTDEFINITIONSHAPE($,$,(#${this.shape(items)}))`);
    const rest = this.options.schema === 'IFC2X3' ? '' : ',.OPENING.';
    const opening = this.add(
      `IFCOPENINGELEMENT('o${this.next}',$,'Opening',$,$,#${this.placement},#${shape},$${rest})`,
    );
    this.add(`IFCRELVOIDSELEMENT('v${this.next}',$,$,$,#${host},#${opening})`);
    return opening;
  }

  /** The whole file. Elements stand in one storey. */
  finish(): string {
    for (const [i, { name, levelM, contents }] of this.storeys.entries()) {
      const place = this.add(`IFCLOCALPLACEMENT(#${this.placement},#${this.axis3([0, 0, levelM])})`);
      const storey = this.add(
        `IFCBUILDINGSTOREY('st${i}',$,'${name}',$,$,#${place},$,$,.ELEMENT.,${this.len(levelM)})`,
      );
      if (contents.length > 0)
        this.add(
          `IFCRELCONTAINEDINSPATIALSTRUCTURE('c${i}',$,$,$,(${contents.map((c) => `#${c}`).join()}),#${storey})`,
        );
    }
    return `ISO-10303-21;
HEADER;
FILE_SCHEMA(('${this.options.schema}'));
ENDSEC;
DATA;
#1=IFCCARTESIANPOINT((0.,0.,0.));
#2=IFCAXIS2PLACEMENT3D(#1,$,$);
${UNITS[String(this.options.unitM)]}
#8=IFCUNITASSIGNMENT((#7));
#9=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,$,#2,$);
#10=IFCPROJECT('p',$,'P',$,$,$,$,(#9),#8);
${this.lines.join('\n')}
ENDSEC;
END-ISO-10303-21;`;
  }

  /** Takes the model off. */
  async take() {
    const read = await takeOffIfc(new TextEncoder().encode(this.finish()));
    if (!read.ok) throw new Error(read.problem.message);
    return read.value;
  }

  /** Measured figures of the first element, by name. */
  async measure() {
    const { elements, findings } = await this.take();
    return {
      figures: new Map(elements[0]!.quantities.filter((q) => q.basis === 'measured').map((q) => [q.name, q])),
      openings: elements[0]!.openings,
      codes: findings.map((f) => f.code),
    };
  }
}

import { asRef, asRefs, type StepFile } from '../step/step-file.ts';
import { StepTyped, type StepValue } from '../step/step-value.ts';

/** The file's relations as maps by record number, made in one pass over its IfcRel records. */
export interface Relations {
  /** Spatial structure that contains an element. */
  readonly containedIn: ReadonlyMap<number, number>;
  /** Whole of a part (aggregates and nests); also storey of a room. */
  readonly partOf: ReadonlyMap<number, number>;
  readonly parts: ReadonlyMap<number, readonly number[]>;
  /** Openings of a host, host of an opening. */
  readonly openings: ReadonlyMap<number, readonly number[]>;
  readonly voids: ReadonlyMap<number, number>;
  /** What fills an opening, opening that an element fills. */
  readonly filledBy: ReadonlyMap<number, number>;
  readonly fills: ReadonlyMap<number, number>;
  /** Element that a projection stands out of. */
  readonly projects: ReadonlyMap<number, number>;
  readonly typeOf: ReadonlyMap<number, number>;
  readonly propertySets: ReadonlyMap<number, readonly number[]>;
  readonly material: ReadonlyMap<number, number>;
  readonly classifications: ReadonlyMap<number, readonly number[]>;
  /** Groups and spatial zones of an element. */
  readonly groups: ReadonlyMap<number, readonly number[]>;
}

function push(map: Map<number, number[]>, key: number, value: number): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

export function readRelations(file: StepFile): Relations {
  const one = () => new Map<number, number>();
  const many = () => new Map<number, number[]>();
  const r = {
    containedIn: one(), partOf: one(), parts: many(), openings: many(), voids: one(), filledBy: one(), fills: one(), projects: one(),
    typeOf: one(), propertySets: many(), material: one(), classifications: many(), groups: many(),
  }; // biome-ignore format: one field a word
  const each = (entity: string, visit: (a: readonly StepValue[]) => void) => {
    for (const id of file.idsOf(entity)) visit(file.attributes(id));
  };
  const link = (
    a: readonly StepValue[],
    objects: number,
    target: number,
    visit: (object: number, target: number) => void,
  ) => {
    for (const to of asRefs(a[target])) for (const object of asRefs(a[objects])) visit(object, to);
  };
  each('IFCRELCONTAINEDINSPATIALSTRUCTURE', (a) => link(a, 4, 5, (e, s) => void r.containedIn.set(e, s)));
  for (const entity of ['IFCRELAGGREGATES', 'IFCRELNESTS']) {
    each(entity, (a) =>
      link(a, 5, 4, (part, whole) => {
        if (part === whole || r.partOf.has(part)) return;
        r.partOf.set(part, whole);
        push(r.parts, whole, part);
      }),
    );
  }
  each('IFCRELVOIDSELEMENT', (a) => {
    const [host, opening] = [asRef(a[4]), asRef(a[5])];
    if (host === null || opening === null) return;
    push(r.openings, host, opening);
    r.voids.set(opening, host);
  });
  each('IFCRELFILLSELEMENT', (a) => {
    const [opening, filler] = [asRef(a[4]), asRef(a[5])];
    if (opening === null || filler === null) return;
    r.filledBy.set(opening, filler);
    r.fills.set(filler, opening);
  });
  each('IFCRELPROJECTSELEMENT', (a) => {
    const [host, projection] = [asRef(a[4]), asRef(a[5])];
    if (host !== null && projection !== null) r.projects.set(projection, host);
  });
  each('IFCRELDEFINESBYTYPE', (a) => link(a, 4, 5, (e, t) => void r.typeOf.set(e, t)));
  // Several sets may be given together (IfcPropertySetDefinitionSet).
  each('IFCRELDEFINESBYPROPERTIES', (a) => {
    const sets = a[5] instanceof StepTyped ? asRefs(a[5].value) : asRefs(a[5] ?? null);
    for (const set of sets) for (const e of asRefs(a[4] ?? null)) push(r.propertySets, e, set);
  });
  each('IFCRELASSOCIATESMATERIAL', (a) => link(a, 4, 5, (e, m) => void r.material.set(e, m)));
  each('IFCRELASSOCIATESCLASSIFICATION', (a) => link(a, 4, 5, (e, c) => push(r.classifications, e, c)));
  each('IFCRELASSIGNSTOGROUP', (a) => link(a, 4, 6, (e, g) => push(r.groups, e, g)));
  each('IFCRELREFERENCEDINSPATIALSTRUCTURE', (a) =>
    link(a, 4, 5, (e, z) => void (file.is(z, 'IFCSPATIALZONE') && push(r.groups, e, z))),
  );
  return r;
}

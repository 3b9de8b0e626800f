import {
  boundSweptSolid,
  classToMeasureGroup,
  type ElementBody,
  type Finding,
  foldText,
  invertRigid,
  isSaneBox,
  type Matrix,
  type MeasureGroup,
  multiplyMatrices,
  type OpeningBody,
  type PropertyValue,
  type Quantity,
  type RoomFinishes,
  type SweptSolid,
  type Vector2,
} from '@tally/core';
import { BodyReader } from '../geometry/bodies.ts';
import { type FileUnits, readFileUnits } from '../geometry/file-units.ts';
import { type BodyItem, moveTriangles, type ReadBody } from '../geometry/read-body.ts';
import { SurfaceStyleReader } from '../geometry/surface-styles.ts';
import { entityName, isEntity, isKnownEntity, listSubtypes } from '../schema/entities.ts';
import { asEnum, asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';
import { FinishReader } from './finish-reader.ts';
import { MaterialReader, type ReadMaterial, readDensities, readMaterialSets } from './materials.ts';
import { PropertySetReader, type ReadSet } from './property-sets.ts';
import { type Relations, readRelations } from './relations.ts';

/** An element as the file describes it, with its shape but not yet measured. */
export interface FileElement {
  /** Record number in the file. */
  readonly id: number;
  readonly globalId: string;
  readonly ifcClass: string;
  readonly group: MeasureGroup;
  readonly name: string | null;
  readonly typeName: string | null;
  readonly tag: string | null;
  readonly storey: string | null;
  readonly space: string | null;
  readonly parent: string | null;
  readonly host: string | null;
  readonly zones: readonly string[];
  readonly codes: readonly string[];
  readonly material: ReadMaterial;
  readonly properties: Record<string, Record<string, PropertyValue>>;
  readonly stated: readonly Quantity[];
  /** Names of stated figures that are not usable (negative, not finite). */
  readonly unusable: readonly string[];
  readonly placement: Matrix;
  readonly body: ElementBody | null;
  /** What its body is drawn with, item by item. */
  readonly items: readonly BodyItem[];
  /** Record numbers of the straight solids of its body. */
  readonly sweeps: readonly number[];
  /** The shape cannot be trusted: it must not go to the mesh reader. */
  readonly isDamaged: boolean;
  readonly hasParts: boolean;
  readonly overall: { readonly widthM: number | null; readonly heightM: number | null } | null;
  /** PredefinedType in capitals, e.g. `ROOF`. */
  readonly predefined: string | null;
  /** Middle line on plan, in the element's frame; null if the file gives none. */
  readonly axis: readonly Vector2[] | null;
  /** What a space is: a room, an area drawn for counting, or a group of rooms; null for everything else. */
  readonly spaceKind: SpaceKind | null;
  /** Finishes of a room; null for everything else. */
  readonly finishes: RoomFinishes | null;
}

/** Kinds of spaces: only rooms have walls and finishes; the others lie over them. */
export type SpaceKind = 'room' | 'gross-area' | 'group';

/** A storey as the file describes it. */
export interface FileStorey {
  readonly name: string;
  readonly elevation: number | null;
  /** Height of its level in the model's world, m. */
  readonly levelM: number;
  /** Gross floor area that the file states, m2. */
  readonly statedGfa: number | null;
}

/** A building model read from a file: its elements in file order and what the reading itself found. */
export interface FileModel {
  readonly schema: string;
  readonly units: FileUnits;
  readonly elements: readonly FileElement[];
  readonly densities: ReadonlyMap<string, number>;
  readonly storeys: readonly FileStorey[];
  readonly findings: readonly Finding[];
}

/** Reads all elements (every IfcElement but openings, and rooms). */
export function readFileModel(file: StepFile): FileModel {
  return new ElementReader(file).read();
}

/** The PredefinedType of an element: the last enumeration of its attributes that says what it is. */
function readPredefined(a: readonly StepValue[]): string | null {
  return (
    a
      .slice(8)
      .map(asEnum)
      .find((name) => name !== null) ?? null
  );
}

/** What kind of its class an element says it is, as a property beside its own. */
function addPredefined(
  properties: Record<string, Record<string, PropertyValue>>,
  predefined: string | null,
): Record<string, Record<string, PropertyValue>> {
  if (predefined === null || predefined === 'NOTDEFINED' || predefined === 'USERDEFINED') return properties;
  return { ...properties, Class: { ...properties.Class, PredefinedType: predefined } };
}

class ElementReader {
  private readonly units: FileUnits;
  private readonly relations: Relations;
  private readonly bodies: BodyReader;
  private readonly sets: PropertySetReader;
  private readonly materials: MaterialReader;
  private readonly globalIds = new Map<number, string>();
  private readonly shapes = new Map<number, ReadBody | null>();
  /** Bodies without openings, one for all elements that show it. */
  private readonly whole = new Map<ReadBody, ElementBody>();
  private readonly finishes: FinishReader;
  private readonly materialSets: ReadonlyMap<string, readonly ReadSet[]>;
  private readonly storeyNames: ReadonlyMap<number, string>;

  constructor(private readonly file: StepFile) {
    this.units = readFileUnits(file);
    this.relations = readRelations(file);
    this.bodies = new BodyReader(file, this.units, new SurfaceStyleReader(file));
    this.sets = new PropertySetReader(file, this.units);
    this.materials = new MaterialReader(file, this.units);
    this.materialSets = readMaterialSets(file, this.sets);
    this.finishes = new FinishReader(file, this.relations, this.materials);
    this.storeyNames = this.nameStoreys();
  }

  /** Names of storeys, each of its own: where two have one name they are told apart by their building, then by their number. */
  private nameStoreys(): Map<number, string> {
    const ids = this.file.idsOf('IFCBUILDINGSTOREY');
    const plain = new Map(
      ids.map((id) => {
        const a = this.file.attributes(id, true);
        return [id, asText(a[2]) ?? asText(a[7]) ?? `Storey #${id}`] as const;
      }),
    );
    const isShared = (names: ReadonlyMap<number, string>, id: number) => [...names].some(([other, name]) => other !== id && foldText(name) === foldText(names.get(id)!)); // biome-ignore format: one test
    const byBuilding = new Map(
      ids.map((id) => [id, isShared(plain, id) ? `${plain.get(id)} (${this.buildingOf(id) ?? `#${id}`})` : plain.get(id)!] as const), // biome-ignore format: one name
    );
    return new Map(ids.map((id) => [id, isShared(byBuilding, id) ? `${plain.get(id)} (#${id})` : byBuilding.get(id)!] as const)); // biome-ignore format: one name
  }

  private buildingOf(storey: number): string | null {
    for (let at = this.relations.partOf.get(storey), depth = 0; at !== undefined && depth < 16; depth++) {
      const a = this.file.attributes(at, true);
      if (this.file.is(at, 'IFCBUILDING')) return asText(a[2]) ?? asText(a[7]);
      at = this.relations.partOf.get(at);
    }
    return null;
  }

  private spaceKindOf(id: number, a: readonly StepValue[]): SpaceKind {
    if (asEnum(a[9] ?? null) === 'GFA') return 'gross-area';
    const isWhole = (this.relations.parts.get(id) ?? []).some((part) => isEntity(this.file.typeOf(part), 'IFCSPACE'));
    return isWhole || asEnum(a[8] ?? null) === 'COMPLEX' ? 'group' : 'room';
  }

  read(): FileModel {
    const openings = listSubtypes('IFCFEATUREELEMENTSUBTRACTION');
    const names = this.file
      .entityNames()
      .filter((n) => (isEntity(n, 'IFCELEMENT') && !openings.has(n)) || isEntity(n, 'IFCSPACE'));
    const elements = this.file
      .idsOfAny(names)
      .sort((a, b) => a - b)
      .flatMap((id) => this.readElement(id));
    const storeys = this.file.idsOf('IFCBUILDINGSTOREY').map((id) => this.readStorey(id));
    return {
      schema: this.file.index.schemaName,
      units: this.units,
      elements,
      densities: readDensities(this.file, this.units),
      storeys,
      findings: this.listFindings(),
    };
  }

  private readStorey(id: number): FileStorey {
    const a = this.file.attributes(id);
    const elevation = asNumber(a[9]);
    const stated = this.readSets(id, null).quantities.find((q) => foldText(q.name) === 'grossfloorarea');
    return {
      name: this.storeyNames.get(id)!,
      elevation: elevation === null ? null : elevation * this.units.length,
      levelM: this.bodies.placements.readObject(asRef(a[5]))[11],
      statedGfa: stated?.value ?? null,
    };
  }

  private listFindings(): Finding[] {
    const findings: Finding[] = [];
    const { index } = this.file;
    if (!index.isComplete) {
      findings.push({
        code: 'file-truncated',
        severity: 'error',
        message: `The file stops in the middle of its data; ${index.ids.length} records could be read. Export or copy it again.`,
        globalIds: [],
      });
    }
    for (const { id, line, reason } of [...index.faults, ...this.file.listFaults()]) {
      findings.push({
        code: 'file-record-damaged',
        severity: 'error',
        message: `Record ${id === null ? '' : `#${id} `}in line ${line} is damaged: ${reason}. What depends on it is left out.`,
        globalIds: [],
      });
    }
    if (index.duplicateIds.length > 0) {
      findings.push({
        code: 'file-duplicate-id',
        severity: 'error',
        message: `Record numbers stand twice in the file: ${index.duplicateIds
          .slice(0, 5)
          .map((d) => `#${d}`)
          .join(', ')}${index.duplicateIds.length > 5 ? ' …' : ''}. The first of each is used.`,
        globalIds: [],
      });
    }
    const strange = this.file.entityNames().filter((name) => !isKnownEntity(name));
    if (strange.length > 0) {
      const count = this.file.idsOfAny(strange).length;
      findings.push({
        code: 'entity-unknown',
        severity: 'warning',
        message: `${count === 1 ? 'One record is' : `${count} records are`} of no entity of IFC2X3, IFC4 or IFC4X3 and left out: ${strange.slice(0, 5).join(', ')}${strange.length > 5 ? ' …' : ''}.`,
        globalIds: [],
      });
    }
    if (this.units.isAssumed)
      findings.push({
        code: 'unit-assumed',
        severity: 'warning',
        message: 'The file names no length unit; metres were taken. Compare a known length.',
        globalIds: [],
      });
    return findings;
  }

  private globalId(id: number): string {
    let value = this.globalIds.get(id);
    if (value === undefined) {
      value = asText(this.file.attributes(id)[0]) ?? `#${id}`;
      this.globalIds.set(id, value);
    }
    return value;
  }

  private readElement(id: number): FileElement[] {
    const a = this.file.attributes(id);
    if (a.length === 0) return [];
    const upper = this.file.typeOf(id);
    const r = this.relations;
    const isSpace = isEntity(upper, 'IFCSPACE');
    const type = r.typeOf.get(id) ?? null;
    const opening = r.fills.get(id);
    const host = opening === undefined ? undefined : r.voids.get(opening);
    const whole = r.partOf.get(id);
    const isPart = whole !== undefined && isEntity(this.file.typeOf(whole), 'IFCELEMENT');
    const place = this.locate(id);
    const ifcClass = entityName(upper);
    const placement = this.bodies.placements.readObject(asRef(a[5]));
    const isLost = this.bodies.placements.isObjectDamaged(asRef(a[5]));
    const read = this.readShape(asRef(a[6]));
    const shape = read && isLost ? { ...read, isDamaged: true } : read;
    const sets = this.readSets(id, type);
    const material = this.readMaterial(id, type, isPart ? whole : null);
    const spaceKind = isSpace ? this.spaceKindOf(id, a) : null;
    const predefined = isSpace ? asEnum(a[9] ?? null) : readPredefined(a);
    const isFiller = isEntity(upper, 'IFCDOOR') || isEntity(upper, 'IFCWINDOW');
    const size = (i: number) => (asNumber(a[i]) === null ? null : asNumber(a[i])! * this.units.length);
    return [
      {
        id,
        globalId: this.globalId(id),
        ifcClass,
        group: classToMeasureGroup(ifcClass),
        name: (isSpace ? asText(a[7]) : null) ?? asText(a[2]),
        typeName: (type === null ? null : asText(this.file.attributes(type, true)[2])) ?? asText(a[4]),
        tag: isSpace ? asText(a[2]) : asText(a[7]),
        storey: place.storey,
        space: place.space,
        parent: isPart ? this.globalId(whole) : null,
        host: host !== undefined ? this.globalId(host) : r.projects.has(id) ? this.globalId(r.projects.get(id)!) : null,
        zones: this.readZones(id),
        codes: this.readCodes(id, type),
        material,
        properties: addPredefined(this.addMaterialSets(sets.properties, material), predefined),
        stated: sets.quantities,
        unusable: sets.unusable,
        placement,
        body: shape && !shape.isDamaged ? this.openBody(shape, this.readOpenings(id, placement)) : null,
        items: shape?.items ?? [],
        sweeps: shape?.sweeps ?? [],
        isDamaged: shape?.isDamaged ?? false,
        hasParts: (r.parts.get(id) ?? []).length > 0,
        overall: isFiller ? { heightM: size(8), widthM: size(9) } : null,
        predefined,
        axis: isEntity(upper, 'IFCWALL') ? this.bodies.readAxis(asRef(a[6])) : null,
        spaceKind,
        finishes: spaceKind === 'room' ? this.finishes.read(id, sets.properties) : null,
      },
    ];
  }

  private readShape(ref: number | null): ReadBody | null {
    if (ref === null) return null;
    let shape = this.shapes.get(ref);
    if (shape === undefined) {
      shape = this.bodies.readShape(ref);
      this.shapes.set(ref, shape);
    }
    return shape;
  }

  private openBody(shape: ReadBody, openings: readonly OpeningBody[]): ElementBody {
    const known = openings.length === 0 ? this.whole.get(shape) : undefined;
    if (known) return known;
    const body = { ...shape, openings };
    if (openings.length === 0) this.whole.set(shape, body);
    return body;
  }

  /** Storey and room of an element: its own, else those of its whole or its host. */
  private locate(id: number): { storey: string | null; space: string | null } {
    const r = this.relations;
    let space: string | null = null;
    for (let at: number | undefined = id, depth = 0; at !== undefined && depth < 32; depth++) {
      if (this.file.typeOf(at) === 'IFCBUILDINGSTOREY') {
        return { storey: this.storeyNames.get(at) ?? null, space };
      }
      if (at !== id && this.file.is(at, 'IFCSPACE')) space ??= this.globalId(at);
      const opening: number | undefined = r.fills.get(at);
      at =
        r.containedIn.get(at) ??
        r.partOf.get(at) ??
        r.projects.get(at) ??
        (opening === undefined ? undefined : r.voids.get(opening));
    }
    return { storey: null, space };
  }

  private readOpenings(id: number, placement: Matrix): OpeningBody[] {
    const openings = this.relations.openings.get(id);
    if (!openings) return [];
    const toHost = invertRigid(placement);
    return openings.map((opening): OpeningBody => {
      const a = this.file.attributes(opening);
      const shape = this.readShape(asRef(a[6]));
      const filler = this.relations.filledBy.get(opening);
      const isPlain = shape && !shape.isDamaged && !shape.isClipped && !shape.hasOther && shape.formed.length === 0;
      const isOne = isPlain && shape.solids.length + shape.drawn.length === 1;
      const matrix = isOne ? multiplyMatrices(toHost, this.bodies.placements.readObject(asRef(a[5]))) : null;
      const [solid, drawn] = isOne ? [shape.solids[0], shape.drawn[0]] : [];
      return {
        globalId: this.globalId(opening),
        filledBy: filler === undefined ? null : this.globalId(filler),
        solid: solid ? placeSane(solid, matrix!) : null,
        drawn: drawn ? moveTriangles(drawn, matrix!) : null,
      };
    });
  }

  private readSets(
    id: number,
    type: number | null,
  ): Pick<FileElement, 'properties' | 'unusable'> & { quantities: Quantity[] } {
    const properties: Record<string, Record<string, PropertyValue>> = {};
    const quantities = new Map<string, Quantity>();
    const unusable: string[] = [];
    const ofType = type === null ? [] : asRefs(this.file.attributes(type, true)[5]);
    for (const [ids, isOwn] of [
      [ofType, false],
      [this.relations.propertySets.get(id) ?? [], true],
    ] as const) {
      for (const setId of ids) {
        const set = this.sets.read(setId);
        if (!set) continue;
        if (Object.keys(set.properties).length > 0)
          properties[set.name] = { ...properties[set.name], ...set.properties };
        // Quantities stated on a type hold for no single occurrence.
        if (isOwn) for (const q of set.quantities) if (!quantities.has(q.name)) quantities.set(q.name, q);
        if (isOwn) unusable.push(...set.unusable);
      }
    }
    return { properties, quantities: [...quantities.values()], unusable };
  }

  /** Property sets of an element's material beside its own, which count first. With several materials each set says whose it is. */
  private addMaterialSets(
    properties: Record<string, Record<string, PropertyValue>>,
    { names }: ReadMaterial,
  ): Record<string, Record<string, PropertyValue>> {
    if (!names.some((name) => this.materialSets.has(name))) return properties;
    const out = { ...properties };
    for (const name of names)
      for (const set of this.materialSets.get(name) ?? []) {
        const title = names.length === 1 ? set.name : `${name}: ${set.name}`;
        if (Object.keys(set.properties).length > 0) out[title] = { ...set.properties, ...out[title] };
      }
    return out;
  }

  private readMaterial(id: number, type: number | null, whole: number | null): ReadMaterial {
    const own =
      this.relations.material.get(id) ??
      (type === null ? undefined : this.relations.material.get(type)) ??
      (whole === null ? undefined : this.relations.material.get(whole));
    return own === undefined ? { names: [], layers: [] } : this.materials.read(own);
  }

  private readCodes(id: number, type: number | null): string[] {
    const own = this.relations.classifications.get(id);
    const ofType = type === null ? undefined : this.relations.classifications.get(type);
    if (!own && !ofType) return [];
    const refs = [...(own ?? []), ...(ofType ?? [])];
    const codes = refs.map((ref) => this.readCode(ref));
    return [...new Set(codes.filter((c) => c !== null))];
  }

  /** Code of a classification reference: its own, else that of the reference it stands under. A system as a whole is no code. */
  private readCode(ref: number): string | null {
    let at: number | null = ref;
    let name: string | null = null;
    for (let depth = 0; at !== null && depth < 16; depth++) {
      if (!this.file.is(at, 'IFCCLASSIFICATIONREFERENCE')) break;
      const a: readonly StepValue[] = this.file.attributes(at, true);
      const code = asText(a[1] ?? null);
      if (code !== null) return code;
      name ??= asText(a[2] ?? null);
      at = asRef(a[3] ?? null);
    }
    return name;
  }

  private readZones(id: number): string[] {
    const groups = this.relations.groups.get(id);
    if (!groups) return [];
    const zones = groups.filter((g) => this.file.is(g, 'IFCZONE') || this.file.is(g, 'IFCSPATIALZONE'));
    return zones.map((g) => asText(this.file.attributes(g, true)[2])).filter((n) => n !== null);
  }
}

/** A solid in another frame; null if its figures are no numbers, or larger than any building: then only its mesh can tell. */
function placeSane(solid: SweptSolid, matrix: Matrix): SweptSolid | null {
  const placed = { ...solid, placement: multiplyMatrices(matrix, solid.placement) };
  return isSaneBox(boundSweptSolid(placed)) ? placed : null;
}

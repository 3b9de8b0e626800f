import {
  classToMeasureGroup,
  type ElementBody,
  type Finding,
  foldText,
  invertRigid,
  type Matrix,
  type MeasureGroup,
  multiplyMatrices,
  type OpeningBody,
  type PropertyValue,
  type Quantity,
  type RoomFinishes,
  type Vector2,
} from '@tally/core';
import { type BodyItem, BodyReader, type ReadBody } from '../geometry/bodies.ts';
import { entityName, isEntity, isKnownEntity, listSubtypes } from '../schema/entities.ts';
import { asEnum, asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';
import { type FileUnits, readFileUnits } from './file-units.ts';
import { FinishReader } from './finish-reader.ts';
import { MaterialReader, type ReadMaterial, readDensities } from './materials.ts';
import { PropertySetReader } from './property-sets.ts';
import { type Relations, readRelations } from './relations.ts';
import { SurfaceStyleReader } from './surface-styles.ts';

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
  /** The shape cannot be trusted: it must not go to the mesh reader. */
  readonly isDamaged: boolean;
  readonly hasParts: boolean;
  readonly overall: { readonly widthM: number | null; readonly heightM: number | null } | null;
  /** PredefinedType in capitals, e.g. `ROOF`. */
  readonly predefined: string | null;
  /** Middle line on plan, in the element's frame; null if the file gives none. */
  readonly axis: readonly Vector2[] | null;
  /** Finishes of a room; null for everything else. */
  readonly finishes: RoomFinishes | null;
}

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

class ElementReader {
  private readonly units: FileUnits;
  private readonly relations: Relations;
  private readonly bodies: BodyReader;
  private readonly sets: PropertySetReader;
  private readonly materials: MaterialReader;
  private readonly globalIds = new Map<number, string>();
  private readonly shapes = new Map<number, ReadBody | null>();
  private readonly finishes: FinishReader;

  constructor(private readonly file: StepFile) {
    this.units = readFileUnits(file);
    this.relations = readRelations(file);
    this.bodies = new BodyReader(file, this.units, new SurfaceStyleReader(file));
    this.sets = new PropertySetReader(file, this.units);
    this.materials = new MaterialReader(file, this.units);
    this.finishes = new FinishReader(file, this.relations, this.materials);
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
      name: asText(a[2]) ?? asText(a[7]) ?? `Storey #${id}`,
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
    const shape = this.readShape(asRef(a[6]));
    const sets = this.readSets(id, type);
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
        host: host === undefined ? null : this.globalId(host),
        zones: this.readZones(id),
        codes: this.readCodes(id, type),
        material: this.readMaterial(id, type, isPart ? whole : null),
        properties: sets.properties,
        stated: sets.quantities,
        unusable: sets.unusable,
        placement,
        body: shape && !shape.isDamaged ? { ...shape, openings: this.readOpenings(id, placement) } : null,
        items: shape?.items ?? [],
        isDamaged: shape?.isDamaged ?? false,
        hasParts: (r.parts.get(id) ?? []).length > 0,
        overall: isFiller ? { heightM: size(8), widthM: size(9) } : null,
        predefined: readPredefined(a),
        axis: isEntity(upper, 'IFCWALL') ? this.bodies.readAxis(asRef(a[6])) : null,
        finishes: isSpace ? this.finishes.read(id, sets.properties) : null,
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

  /** Storey and room of an element: its own, else those of its whole or its host. */
  private locate(id: number): { storey: string | null; space: string | null } {
    const r = this.relations;
    let space: string | null = null;
    for (let at: number | undefined = id, depth = 0; at !== undefined && depth < 32; depth++) {
      if (this.file.typeOf(at) === 'IFCBUILDINGSTOREY') {
        const a = this.file.attributes(at, true);
        return { storey: asText(a[2]) ?? asText(a[7]) ?? `Storey #${at}`, space };
      }
      if (at !== id && this.file.is(at, 'IFCSPACE')) space ??= this.globalId(at);
      const opening: number | undefined = r.fills.get(at);
      at = r.containedIn.get(at) ?? r.partOf.get(at) ?? (opening === undefined ? undefined : r.voids.get(opening));
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
      const isSimple = shape && !shape.isDamaged && !shape.isClipped && !shape.hasOther && shape.solids.length === 1;
      const matrix = isSimple ? multiplyMatrices(toHost, this.bodies.placements.readObject(asRef(a[5]))) : null;
      const solid = isSimple
        ? { ...shape.solids[0]!, placement: multiplyMatrices(matrix!, shape.solids[0]!.placement) }
        : null;
      return { globalId: this.globalId(opening), filledBy: filler === undefined ? null : this.globalId(filler), solid };
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

  private readMaterial(id: number, type: number | null, whole: number | null): ReadMaterial {
    const own =
      this.relations.material.get(id) ??
      (type === null ? undefined : this.relations.material.get(type)) ??
      (whole === null ? undefined : this.relations.material.get(whole));
    return own === undefined ? { names: [], layers: [] } : this.materials.read(own);
  }

  private readCodes(id: number, type: number | null): string[] {
    const refs = [
      ...(this.relations.classifications.get(id) ?? []),
      ...(type === null ? [] : (this.relations.classifications.get(type) ?? [])),
    ];
    const codes = refs.map(
      (ref) => asText(this.file.attributes(ref, true)[1]) ?? asText(this.file.attributes(ref, true)[2]),
    );
    return [...new Set(codes.filter((c) => c !== null))];
  }

  private readZones(id: number): string[] {
    const groups = (this.relations.groups.get(id) ?? []).filter(
      (g) => this.file.is(g, 'IFCZONE') || this.file.is(g, 'IFCSPATIALZONE'),
    );
    return groups.map((g) => asText(this.file.attributes(g, true)[2])).filter((n) => n !== null);
  }
}

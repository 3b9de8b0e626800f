import { appendToList, type LayerDefinition } from '@tally/core';
import type { FileUnits } from '../geometry/file-units.ts';
import { asEnum, asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';
import type { PropertySetReader, ReadSet } from './property-sets.ts';

/** Materials of an element: their names, and the layers if it is layered. */
export interface ReadMaterial {
  readonly names: readonly string[];
  readonly layers: readonly LayerDefinition[];
  /** The layers follow each other against the direction across the element (DirectionSense NEGATIVE). */
  readonly isReversed?: boolean;
  /** Distance of the first face of the layers from the reference line, to its left positive, m; absent without a usage. */
  readonly offsetM?: number;
}

const NONE: ReadMaterial = { names: [], layers: [] };

/** Reads material definitions of every kind the standard has, once each. */
export class MaterialReader {
  private readonly known = new Map<number, ReadMaterial>();

  constructor(
    private readonly file: StepFile,
    private readonly units: FileUnits,
  ) {}

  read(id: number): ReadMaterial {
    let material = this.known.get(id);
    if (!material) {
      this.known.set(id, NONE);
      material = this.readKind(id);
      this.known.set(id, material);
    }
    return material;
  }

  private name(ref: number | null): string | null {
    return ref === null ? null : asText(this.file.attributes(ref)[0]);
  }

  /** Constituents or profiles: their materials, each with its share; the only one there is has all of the body. */
  private composed(
    parts: readonly (readonly [material: number | null, share: number | null, category: string | null])[],
  ): ReadMaterial {
    const layers = parts.map(
      ([material, share, category]): LayerDefinition => ({
        material: this.name(material),
        thicknessM: null,
        share: share ?? (parts.length === 1 ? 1 : null),
        function: category,
      }),
    );
    return { names: [...new Set(layers.map((l) => l.material).filter((n) => n !== null))], layers };
  }

  private readKind(id: number): ReadMaterial {
    const a = this.file.attributes(id);
    const named = (names: (string | null)[]): ReadMaterial => ({
      names: [...new Set(names.filter((n) => n !== null))],
      layers: [],
    });
    switch (this.file.typeOf(id)) {
      case 'IFCMATERIAL':
        return named([asText(a[0])]);
      case 'IFCMATERIALLIST':
        return named(asRefs(a[0]).map((m) => this.name(m)));
      case 'IFCMATERIALLAYERSETUSAGE':
        return asRef(a[0]) === null
          ? NONE
          : {
              ...this.read(asRef(a[0])!),
              isReversed: asEnum(a[2]) === 'NEGATIVE',
              offsetM: (asNumber(a[3]) ?? 0) * this.units.length,
            };
      case 'IFCMATERIALPROFILESETUSAGE':
      case 'IFCMATERIALPROFILESETUSAGETAPERING':
        return asRef(a[0]) === null ? NONE : this.read(asRef(a[0])!);
      case 'IFCMATERIALLAYERSET': {
        const layers = asRefs(a[0]).map((layer): LayerDefinition => {
          const [material, thickness, , , , category] = this.file.attributes(layer);
          return {
            material: this.name(asRef(material)),
            thicknessM: (asNumber(thickness) ?? 0) * this.units.length,
            function: asText(category ?? null),
          };
        });
        return { ...named(layers.map((l) => l.material)), layers };
      }
      case 'IFCMATERIALLAYER':
        return named([this.name(asRef(a[0]))]);
      case 'IFCMATERIALPROFILESET':
        return this.composed(
          asRefs(a[2]).map((p) => {
            const profile = this.file.attributes(p);
            return [asRef(profile[2]), null, asText(profile[5] ?? null)] as const;
          }),
        );
      case 'IFCMATERIALPROFILE':
        return named([this.name(asRef(a[2]))]);
      case 'IFCMATERIALCONSTITUENTSET':
        return this.composed(
          asRefs(a[2]).map((c) => {
            const constituent = this.file.attributes(c);
            return [asRef(constituent[2]), asNumber(constituent[3]), asText(constituent[4] ?? null)] as const;
          }),
        );
      case 'IFCMATERIALCONSTITUENT':
        return named([this.name(asRef(a[2]))]);
      default:
        return NONE;
    }
  }
}

/** Property sets of materials by the material's name, without their densities (IfcMaterialProperties; IFC2X3: IfcExtendedMaterialProperties). */
export function readMaterialSets(file: StepFile, sets: PropertySetReader): Map<string, ReadSet[]> {
  const out = new Map<string, ReadSet[]>();
  const add = (id: number, name: StepValue, properties: StepValue, material: StepValue) => {
    const ref = asRef(material);
    const of = ref === null ? null : asText(file.attributes(ref)[0] ?? null);
    if (of === null) return;
    const set = sets.readProperties(asText(name) ?? `Material #${id}`, asRefs(properties));
    // Densities are read for themselves.
    delete set.properties.MassDensity;
    if (Object.keys(set.properties).length === 0) return;
    appendToList(out, of, set);
  };
  for (const id of file.idsOf('IFCMATERIALPROPERTIES')) {
    const a = file.attributes(id);
    add(id, a[0] ?? null, a[2] ?? null, a[3] ?? null);
  }
  for (const id of file.idsOf('IFCEXTENDEDMATERIALPROPERTIES')) {
    const a = file.attributes(id);
    add(id, a[3] ?? null, a[1] ?? null, a[0] ?? null);
  }
  return out;
}

/** Densities in kg/m3 by material name, from material property sets (IFC4) and general material properties (IFC2X3). */
export function readDensities(file: StepFile, units: FileUnits): Map<string, number> {
  const out = new Map<string, number>();
  const note = (material: number | null, value: number | null) => {
    const name = material === null ? null : asText(file.attributes(material)[0]);
    if (name !== null && value !== null && value > 0) out.set(name, value * units.density);
  };
  for (const id of file.idsOf('IFCMATERIALPROPERTIES')) {
    const a = file.attributes(id);
    for (const p of asRefs(a[2])) {
      const [name, , value] = file.attributes(p);
      if (asText(name) === 'MassDensity') note(asRef(a[3]), asNumber(value));
    }
  }
  for (const id of file.idsOf('IFCGENERALMATERIALPROPERTIES')) {
    const a = file.attributes(id);
    note(asRef(a[0]), asNumber(a[3]));
  }
  for (const id of file.idsOf('IFCEXTENDEDMATERIALPROPERTIES')) {
    const a = file.attributes(id);
    for (const p of asRefs(a[1])) {
      const [name, , value] = file.attributes(p);
      if (asText(name) === 'MassDensity') note(asRef(a[0]), asNumber(value));
    }
  }
  return out;
}

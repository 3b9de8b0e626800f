import type { PropertyValue, Quantity, SiUnit } from '@tally/core';
import { type FileUnits, readUnitFactor } from '../geometry/file-units.ts';
import { asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import { StepEnum, StepTyped, type StepValue } from '../step/step-value.ts';

/** A property set or quantity set, read. Invalid figures are left out and named in `unusable`. */
export interface ReadSet {
  readonly name: string;
  readonly properties: Record<string, PropertyValue>;
  readonly quantities: readonly Quantity[];
  readonly unusable: readonly string[];
}

const MEASURE_FACTOR: Record<string, keyof FileUnits> = {
  IFCLENGTHMEASURE: 'length',
  IFCPOSITIVELENGTHMEASURE: 'length',
  IFCNONNEGATIVELENGTHMEASURE: 'length',
  IFCAREAMEASURE: 'area',
  IFCVOLUMEMEASURE: 'volume',
  IFCMASSMEASURE: 'mass',
  IFCMASSDENSITYMEASURE: 'density',
};

/** A property value in SI; null if it has none that can be shown. */
export function readPropertyValue(value: StepValue, units: FileUnits, unitFactor: number | null): PropertyValue | null {
  if (value instanceof StepTyped) {
    if (value.value instanceof StepEnum) return enumToValue(value.value);
    if (typeof value.value === 'number') {
      const factor = unitFactor ?? (units[MEASURE_FACTOR[value.type] as 'length'] as number | undefined) ?? 1;
      return Number.isFinite(value.value) ? value.value * factor : null;
    }
    return readPropertyValue(value.value, units, unitFactor);
  }
  if (value instanceof StepEnum) return enumToValue(value);
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  if (Array.isArray(value)) {
    const parts = value.map((v) => readPropertyValue(v, units, unitFactor)).filter((v) => v !== null);
    return parts.length > 0 ? parts.join(', ') : null;
  }
  return null;
}

function enumToValue({ name }: StepEnum): PropertyValue {
  return name === 'T' ? true : name === 'F' ? false : name === 'U' ? 'unknown' : name;
}

const QUANTITY_KINDS: Record<string, { unit: SiUnit; factor: 'length' | 'area' | 'volume' | 'mass' | null }> = {
  IFCQUANTITYLENGTH: { unit: 'm', factor: 'length' },
  IFCQUANTITYAREA: { unit: 'm2', factor: 'area' },
  IFCQUANTITYVOLUME: { unit: 'm3', factor: 'volume' },
  IFCQUANTITYWEIGHT: { unit: 'kg', factor: 'mass' },
  IFCQUANTITYCOUNT: { unit: 'each', factor: null },
};

/** Reads property and quantity sets once each; elements share the result. */
export class PropertySetReader {
  private readonly sets = new Map<number, ReadSet | null>();

  constructor(
    private readonly file: StepFile,
    private readonly units: FileUnits,
  ) {}

  read(id: number): ReadSet | null {
    const known = this.sets.get(id);
    if (known !== undefined) return known;
    const set = this.readSet(id);
    this.sets.set(id, set);
    return set;
  }

  /** Properties of something that is no set of its own, as those of a material. */
  readProperties(name: string, ids: readonly number[]): ReadSet {
    const properties: Record<string, PropertyValue> = {};
    for (const id of ids) this.readProperty(id, properties, 0);
    return { name, properties, quantities: [], unusable: [] };
  }

  private readSet(id: number): ReadSet | null {
    const a = this.file.attributes(id);
    const name = asText(a[2]) ?? 'Unnamed';
    const properties: Record<string, PropertyValue> = {};
    const quantities: Quantity[] = [];
    const unusable: string[] = [];
    if (this.file.typeOf(id) === 'IFCPROPERTYSET') {
      for (const p of asRefs(a[4])) this.readProperty(p, properties, 0);
    } else if (this.file.typeOf(id) === 'IFCELEMENTQUANTITY') {
      for (const q of asRefs(a[5])) this.readQuantity(q, quantities, unusable);
    } else return null;
    return { name, properties, quantities, unusable };
  }

  private readProperty(id: number, into: Record<string, PropertyValue>, depth: number): void {
    const a = this.file.attributes(id);
    const name = asText(a[0]);
    if (name === null || depth > 4) return;
    const unit = (at: number) => (asRef(a[at]) === null ? null : readUnitFactor(this.file, asRef(a[at])!));
    const set = (value: StepValue, factor: number | null) => {
      const read = readPropertyValue(value, this.units, factor);
      if (read !== null) into[name] = read;
    };
    switch (this.file.typeOf(id)) {
      case 'IFCPROPERTYSINGLEVALUE':
        return set(a[2], unit(3));
      case 'IFCPROPERTYENUMERATEDVALUE':
        return set(a[2] ?? null, this.enumerationUnit(a[3] ?? null));
      case 'IFCPROPERTYLISTVALUE':
        return set(a[2] ?? null, unit(3));
      case 'IFCPROPERTYBOUNDEDVALUE':
        return this.readBounded(name, a, unit(4), into);
      case 'IFCCOMPLEXPROPERTY':
        for (const p of asRefs(a[3])) {
          const inner: Record<string, PropertyValue> = {};
          this.readProperty(p, inner, depth + 1);
          for (const [k, v] of Object.entries(inner)) into[`${name}.${k}`] = v;
        }
    }
  }

  /** Values of an enumeration are in the unit it is defined with. */
  private enumerationUnit(reference: StepValue): number | null {
    const enumeration = asRef(reference);
    const unit = enumeration === null ? null : asRef(this.file.attributes(enumeration)[2] ?? null);
    return unit === null ? null : readUnitFactor(this.file, unit);
  }

  /** A range: its set point where it has one, else both bounds as a text; each bound under a name of its own too. */
  private readBounded(
    name: string,
    a: readonly StepValue[],
    factor: number | null,
    into: Record<string, PropertyValue>,
  ): void {
    const read = (value: StepValue | undefined) => readPropertyValue(value ?? null, this.units, factor);
    const [upper, lower, point] = [read(a[2]), read(a[3]), read(a[5])];
    if (lower !== null) into[`${name}.Lower`] = lower;
    if (upper !== null) into[`${name}.Upper`] = upper;
    if (point !== null) into[name] = point;
    else if (upper !== null && lower !== null) into[name] = upper === lower ? upper : `${lower} to ${upper}`;
    else if (upper !== null) into[name] = `up to ${upper}`;
    else if (lower !== null) into[name] = `from ${lower}`;
  }

  private readQuantity(id: number, into: Quantity[], unusable: string[]): void {
    const kind = QUANTITY_KINDS[this.file.typeOf(id)];
    const a = this.file.attributes(id);
    const name = asText(a[0]);
    if (!kind || name === null) return;
    const own = asRef(a[2]);
    const factor =
      (own === null ? null : readUnitFactor(this.file, own)) ?? (kind.factor ? this.units[kind.factor] : 1);
    const value = asNumber(a[3]);
    if (value === null || !Number.isFinite(value * factor) || value < 0) unusable.push(name);
    else into.push({ name, value: value * factor, unit: kind.unit, basis: 'stated', method: 'file' });
  }
}

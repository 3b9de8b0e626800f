import { attributeCount, isEntity } from '../schema/entities.ts';
import { lineOf, type RecordFault, type StepIndex } from './step-index.ts';
import { parseAttributes, StepEnum, StepRef, StepSyntaxError, StepTyped, type StepValue } from './step-value.ts';

const EMPTY: readonly StepValue[] = [];

/** Place of a record by its number. */
interface RecordPositions {
  has(id: number): boolean;
  get(id: number): number | undefined;
  set(id: number, position: number): void;
}

/** Numbers usually run from 1 without large gaps: then an array serves, which is far smaller and quicker than a map. */
function createPositions(ids: Float64Array): RecordPositions {
  let largest = 0;
  for (let i = 0; i < ids.length; i++) largest = Math.max(largest, ids[i]!);
  if (largest > 8 * ids.length + 1024) return new Map<number, number>();
  const places = new Int32Array(largest + 1).fill(-1);
  return {
    has: (id) => places[id]! >= 0,
    get: (id) => {
      const place = places[id];
      return place === undefined || place < 0 ? undefined : place;
    },
    set: (id, position) => {
      places[id] = position;
    },
  };
}

/** Number of records remembered; a power of two. */
const RECENT = 1024;
/** Random access to the records of an indexed file. Values are parsed on demand; damaged records read as empty and are told. */
export class StepFile {
  private readonly positions: RecordPositions;
  private readonly damaged = new Map<number, string>();
  private readonly byType = new Map<string, number[]>();
  private readonly attributeCounts: (number | null)[];
  private readonly cache = new Map<number, readonly StepValue[]>();
  /** The records read last: one element asks for the same few again and again. */
  private readonly recentIds = new Float64Array(RECENT).fill(-1);
  private readonly recentValues: (readonly StepValue[])[] = [];

  constructor(readonly index: StepIndex) {
    const { ids, types, names } = index;
    this.positions = createPositions(ids);
    this.attributeCounts = names.map((name) => attributeCount(name, index.schema));
    for (let i = 0; i < ids.length; i++) {
      // Of records with one number the first is kept, as the readers of the file's other users do.
      if (this.positions.has(ids[i]!)) continue;
      this.positions.set(ids[i]!, i);
      const name = names[types[i]!]!;
      const list = this.byType.get(name);
      if (list) list.push(ids[i]!);
      else this.byType.set(name, [ids[i]!]);
    }
  }

  /** Entity name of a record in capitals; '' if there is no such record. */
  typeOf(id: number): string {
    const at = this.positions.get(id);
    return at === undefined ? '' : this.index.names[this.index.types[at]!]!;
  }

  /** True if the record is of the entity (capitals) or a subtype. */
  is(id: number, entity: string): boolean {
    return isEntity(this.typeOf(id), entity);
  }

  /** Records of exactly this entity, in file order. */
  idsOf(entity: string): readonly number[] {
    return this.byType.get(entity) ?? [];
  }

  /** Records of any of these entities. */
  idsOfAny(entities: Iterable<string>): number[] {
    const out: number[] = [];
    for (const e of entities) for (const id of this.idsOf(e)) out.push(id);
    return out;
  }

  /** Entity names that occur in the file, capitals. */
  entityNames(): string[] {
    return [...this.byType.keys()];
  }

  /** Attributes of a record; empty if there is none or it is damaged. `keep` remembers them for records used often. */
  attributes(id: number, keep = false): readonly StepValue[] {
    const slot = id & (RECENT - 1);
    if (this.recentIds[slot] === id) return this.recentValues[slot]!;
    const kept = this.cache.get(id);
    if (kept) return kept;
    const at = this.positions.get(id);
    if (at === undefined) return EMPTY;
    let values: readonly StepValue[];
    try {
      values = parseAttributes(this.index.bytes, this.index.starts[at]!, this.index.ends[at]!);
      const least = this.attributeCounts[this.index.types[at]!];
      if (least != null && values.length < least) {
        this.damaged.set(id, `it has ${values.length} attributes; ${this.typeOf(id)} needs ${least}`);
        values = EMPTY;
      }
    } catch (error) {
      if (!(error instanceof StepSyntaxError)) throw error;
      this.damaged.set(id, error.message);
      values = EMPTY;
    }
    if (keep) this.cache.set(id, values);
    this.recentIds[slot] = id;
    this.recentValues[slot] = values;
    return values;
  }

  /** True if the record was found damaged when it was read. */
  isDamaged(id: number): boolean {
    return this.damaged.has(id);
  }

  /** Notes a fault that only shows in the meaning of a record (a cycle, a wrong reference). */
  noteDamage(id: number, reason: string): void {
    this.damaged.set(id, reason);
  }

  /** Faults met so far while reading attributes. */
  listFaults(): RecordFault[] {
    return [...this.damaged].map(([id, reason]) => ({
      id,
      line: lineOf(this.index.bytes, this.index.starts[this.positions.get(id)!]!),
      reason,
    }));
  }
}

/** Number of a reference; null if the value is none. */
export function asRef(value: StepValue): number | null {
  return value instanceof StepRef ? value.id : null;
}

/** Numbers of the references in a list, or of a single one. */
export function asRefs(value: StepValue): number[] {
  if (value instanceof StepRef) return [value.id];
  if (!Array.isArray(value)) return [];
  const [first] = value;
  if (value.length === 1) return first instanceof StepRef ? [first.id] : [];
  const out: number[] = [];
  for (const v of value) if (v instanceof StepRef) out.push(v.id);
  return out;
}

/** Text of a value, typed or not; null if it is none or empty. */
export function asText(value: StepValue): string | null {
  const plain = value instanceof StepTyped ? value.value : value;
  return typeof plain === 'string' && plain !== '' ? plain : null;
}

/** No figure of a building is larger, in whatever unit; what is, is a slip of the file. */
const LARGEST = 1e15;
const isSane = (figure: number) => Math.abs(figure) <= LARGEST;

/** Figure of a value, typed or not; null if it is none, or out of all range. */
export function asNumber(value: StepValue): number | null {
  const plain = value instanceof StepTyped ? value.value : value;
  return typeof plain === 'number' && isSane(plain) ? plain : null;
}

/** Name of an enumeration value; null if it is none. */
export function asEnum(value: StepValue): string | null {
  return value instanceof StepEnum ? value.name.toUpperCase() : null;
}

/** Figures of a list; an empty one if the value is none. A figure out of all range is NaN, so that nothing is measured by it. */
export function asNumbers(value: StepValue): number[] {
  const out: number[] = [];
  if (!Array.isArray(value)) return out;
  for (const v of value) {
    const plain = v instanceof StepTyped ? v.value : v;
    if (typeof plain === 'number') out.push(isSane(plain) ? plain : Number.NaN);
  }
  return out;
}

/** The first three figures of a list, those that are missing 0; out of all range as with `asNumbers`. */
export function asCoordinates(value: StepValue): [number, number, number] {
  if (Array.isArray(value)) {
    const list: readonly StepValue[] = value;
    const x = list[0];
    const y = list[1];
    const z = list.length > 2 ? list[2] : 0;
    // Points and directions are most of the lists of a file.
    if (typeof x === 'number' && typeof y === 'number' && typeof z === 'number' && isSane(x) && isSane(y) && isSane(z))
      return [x, y, z];
  }
  const [x = 0, y = 0, z = 0] = asNumbers(value);
  return [x, y, z];
}

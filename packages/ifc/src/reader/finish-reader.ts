import {
  FINISH_SURFACES,
  type FinishSurface,
  foldText,
  type PropertyValue,
  type RoomFinishes,
  readFinishName,
} from '@tally/core';
import { asEnum, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import type { MaterialReader } from './materials.ts';
import type { Relations } from './relations.ts';

/** Properties of Pset_SpaceCoveringRequirements, folded, by surface. */
const COVERING_PROPERTIES: Record<FinishSurface, string> = {
  floor: 'floorcovering',
  wall: 'wallcovering',
  ceiling: 'ceilingcovering',
  skirting: 'skirtingboard',
};
const COVERING_KINDS: Record<string, FinishSurface> = {
  FLOORING: 'floor',
  CLADDING: 'wall',
  CEILING: 'ceiling',
  SKIRTINGBOARD: 'skirting',
};

/**
 * Reads the finishes of rooms: from Pset_SpaceCoveringRequirements, else from the coverings that the file relates to the room
 * (IfcRelCoversSpaces), by their material, type or name.
 */
export class FinishReader {
  /** Coverings of a room. */
  private readonly coverings = new Map<number, number[]>();

  constructor(
    private readonly file: StepFile,
    private readonly relations: Relations,
    private readonly materials: MaterialReader,
  ) {
    for (const id of file.idsOf('IFCRELCOVERSSPACES')) {
      const a = file.attributes(id);
      const room = asRef(a[4]);
      if (room !== null) this.coverings.set(room, [...(this.coverings.get(room) ?? []), ...asRefs(a[5])]);
    }
    // Coverings that stand in a room without being related to it finish it too.
    for (const id of file.idsOf('IFCCOVERING')) {
      const room = relations.containedIn.get(id);
      if (room !== undefined && file.is(room, 'IFCSPACE'))
        this.coverings.set(room, [...(this.coverings.get(room) ?? []), id]);
    }
  }

  read(room: number, properties: Readonly<Record<string, Readonly<Record<string, PropertyValue>>>>): RoomFinishes {
    const required = Object.entries(properties).find(([set]) => foldText(set) === 'psetspacecoveringrequirements')?.[1];
    const stated = new Map(Object.entries(required ?? {}).map(([name, value]) => [foldText(name), value]));
    const covered = this.readCoverings(room);
    const finish = (surface: FinishSurface) => {
      const value = stated.get(COVERING_PROPERTIES[surface]);
      return readFinishName(typeof value === 'string' ? value : null) ?? covered.get(surface) ?? null;
    };
    return Object.fromEntries(FINISH_SURFACES.map((s) => [s, finish(s)])) as unknown as RoomFinishes;
  }

  private readCoverings(room: number): Map<FinishSurface, string> {
    const out = new Map<FinishSurface, string>();
    for (const id of this.coverings.get(room) ?? []) {
      const a = this.file.attributes(id);
      const type = this.relations.typeOf.get(id);
      const surface = COVERING_KINDS[asEnum(a[8]) ?? ''];
      const material = this.relations.material.get(id);
      const name = readFinishName(
        (material === undefined ? undefined : this.materials.read(material).names[0]) ??
          (type === undefined ? null : asText(this.file.attributes(type)[2])) ??
          asText(a[4]) ??
          asText(a[2]),
      );
      if (surface && name !== null && !out.has(surface)) out.set(surface, name);
    }
    return out;
  }
}

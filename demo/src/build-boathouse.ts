import { buildEnvelope, EAVES } from './boathouse/envelope.ts';
import { buildFrame } from './boathouse/frame.ts';
import { buildGrounds } from './boathouse/grounds.ts';
import { buildInterior } from './boathouse/interior.ts';
import { buildMaterials } from './boathouse/materials.ts';
import { buildRooms } from './boathouse/rooms.ts';
import { Fillings } from './boathouse/site.ts';
import { IfcBuilder } from './ifc-builder.ts';
import type { BoathouseParameters } from './parameters.ts';

const BAY = 4800;
const DEPTH = 14400;

export interface BoathouseOptions {
  readonly fileName?: string;
  readonly timestamp?: string;
  /** How often the house is repeated side by side, for measuring speed. */
  readonly copies?: number;
}

/** Writes the boathouse as an IFC4 file in millimetres. The same parameters give the same text. */
export function writeBoathouse(
  p: BoathouseParameters,
  { fileName = 'heron-wharf.ifc', timestamp = '2026-03-02T09:00:00', copies = 1 }: BoathouseOptions = {},
): string {
  const b = new CopyBuilder();
  for (let copy = 0; copy < copies; copy++) {
    b.startCopy(copy);
    const at = [(copy % 8) * 70_000, Math.floor(copy / 8) * 30_000, 0] as const;
    b.storey('Foundations', -800, at);
    b.storey('Ground floor', 0, at);
    b.storey('Upper floor', p.storeyHeight, at);
    b.storey('Roof', p.storeyHeight + EAVES, at);
    const site = { b, p, m: buildMaterials(b, p), bay: BAY, depth: DEPTH };
    const fillings = new Fillings(b);
    buildFrame(site);
    buildEnvelope(site, fillings);
    buildInterior(site, fillings);
    buildRooms(site);
    buildGrounds(site);
  }
  b.finish();
  return b.step.finish(fileName, timestamp);
}

/** A builder whose ids are told apart by the copy of the house they belong to. */
class CopyBuilder extends IfcBuilder {
  private copy = 0;

  constructor() {
    super('heron-wharf/');
  }

  startCopy(copy: number): void {
    this.copy = copy;
  }

  override id(key: string): string {
    return super.id(this.copy > 0 ? `copy ${this.copy}/${key}` : key);
  }
}

import Flatbush from 'flatbush';
import type { PlanOpening } from '../elements/site-data.ts';
import { distanceToPolygon } from '../geometry/outline.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { Vector2 } from '../geometry/vector.ts';

/** A room on plan, in the model's world, metres. */
export interface RoomShape {
  readonly outline: readonly Vector2[];
  /** Outlines of columns and courts in it. */
  readonly holes?: readonly (readonly Vector2[])[];
  readonly bottomM: number;
  readonly topM: number;
}

export type WallOpening = PlanOpening;

/** What openings take out of a room's walls and of its edge at the floor. */
export interface RoomDeduction {
  readonly wallAreaM2: number;
  /** Widths of the openings that reach the floor. */
  readonly doorsM: number;
}

/**
 * Openings of a room: those whose middle lies in the band along the room's edge that a wall of their thickness fills. The part
 * of an opening within the room's height is deducted from its walls; one that begins at the floor interrupts the skirting.
 */
export function deductRoomOpenings(room: RoomShape, openings: readonly WallOpening[]): RoomDeduction {
  let wallAreaM2 = 0;
  let doorsM = 0;
  for (const o of openings) {
    const height = Math.min(o.topM, room.topM) - Math.max(o.bottomM, room.bottomM);
    if (height <= TOLERANCE.touch) continue;
    const reach = o.wallM / 2 + TOLERANCE.joint;
    if (![room.outline, ...(room.holes ?? [])].some((ring) => distanceToPolygon(o.at, ring) <= reach)) continue;
    wallAreaM2 += height * o.widthM;
    if (o.bottomM - room.bottomM < TOLERANCE.joint) doorsM += o.widthM;
  }
  return { wallAreaM2, doorsM };
}

/** Openings found by where they lie on plan, so that a room looks at those around it only. */
export class OpeningIndex {
  private readonly index: Flatbush | null;
  private readonly mostReachM: number;

  constructor(private readonly openings: readonly WallOpening[]) {
    this.mostReachM = openings.reduce((most, o) => Math.max(most, o.wallM / 2), 0) + TOLERANCE.joint;
    this.index = openings.length > 0 ? new Flatbush(openings.length) : null;
    for (const { at } of openings) this.index?.add(at[0], at[1]);
    this.index?.finish();
  }

  /** Openings that may lie at the edge of a room, in the order given. */
  near(outline: readonly Vector2[]): WallOpening[] {
    if (!this.index) return [];
    const [xs, ys] = [outline.map((p) => p[0]), outline.map((p) => p[1])];
    const r = this.mostReachM;
    return this.index
      .search(Math.min(...xs) - r, Math.min(...ys) - r, Math.max(...xs) + r, Math.max(...ys) + r)
      .sort((a, b) => a - b)
      .map((i) => this.openings[i]!);
  }
}

/** Name of a finish as it is kept: trimmed; an empty one, and words for "none", are no finish. */
export function readFinishName(text: string | null | undefined): string | null {
  const trimmed = text?.trim().replace(/\s+/g, ' ') ?? '';
  return /^(|-|–|none|n\/a|no)$/i.test(trimmed) ? null : trimmed;
}

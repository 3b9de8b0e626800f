import {
  failure,
  measureMesh,
  measureSweptSolid,
  multiplyMatrices,
  type Result,
  sliceMesh,
  success,
  sweptDirection,
  TOLERANCE,
} from '@tally/core';
import type { FileElement } from '../reader/read-elements.ts';
import { type ModelTakeoff, meshElement } from './read-model.ts';

/** What a storey's level cuts out of an element, m2 and m of all edges. */
export interface StoreySlice {
  readonly storey: string;
  readonly elevation: number | null;
  readonly area: number;
  readonly perimeter: number;
}

/**
 * Cuts an element just above each storey's level. Straight upright solids are exact; others are cut through their mesh, which must
 * be closed. Levels that miss it are left out.
 * Errors: `element-unknown`, `slice-no-body`, `slice-open-body`.
 */
export async function sliceElement(
  bytes: Uint8Array,
  { model }: ModelTakeoff,
  globalId: string,
): Promise<Result<StoreySlice[]>> {
  const element = model.elements.find((e) => e.globalId === globalId);
  if (!element)
    return failure('element-unknown', `There is no element ${globalId} in the model.`, {
      remedy: 'Check the GlobalId.',
    });
  if (!element.body)
    return failure('slice-no-body', `${element.ifcClass} ${globalId} has no shape to cut.`, {
      remedy: 'Choose an element with a body.',
    });
  const levels = model.storeys.map((s) => ({ ...s, cutM: s.levelM + TOLERANCE.touch }));
  const exact = findUpright(element);
  if (exact) {
    return success(
      levels
        .filter((l) => l.cutM > exact.bottomM && l.cutM < exact.topM)
        .map((l) => ({ storey: l.name, elevation: l.elevation, area: exact.areaM2, perimeter: exact.perimeterM })),
    );
  }
  const mesh = await meshElement(bytes, element);
  if (!mesh || !measureMesh(mesh)?.isClosed)
    return failure('slice-open-body', `The body of ${element.ifcClass} ${globalId} is not closed; it cannot be cut.`, {
      remedy: 'Ask the designers for a closed body.',
    });
  return success(
    levels.flatMap((l): StoreySlice[] => {
      const slice = sliceMesh(mesh, l.cutM);
      return slice ? [{ storey: l.name, elevation: l.elevation, area: slice.areaM2, perimeter: slice.perimeterM }] : [];
    }),
  );
}

/** Section of a single upright solid without openings or cuts. */
function findUpright(e: FileElement): { areaM2: number; perimeterM: number; bottomM: number; topM: number } | null {
  const { body } = e;
  const solid = body?.solids.length === 1 && !body.hasOther && !body.isClipped ? body.solids[0]! : null;
  if (!solid || body!.openings.length > 0) return null;
  const world = { ...solid, placement: multiplyMatrices(e.placement, solid.placement) };
  const along = sweptDirection(world);
  if (Math.abs(along[2]) < 1 - TOLERANCE.parallel || Math.abs(solid.direction[2]) < 1 - TOLERANCE.parallel) return null;
  const { profile } = solid;
  // Edges of holes belong to the cut; only profiles without them have their perimeter by formula.
  if (profile.kind === 'rectangle-hollow' || profile.kind === 'circle-hollow') return null;
  if (profile.kind === 'outline' && profile.holes.length > 0) return null;
  const { areaM2, perimeterM } = measureSweptSolid(solid);
  const [a, b] = [world.placement[11], world.placement[11] + along[2] * solid.depth];
  return { areaM2, perimeterM, bottomM: Math.min(a, b), topM: Math.max(a, b) };
}

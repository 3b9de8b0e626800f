import { measureOwnRectangle } from '../geometry/own-axes.ts';
import { asAlignedBox, listSweptPoints } from '../geometry/swept-solid.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { type Matrix, multiplyMatrices, type Vector2 } from '../geometry/vector.ts';
import type { ElementBody, ElementMeshes } from './element-body.ts';

/**
 * Turns a body about the upward axis so that its longer side on plan lies along x. Files may draw an element askew in its
 * own frame (at world coordinates, say); its length and width are those along its own sides all the same.
 * Returns what was given where it lies along the axes already.
 */
export function turnToOwnFrame(
  body: ElementBody | null,
  meshes: ElementMeshes | null,
): { body: ElementBody | null; meshes: ElementMeshes | null } {
  const angle = body ? findOwnAngle(body, meshes) : 0;
  if (!body || Math.abs(angle) < 1e-9 || Math.abs(Math.abs(angle) - Math.PI / 2) < 1e-9) return { body, meshes };
  const [cos, sin] = [Math.cos(-angle), Math.sin(-angle)];
  const turn: Matrix = [cos, -sin, 0, 0, sin, cos, 0, 0, 0, 0, 1, 0];
  const turnMesh = (mesh: TriangleMesh | null): TriangleMesh | null => {
    if (!mesh) return null;
    const positions = Float64Array.from(mesh.positions);
    for (let i = 0; i < positions.length; i += 3) {
      const [x, y] = [positions[i]!, positions[i + 1]!];
      positions[i] = x * cos - y * sin;
      positions[i + 1] = x * sin + y * cos;
    }
    return { positions, indices: mesh.indices };
  };
  const turnSolid = <T extends { readonly placement: Matrix }>(s: T): T => ({
    ...s,
    placement: multiplyMatrices(turn, s.placement),
  });
  return {
    body: {
      ...body,
      solids: body.solids.map(turnSolid),
      openings: body.openings.map((o) => ({ ...o, solid: o.solid && turnSolid(o.solid) })),
    },
    meshes: meshes && { net: turnMesh(meshes.net), gross: turnMesh(meshes.gross) },
  };
}

function findOwnAngle(body: ElementBody, meshes: ElementMeshes | null): number {
  if (body.solids.length === 1 && !body.hasOther && asAlignedBox(body.solids[0]!)) return 0;
  const mesh = meshes?.net;
  const points: Vector2[] = body.hasOther && mesh ? [] : body.solids.flatMap((s) => listSweptPoints(s).map(flat));
  if (body.hasOther && mesh)
    for (let i = 0; i < mesh.positions.length; i += 3) points.push([mesh.positions[i]!, mesh.positions[i + 1]!]);
  return points.length < 3 ? 0 : measureOwnRectangle(points).angle;
}

const flat = ([x, y]: readonly [number, number, number]): Vector2 => [x, y];

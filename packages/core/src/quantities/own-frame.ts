import { listFaceDirections, listFacets } from '../geometry/facets.ts';
import { moveFormed } from '../geometry/formed-solid.ts';
import { measureOwnRectangle } from '../geometry/own-axes.ts';
import { asAlignedBox, listSweptPoints, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import {
  cross,
  dot,
  IDENTITY,
  type Matrix,
  multiplyMatrices,
  normalize,
  transformPoint,
  type Vector2,
  type Vector3,
} from '../geometry/vector.ts';
import { type ElementBody, type ElementMeshes, meshOwnBody } from './element-body.ts';

const UP: Vector3 = [0, 0, 1];
const isUpright = (v: Vector3) => 1 - Math.abs(v[2]) < TOLERANCE.parallel;

/** A body in the frame it is measured in, and the map from the element's frame to it. */
export interface FramedBody {
  readonly body: ElementBody;
  readonly meshes: ElementMeshes | null;
  readonly toOwn: Matrix;
}

/**
 * Turns a body so that z is upward and x lies along its longer side on plan, wherever the file puts its axes: an element may be drawn
 * lying in a frame turned in space, or askew at world coordinates. A body that leans in the world as a whole (a footing in a slope) is
 * turned upright about its own sides if `canLean`. Returns what was given where it stands so already.
 * @param up upward in the element's frame, unit length
 */
export function turnToOwnFrame(
  body: ElementBody,
  meshes: ElementMeshes | null,
  up: Vector3,
  canLean: boolean,
): FramedBody {
  const raise = isUpright(up) && up[2] > 0 ? null : rotationTo(up, UP);
  let framed: FramedBody = raise
    ? turnBody({ body, meshes, toOwn: IDENTITY }, raise)
    : { body, meshes, toOwn: IDENTITY };
  if (canLean) {
    const lean = findLean(framed);
    if (lean) framed = turnBody(framed, rotationTo(lean, UP));
  }
  const angle = findOwnAngle(framed.body, framed.meshes);
  if (Math.abs(angle) < 1e-9 || Math.abs(Math.abs(angle) - Math.PI / 2) < 1e-9) return framed;
  const [cos, sin] = [Math.cos(-angle), Math.sin(-angle)];
  return turnBody(framed, [cos, -sin, 0, 0, sin, cos, 0, 0, 0, 0, 1, 0]);
}

/** The shortest turn that takes one direction to another. */
function rotationTo(from: Vector3, to: Vector3): Matrix {
  const c = dot(from, to);
  if (c < -1 + 1e-12) return [1, 0, 0, 0, 0, -1, 0, 0, 0, 0, -1, 0];
  const [x, y, z] = cross(from, to);
  const k = 1 / (1 + c);
  return [
    x * x * k + c, x * y * k - z, x * z * k + y, 0,
    x * y * k + z, y * y * k + c, y * z * k - x, 0,
    x * z * k - y, y * z * k + x, z * z * k + c, 0,
  ]; // biome-ignore format: rows of the matrix
}

function turnBody({ body, meshes, toOwn }: FramedBody, turn: Matrix): FramedBody {
  const turnMesh = (mesh: TriangleMesh): TriangleMesh => moveMesh(mesh, turn);
  const turnSolid = (s: SweptSolid): SweptSolid => ({ ...s, placement: multiplyMatrices(turn, s.placement) });
  return {
    toOwn: multiplyMatrices(turn, toOwn),
    body: {
      ...body,
      solids: body.solids.map(turnSolid),
      formed: body.formed?.map((f) => moveFormed(f, turn)),
      drawn: body.drawn?.map(turnMesh),
      base: body.base && turnSolid(body.base),
      openings: body.openings.map((o) => ({
        ...o,
        solid: o.solid && turnSolid(o.solid),
        drawn: o.drawn ? turnMesh(o.drawn) : null,
      })),
    },
    meshes: meshes && {
      net: meshes.net && turnMesh(meshes.net),
      gross: meshes.gross && turnMesh(meshes.gross),
      uncut: meshes.uncut ? turnMesh(meshes.uncut) : null,
    },
  };
}

/** The same mesh somewhere else. */
export function moveMesh({ positions, indices }: TriangleMesh, matrix: Matrix): TriangleMesh {
  const out = new Float64Array(positions.length);
  for (let i = 0; i < positions.length; i += 3)
    out.set(transformPoint(matrix, [positions[i]!, positions[i + 1]!, positions[i + 2]!]), i);
  return { positions: out, indices };
}

/** The side of a leaning body that is nearest to upward; null if one of its sides stands upright or lies level already. */
function findLean({ body, meshes }: FramedBody): Vector3 | null {
  const solid = body.solids.length === 1 ? body.solids[0]! : null;
  if (solid && (asAlignedBox(solid) || isUpright(sweptDirection(solid)))) return null;
  const mesh = meshOwnBody(body) ?? meshes?.gross ?? meshes?.net;
  if (!mesh) return null;
  const facets = listFacets(mesh);
  const whole = facets.reduce((sum, f) => sum + f.areaM2, 0);
  const directions = listFaceDirections(facets).filter((d) => d.areaM2 > 1e-3 * whole);
  // Only a body with three pairs of sides square to each other has sides to be turned about.
  if (directions.length !== 3 || directions.some((d) => isUpright(d.direction))) return null;
  const isSquare = directions.every((a, i) => directions.every((b, j) => i === j || Math.abs(dot(a.direction, b.direction)) < 1e-3)); // biome-ignore format: one test
  if (!isSquare) return null;
  const [steepest] = [...directions].sort((a, b) => Math.abs(b.direction[2]) - Math.abs(a.direction[2]));
  const d = steepest!.direction;
  return normalize(d[2] < 0 ? [-d[0], -d[1], -d[2]] : d);
}

function findOwnAngle(body: ElementBody, meshes: ElementMeshes | null): number {
  const isPlain = !body.hasOther && !body.isClipped && !body.formed?.length && !body.drawn?.length;
  if (body.solids.length === 1 && isPlain && asAlignedBox(body.solids[0]!)) return 0;
  const points: Vector2[] = [];
  const addMesh = ({ positions }: TriangleMesh) => {
    for (let i = 0; i < positions.length; i += 3) points.push([positions[i]!, positions[i + 1]!]);
  };
  const mesh = body.hasOther || body.isClipped ? (meshes?.gross ?? meshes?.net) : null;
  if (mesh) addMesh(mesh);
  else {
    for (const s of body.solids) for (const [x, y] of listSweptPoints(s)) points.push([x, y]);
    for (const f of body.formed ?? []) for (const [x, y] of f.points) points.push([x, y]);
    for (const d of body.drawn ?? []) addMesh(d);
  }
  return points.length < 3 ? 0 : measureOwnRectangle(points).angle;
}

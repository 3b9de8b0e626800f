import {
  type Finding,
  IDENTITY,
  invertRigid,
  type Matrix,
  type Result,
  success,
  type TriangleMesh,
  transformPoint,
} from '@tally/core';
import { addProxies } from '../mesh/add-proxies.ts';
import type { MeshPiece } from '../mesh/mesh-messages.ts';
import { streamMeshes } from '../mesh/stream-meshes.ts';
import { type FileElement, type FileModel, readFileModel } from '../reader/read-elements.ts';
import { StepFile } from '../step/step-file.ts';
import { indexStepFile } from '../step/step-index.ts';
import { type FileMeshes, isStyledByItem } from './list-faces.ts';
import { listMeshNeeds, type MeshNeeds, type Takeoff, takeOff } from './take-off.ts';

export interface ModelTakeoff extends Takeoff {
  readonly model: FileModel;
}

export interface TakeoffOptions {
  readonly signal?: AbortSignal;
  /** Share done, 0 to 1, with the stage in words. */
  readonly onProgress?: (stage: string, share: number) => void;
  readonly stallMs?: number;
}

/** Reads an IFC file without meshing anything. Errors: those of the file check (`file-empty`, `file-not-ifc` …). */
export function readIfc(bytes: Uint8Array): Result<FileModel> {
  const index = indexStepFile(bytes);
  return index.ok ? success(readFileModel(new StepFile(index.value))) : index;
}

/** Reads a file and takes it off: exact figures first, meshes only for the elements that need them. */
export async function takeOffIfc(bytes: Uint8Array, options: TakeoffOptions = {}): Promise<Result<ModelTakeoff>> {
  options.onProgress?.('Reading the file', 0);
  const read = readIfc(bytes);
  if (!read.ok) return read;
  const model = read.value;
  options.onProgress?.('Measuring', 0.3);
  const needs = listMeshNeeds(model);
  const { meshes, findings } = await meshForFigures(bytes, model, needs, options);
  options.signal?.throwIfAborted();
  return success({ ...takeOff(model, meshes, findings, needs.measured), model });
}

/** Meshes the elements whose figures need it, in their own frames. */
async function meshForFigures(
  bytes: Uint8Array,
  model: FileModel,
  needs: MeshNeeds,
  { signal, onProgress, stallMs }: TakeoffOptions,
): Promise<{ meshes: Map<number, FileMeshes>; findings: Finding[] }> {
  const byId = new Map(model.elements.map((e) => [e.id, e]));
  const meshes = new Map<number, FileMeshes>();
  const findings: Finding[] = [];
  const total = needs.net.length + needs.gross.length;
  let done = 0;
  for (const [ids, isGross] of [
    [needs.net, false],
    [needs.gross, true],
  ] as const) {
    if (ids.length === 0) continue;
    const outcome = await streamMeshes({
      bytes,
      ids,
      isGross,
      segments: FIGURE_SEGMENTS,
      signal,
      stallMs,
      onMesh: (id, pieces) => {
        const element = byId.get(id)!;
        const mesh = joinPieces(pieces, element.placement);
        const known = meshes.get(id) ?? { net: null, gross: null };
        meshes.set(
          id,
          isGross ? { ...known, gross: mesh } : { ...known, net: mesh, byItem: joinByItem(pieces, element) },
        );
        onProgress?.('Measuring', 0.3 + (0.7 * ++done) / total);
      },
    });
    findings.push(...reportStalls(outcome, byId));
    for (const id of ids) if (!meshes.has(id)) meshes.set(id, { net: null, gross: null });
  }
  if (needs.uncut.size > 0) await meshUncut(bytes, needs.uncut, meshes, { signal, stallMs });
  return { meshes, findings };
}

/** Chords per full circle of the meshes that figures are taken from: volumes of round bodies are right to 0.1 %. */
const FIGURE_SEGMENTS = 96;

/** Meshes solids as they were before something was cut off, each as a thing of its own added to the file. */
async function meshUncut(
  bytes: Uint8Array,
  uncut: ReadonlyMap<number, number>,
  meshes: Map<number, FileMeshes>,
  { signal, stallMs }: TakeoffOptions,
): Promise<void> {
  const added = addProxies(bytes, [...new Set(uncut.values())]);
  if (!added) return;
  const ofSolid = new Map<number, TriangleMesh>();
  await streamMeshes({
    bytes: added.bytes,
    ids: [...added.proxyOf.values()],
    segments: FIGURE_SEGMENTS,
    signal,
    stallMs,
    onMesh: (proxy, pieces) => {
      const mesh = joinPieces(pieces, IDENTITY);
      const solid = [...added.proxyOf].find(([, id]) => id === proxy)?.[0];
      if (mesh && solid !== undefined) ofSolid.set(solid, mesh);
    },
  });
  for (const [element, solid] of uncut) {
    const known = meshes.get(element);
    if (known) meshes.set(element, { ...known, uncut: ofSolid.get(solid) ?? null });
  }
}

/** Mesh of one element with its openings cut out, in the model's world; null if it has none. */
export async function meshElement(bytes: Uint8Array, element: FileElement): Promise<TriangleMesh | null> {
  let mesh: TriangleMesh | null = null;
  await streamMeshes({
    bytes,
    ids: [element.id],
    onMesh: (_, pieces) => {
      mesh = joinPieces(pieces, IDENTITY);
    },
  });
  return mesh;
}

/** Findings for elements the geometry reader did not come back from, and for an early end of meshing. */
export function reportStalls(
  { stalled, failure }: { stalled: readonly number[]; failure: string | null },
  byId: ReadonlyMap<number, Pick<FileElement, 'ifcClass' | 'name' | 'globalId'>>,
): Finding[] {
  const findings = stalled.map((id): Finding => {
    const e = byId.get(id);
    return {
      code: 'geometry-stalled',
      severity: 'error',
      message: `The shape of ${e?.ifcClass ?? ''} ${e?.name ?? `#${id}`} could not be worked out in time; it was skipped.`,
      globalIds: e ? [e.globalId] : [],
    };
  });
  if (failure)
    findings.push({
      code: 'geometry-stalled',
      severity: 'error',
      message: `The geometry could not be finished: ${failure}. Elements after this have no picture and no figures from it.`,
      globalIds: [],
    });
  return findings;
}

/** Meshes of the items of an element that is styled item by item. */
function joinByItem(pieces: readonly MeshPiece[], element: FileElement): FileMeshes['byItem'] {
  if (!isStyledByItem(element)) return undefined;
  const items = new Set(pieces.map((p) => p.item));
  return new Map(
    [...items].flatMap((item) => {
      const mesh = joinPieces(
        pieces.filter((p) => p.item === item),
        element.placement,
      );
      return mesh ? [[item, mesh] as const] : [];
    }),
  );
}

function joinPieces(pieces: readonly MeshPiece[], placement: Matrix): TriangleMesh | null {
  if (pieces.length === 0) return null;
  const toLocal = invertRigid(placement);
  const positions = new Float64Array(pieces.reduce((n, p) => n + p.positions.length, 0));
  const indices = new Uint32Array(pieces.reduce((n, p) => n + p.indices.length, 0));
  let at = 0;
  let ai = 0;
  for (const p of pieces) {
    for (const i of p.indices) indices[ai++] = i + at / 3;
    for (let i = 0; i < p.positions.length; i += 3, at += 3) {
      const [x, y, z] = transformPoint(toLocal, [p.positions[i]!, p.positions[i + 1]!, p.positions[i + 2]!]);
      positions[at] = x;
      positions[at + 1] = y;
      positions[at + 2] = z;
    }
  }
  return { positions, indices };
}

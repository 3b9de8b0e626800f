import { parentPort, workerData } from 'node:worker_threads';
import * as WebIFC from 'web-ifc';
import type { MeshJob, MeshMessage, MeshPiece } from './mesh-messages.ts';

/** Runs in a worker thread: meshes the products asked for, one after another, beating before each. */
async function run({ bytes, ids, isGross, segments, heartbeat }: MeshJob): Promise<void> {
  const api = new WebIFC.IfcAPI();
  await api.Init();
  send({ kind: 'started' });
  api.SetLogLevel(WebIFC.LogLevel.LOG_LEVEL_OFF);
  const model = api.OpenModel(new Uint8Array(bytes), { CIRCLE_SEGMENTS: segments, TAPE_SIZE: 4 << 20 });
  if (model < 0) return send({ kind: 'failed', reason: 'the geometry reader could not open the file' });
  if (isGross) {
    const voids = api.GetLineIDsWithType(model, WebIFC.IFCRELVOIDSELEMENT);
    for (let i = 0; i < voids.size(); i++) api.DeleteLine(model, voids.get(i));
  }
  send({ kind: 'opened' });
  for (const id of ids) {
    Atomics.store(heartbeat, 1, id);
    Atomics.add(heartbeat, 0, 1);
    const pieces: MeshPiece[] = [];
    try {
      api.StreamMeshes(model, [id], (mesh) => {
        for (let g = 0; g < mesh.geometries.size(); g++) {
          const placed = mesh.geometries.get(g);
          const geometry = api.GetGeometry(model, placed.geometryExpressID);
          const piece = toPiece(
            placed.geometryExpressID,
            api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize()),
            api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize()),
            placed.flatTransformation,
            placed.color,
          );
          geometry.delete();
          if (piece.indices.length > 0) pieces.push(piece);
        }
      });
    } catch {
      // An element the reader cannot mesh has no picture; the others go on.
    }
    send(
      { kind: 'mesh', id, pieces },
      pieces.flatMap((p) => [p.positions.buffer, p.indices.buffer] as ArrayBuffer[]),
    );
  }
  send({ kind: 'done' });
}

/** Applies the transformation and turns Y-up into the model's Z-up: (x, y, z) = (X, -Z, Y). */
function toPiece(
  item: number,
  vertices: Float32Array,
  indices: Uint32Array,
  m: readonly number[],
  colour: { x: number; y: number; z: number; w: number },
): MeshPiece {
  const count = vertices.length / 6;
  const positions = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    const [x, y, z] = vertices.subarray(i * 6, i * 6 + 3) as unknown as [number, number, number];
    positions[i * 3] = m[0]! * x + m[4]! * y + m[8]! * z + m[12]!;
    positions[i * 3 + 1] = -(m[2]! * x + m[6]! * y + m[10]! * z + m[14]!);
    positions[i * 3 + 2] = m[1]! * x + m[5]! * y + m[9]! * z + m[13]!;
  }
  return { item, positions, indices: new Uint32Array(indices), colour: [colour.x, colour.y, colour.z, colour.w] };
}

function send(message: MeshMessage, transfer: ArrayBuffer[] = []): void {
  parentPort!.postMessage(message, transfer);
}

run(workerData as MeshJob).catch((error: unknown) =>
  send({ kind: 'failed', reason: error instanceof Error ? error.message : String(error) }),
);

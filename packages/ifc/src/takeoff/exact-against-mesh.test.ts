import {
  type ElementMeshes,
  invertRigid,
  measureElement,
  meshOwnBody,
  type TriangleMesh,
  transformPoint,
} from '@tally/core';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import type { MeshPiece } from '../mesh/mesh-messages.ts';
import { streamMeshes } from '../mesh/stream-meshes.ts';
import type { FileElement } from '../reader/read-elements.ts';
import { takeOffIfc } from './read-model.ts';

/** An exact figure is that of the body as a mesh within this, whatever the class. */
const SAME = 0.01;

/** Meshes of all elements in their own frames, with and without openings, by record number. */
async function meshAll(bytes: Uint8Array, elements: readonly FileElement[]) {
  const byId = new Map(elements.map((e) => [e.id, e]));
  const out = new Map<number, { net: TriangleMesh | null; gross: TriangleMesh | null }>();
  for (const isGross of [false, true]) {
    await streamMeshes({
      bytes,
      ids: elements.map((e) => e.id),
      isGross,
      segments: 96,
      onMesh: (id, pieces) => {
        const known = out.get(id) ?? { net: null, gross: null };
        out.set(id, { ...known, [isGross ? 'gross' : 'net']: join(pieces, byId.get(id)!) });
      },
    });
  }
  return out;
}

function join(pieces: readonly MeshPiece[], { placement }: FileElement): TriangleMesh | null {
  const toLocal = invertRigid(placement);
  const positions = pieces.flatMap(({ positions: p }) =>
    Array.from({ length: p.length / 3 }, (_, i) => transformPoint(toLocal, [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!])),
  );
  let first = 0;
  const indices = pieces.flatMap((p) => {
    const own = [...p.indices].map((i) => i + first);
    first += p.positions.length / 3;
    return own;
  });
  return indices.length > 0 ? { positions: positions.flat(), indices } : null;
}

it.each(Object.entries(REVISIONS))('%s: no exact figure is another than that of its mesh', async (_, parameters) => {
  const bytes = new TextEncoder().encode(writeBoathouse(parameters));
  const read = await takeOffIfc(bytes);
  if (!read.ok) throw new Error(read.problem.message);
  const { measured } = read.value;
  const meshes = await meshAll(
    bytes,
    measured.map((m) => m.element).filter((e) => e.body !== null),
  );
  let compared = 0;
  const wrong: string[] = [];
  for (const { element: e, outcome } of measured) {
    if (!e.body) continue;
    // Bodies without openings are meshed here, as the mesh reader draws fillets as chamfers.
    const drawn = e.body.openings.length === 0 ? meshOwnBody(e.body) : null;
    const own: ElementMeshes | undefined = drawn ? { net: drawn, gross: null } : meshes.get(e.id);
    if (!own?.net) continue;
    const asMesh = measureElement({
      group: e.group,
      body: { solids: [], isClipped: false, hasOther: true, openings: e.body.openings },
      meshes: own,
      layersM: null,
      overall: null,
      up: [e.placement[8], e.placement[9], e.placement[10]],
    });
    for (const q of outcome.quantities) {
      const other = asMesh.quantities.find((m) => m.name === q.name);
      if (q.exactness !== 'exact' || !other || q.name === 'Count' || q.method === 'attribute') continue;
      compared++;
      if (Math.abs(q.value - other.value) > SAME * Math.max(q.value, other.value))
        wrong.push(`${e.ifcClass} ${e.name}: ${q.name} ${q.value} exact, ${other.value} by the mesh`);
    }
  }
  expect(wrong).toEqual([]);
  expect(compared).toBeGreaterThan(2000);
});

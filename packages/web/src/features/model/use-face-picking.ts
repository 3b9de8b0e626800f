import { type ChosenFace, describeFace, middleOf, type TriangleMesh } from '@tally/core';
import { useEffect, useState } from 'react';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { useSchemePalette } from '../../ui/use-scheme.ts';
import type { SceneViewer } from '../../viewer/index.ts';

/** A face that was clicked, with the triangles that show it. */
export interface PickedFace {
  readonly elementKey: number;
  readonly face: ChosenFace;
  readonly areaM2: number;
  readonly mesh: TriangleMesh;
  readonly triangles: readonly number[];
}

/** Faces that are being chosen: a click takes one, a second click on it gives it back. They are marked in the view. */
export function useFacePicking(
  viewer: SceneViewer | null,
  models: readonly LoadedModel[],
  isOn: boolean,
): [faces: readonly PickedFace[], pick: (x: number, y: number) => void, clear: () => void] {
  const [faces, setFaces] = useState<readonly PickedFace[]>([]);
  const { selection } = useSchemePalette().tally;
  useEffect(() => {
    if (!isOn) setFaces([]);
  }, [isOn]);
  useEffect(() => viewer?.mark(faces, selection), [viewer, faces, selection]);
  const pick = (x: number, y: number) => {
    const hit = viewer?.triangleAt(x, y);
    const model = hit ? models.findLast((m) => m.offset <= hit.element) : undefined;
    if (!hit || !model) return;
    const row = hit.element - model.offset;
    const found = describeFace(hit.mesh, hit.triangle, middleOf(model.table, row));
    if (!found) return;
    const picked: PickedFace = { elementKey: model.table.keys[row]!, mesh: hit.mesh, ...found };
    const isSame = (f: PickedFace) =>
      f.elementKey === picked.elementKey && f.triangles.join() === picked.triangles.join();
    setFaces((known) => (known.some(isSame) ? known.filter((f) => !isSame(f)) : [...known, picked]));
  };
  return [faces, pick, () => setFaces([])];
}

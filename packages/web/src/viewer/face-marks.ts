import type { TriangleMesh } from '@tally/core';
import * as THREE from 'three';

/** Triangles of a shape, by their positions in its indices. */
export interface MarkedFace {
  readonly mesh: TriangleMesh;
  readonly triangles: readonly number[];
}

/** Faces marked over the building, seen through whatever stands before them. */
export class FaceMarks {
  private readonly scene = new THREE.Scene();
  private marks: THREE.Mesh<THREE.BufferGeometry, THREE.MeshBasicMaterial> | null = null;

  /** @param origin place of the model's world that the scene counts from */
  show(faces: readonly MarkedFace[], colour: string, origin: THREE.Vector3): void {
    if (this.marks) {
      this.scene.remove(this.marks);
      this.marks.geometry.dispose();
      this.marks.material.dispose();
      this.marks = null;
    }
    if (faces.length === 0) return;
    const corners: number[] = [];
    for (const { mesh, triangles } of faces)
      for (const t of triangles)
        for (let i = t; i < t + 3; i++)
          for (let c = 0; c < 3; c++) corners.push(mesh.positions[mesh.indices[i]! * 3 + c]! - origin.getComponent(c));
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.Float32BufferAttribute(corners, 3));
    const material = new THREE.MeshBasicMaterial({
      color: colour,
      opacity: 0.6,
      transparent: true,
      side: THREE.DoubleSide,
      depthTest: false,
    });
    this.marks = new THREE.Mesh(geometry, material);
    this.marks.frustumCulled = false;
    this.scene.add(this.marks);
  }

  draw(renderer: THREE.WebGLRenderer, camera: THREE.Camera): void {
    if (!this.marks) return;
    renderer.autoClear = false;
    renderer.render(this.scene, camera);
    renderer.autoClear = true;
  }
}

/** Triangle of a shape that is nearest to a place, by its position in the indices. */
export function findNearestTriangle(
  { positions, indices }: TriangleMesh,
  place: readonly [number, number, number],
): number {
  const at = new THREE.Vector3(...place);
  const triangle = new THREE.Triangle();
  const nearest = new THREE.Vector3();
  let [best, bestDistance] = [0, Infinity];
  for (let i = 0; i < indices.length; i += 3) {
    for (const [k, corner] of [triangle.a, triangle.b, triangle.c].entries()) {
      const p = indices[i + k]! * 3;
      corner.set(positions[p]!, positions[p + 1]!, positions[p + 2]!);
    }
    const distance = triangle.closestPointToPoint(at, nearest).distanceToSquared(at);
    if (distance < bestDistance) [best, bestDistance] = [i, distance];
  }
  return best;
}

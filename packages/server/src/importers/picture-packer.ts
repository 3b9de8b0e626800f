import { type ChunkElement, encodePictureChunk } from '@tally/core';
import type { MeshPiece } from '@tally/ifc';

/** Vertices a chunk is closed at: few draw calls, yet something to see early. */
const CHUNK_VERTICES = 150_000;

/** Gathers meshes into chunks. Coordinates are stored relative to the first point, so that large ones keep their digits. */
export class PicturePacker {
  private elements: ChunkElement[] = [];
  private pieces: { row: number; piece: MeshPiece }[] = [];
  private vertices = 0;
  private origin: [number, number, number] | null = null;

  constructor(private readonly onChunk: (bytes: Uint8Array) => void) {}

  add(row: number, pieces: readonly MeshPiece[]): void {
    for (const piece of pieces) {
      this.origin ??= [0, 1, 2].map((k) => Math.round(piece.positions[k]!)) as [number, number, number];
      this.pieces.push({ row, piece });
      this.vertices += piece.positions.length / 3;
    }
    if (this.vertices >= CHUNK_VERTICES) this.flush();
  }

  /** Closes the chunk at hand, if it holds anything. */
  flush(): void {
    if (this.pieces.length === 0) return;
    const origin = this.origin!;
    const positions = new Float32Array(this.vertices * 3);
    const colours = new Uint8Array(this.vertices * 4);
    const indices = new Uint32Array(this.pieces.reduce((n, p) => n + p.piece.indices.length, 0));
    let v = 0;
    let i = 0;
    for (const { row, piece } of this.pieces) {
      const count = piece.positions.length / 3;
      const last = this.elements.at(-1);
      if (last?.row === row)
        this.elements[this.elements.length - 1] = {
          ...last,
          vertexCount: last.vertexCount + count,
          indexCount: last.indexCount + piece.indices.length,
        };
      else
        this.elements.push({
          row,
          firstVertex: v,
          vertexCount: count,
          firstIndex: i,
          indexCount: piece.indices.length,
        });
      for (const index of piece.indices) indices[i++] = index + v;
      const rgba = piece.colour.map((c) => Math.round(c * 255));
      for (let k = 0; k < count; k++, v++) {
        for (let c = 0; c < 3; c++) positions[v * 3 + c] = piece.positions[k * 3 + c]! - origin[c]!;
        colours.set(rgba, v * 4);
      }
    }
    this.onChunk(encodePictureChunk({ origin, elements: this.elements, positions, colours, indices }));
    this.elements = [];
    this.pieces = [];
    this.vertices = 0;
  }
}

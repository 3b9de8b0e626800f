import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { decodePictureChunk, joinShape, type MeshOfRow, type PictureChunk } from '@tally/core';

interface Place {
  readonly chunk: PictureChunk;
  readonly element: PictureChunk['elements'][number];
}

/** The shapes of a revision's elements from the chunks of its picture, in the model's world. Throws where one cannot be read. */
export function readShapes(paths: readonly string[]): MeshOfRow {
  const places = new Map<number, Place[]>();
  for (const path of paths) {
    const chunk = decodePictureChunk(gunzipSync(readFileSync(path)));
    if (!chunk.ok) throw new Error(`${chunk.problem.message} ${chunk.problem.remedy ?? ''}`);
    for (const element of chunk.value.elements) {
      const list = places.get(element.row);
      if (list) list.push({ chunk: chunk.value, element });
      else places.set(element.row, [{ chunk: chunk.value, element }]);
    }
  }
  return (row) => joinShape(places.get(row) ?? []);
}

import { readText, type TextColumn } from './columns.ts';
import type { Face, FaceLook, Layer, Opening } from './model-element.ts';

const orNull = (v: number): number | null => (Number.isNaN(v) ? null : v);

/** Sub-rows (layers, openings) of elements: those of row r are offset[r] .. offset[r + 1] - 1. */
export interface LayerTable {
  readonly offset: Uint32Array;
  readonly material: TextColumn;
  /** What layers are for; absent in tables of older readers. */
  readonly function?: TextColumn;
  readonly thickness: Float64Array;
  readonly position: Float64Array;
  readonly weight: Float64Array;
  readonly area: Float64Array;
  readonly volume: Float64Array;
}
export interface OpeningTable {
  readonly offset: Uint32Array;
  readonly globalId: TextColumn;
  readonly filledBy: TextColumn;
  readonly width: Float64Array;
  readonly height: Float64Array;
  readonly area: Float64Array;
  readonly perimeter: Float64Array;
  readonly sill: Float64Array;
}

export interface FaceTable {
  readonly offset: Uint32Array;
  readonly style: TextColumn;
  readonly look: TextColumn;
  readonly area: Float64Array;
}

/** Layers of a row, in the order of the layer set. */
export function readLayers({ layers }: { readonly layers: LayerTable }, row: number): Layer[] {
  const out: Layer[] = [];
  for (let i = layers.offset[row]!; i < layers.offset[row + 1]!; i++) {
    const use = layers.function && readText(layers.function, i);
    out.push({
      material: readText(layers.material, i),
      ...(use ? { function: use } : {}),
      thickness: orNull(layers.thickness[i]!),
      position: orNull(layers.position[i]!),
      weight: orNull(layers.weight[i]!),
      area: orNull(layers.area[i]!),
      volume: orNull(layers.volume[i]!),
    });
  }
  return out;
}

/** Openings of a row. */
export function readOpenings({ openings }: { readonly openings: OpeningTable }, row: number): Opening[] {
  const out: Opening[] = [];
  for (let i = openings.offset[row]!; i < openings.offset[row + 1]!; i++) {
    out.push({
      globalId: readText(openings.globalId, i) ?? '',
      filledBy: readText(openings.filledBy, i),
      width: orNull(openings.width[i]!),
      height: orNull(openings.height[i]!),
      area: orNull(openings.area[i]!),
      perimeter: orNull(openings.perimeter[i]!),
      sill: orNull(openings.sill[i]!),
    });
  }
  return out;
}

/** Faces of a row by style and look. */
export function readFaces({ faces }: { readonly faces: FaceTable }, row: number): Face[] {
  const out: Face[] = [];
  for (let i = faces.offset[row]!; i < faces.offset[row + 1]!; i++)
    out.push({ style: readText(faces.style, i)!, look: readText(faces.look, i) as FaceLook, area: faces.area[i]! });
  return out;
}

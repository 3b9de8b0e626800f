import type { Layer, Quantity } from '../elements/model-element.ts';

/** A layer as its set defines it: material and thickness in metres. */
export interface LayerDefinition {
  readonly material: string | null;
  readonly thicknessM: number;
}

/**
 * Area and volume of each layer of a wall, slab or covering: every layer has the element's net face area; its volume is
 * area x thickness. Both are null while the face area is not known.
 */
export function measureLayers(
  definitions: readonly LayerDefinition[],
  quantities: readonly Quantity[],
  densities: ReadonlyMap<string, number> = new Map(),
): Layer[] {
  const face =
    quantities.find((q) => q.basis === 'measured' && (q.name === 'NetSideArea' || q.name === 'NetArea'))?.value ?? null;
  let position = 0;
  return definitions.map(({ material, thicknessM }) => {
    const volume = face === null ? null : face * thicknessM;
    const density = material === null ? undefined : densities.get(material);
    const layer = {
      material,
      thickness: thicknessM,
      position,
      area: face,
      volume,
      weight: volume === null || density === undefined ? null : volume * density,
    };
    position += thicknessM;
    return layer;
  });
}

/** Outcome of weighing: the weight in kg, or the materials whose density is missing. */
export interface Weighing {
  readonly weightKg: number | null;
  readonly missing: readonly string[];
}

/**
 * Weight = volume x density; of a layered element the sum over its layers. A missing density leaves the weight unknown.
 * @param densities kg/m3 by material name
 */
export function weighElement(
  materials: readonly string[],
  layers: readonly Layer[],
  quantities: readonly Quantity[],
  densities: ReadonlyMap<string, number>,
): Weighing {
  if (layers.length > 0) {
    const missing = layers.filter((l) => l.material && !densities.has(l.material)).map((l) => l.material!);
    if (missing.length > 0) return { weightKg: null, missing };
    const isKnown = layers.every((l) => l.volume !== null && (l.material !== null || l.volume === 0));
    return {
      weightKg: isKnown ? layers.reduce((sum, l) => sum + l.volume! * densities.get(l.material!)!, 0) : null,
      missing: [],
    };
  }
  const volume = quantities.find((q) => q.basis === 'measured' && q.name === 'NetVolume')?.value;
  if (volume === undefined || materials.length !== 1) return { weightKg: null, missing: [] };
  const density = densities.get(materials[0]!);
  if (density === undefined) return { weightKg: null, missing: [materials[0]!] };
  return { weightKg: volume * density, missing: [] };
}

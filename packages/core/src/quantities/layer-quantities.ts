import type { Exactness, Layer, Quantity } from '../elements/model-element.ts';

/** A layer as its set defines it: material and thickness in metres; constituents and profiles have a share of the body. */
export interface LayerDefinition {
  readonly material: string | null;
  readonly thicknessM: number | null;
  /** Part of the element's volume, 0 to 1, where there is no thickness; null if the file does not say. */
  readonly share?: number | null;
  /** What it is for, as the file says (its category: load-bearing, insulation, finish …); null or absent if it does not. */
  readonly function?: string | null;
}

/**
 * Area and volume of each layer of a wall, slab or covering: every layer has the element's net face area; its volume is
 * area x thickness. A constituent or profile has its share of the net volume. Null while what it stands on is not known.
 */
export function measureLayers(
  definitions: readonly LayerDefinition[],
  quantities: readonly Quantity[],
  densities: ReadonlyMap<string, number> = new Map(),
): Layer[] {
  const find = (...names: readonly string[]) =>
    quantities.find((q) => q.basis === 'measured' && names.includes(q.name))?.value ?? null;
  const face = find('NetSideArea', 'NetArea');
  const body = find('NetVolume');
  let position = 0;
  return definitions.map(({ material, thicknessM, share = null, function: use = null }) => {
    const isLayer = thicknessM !== null;
    const whole = isLayer ? face : body;
    const part = isLayer ? thicknessM : share;
    const volume = whole === null || part === null ? null : whole * part;
    const density = material === null ? undefined : densities.get(material);
    const layer = {
      material,
      thickness: thicknessM,
      position: isLayer ? position : null,
      ...(use === null ? {} : { function: use }),
      area: isLayer ? face : null,
      volume,
      weight: volume === null || density === undefined ? null : volume * density,
    };
    position += thicknessM ?? 0;
    return layer;
  });
}

/** Outcome of weighing: the weight in kg, or the materials whose density is missing. */
export interface Weighing {
  readonly weightKg: number | null;
  /** How far the volume it stands on can be trusted. */
  readonly exactness: Exactness;
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
  const find = (...names: readonly string[]) =>
    quantities.find((q) => q.basis === 'measured' && names.includes(q.name));
  const volume = find('NetVolume');
  const exactness =
    (layers.some((l) => l.thickness !== null) ? find('NetSideArea', 'NetArea') : volume)?.exactness ?? 'mesh';
  const unknown = (missing: readonly string[]): Weighing => ({ weightKg: null, missing, exactness });
  if (layers.length > 0) {
    const missing = layers
      .filter((l) => l.volume !== null && l.material && !densities.has(l.material))
      .map((l) => l.material!);
    if (missing.length > 0) return unknown(missing);
    const isKnown = layers.every(
      (l) => l.volume !== null && ((l.material !== null && densities.has(l.material)) || l.volume === 0),
    );
    if (!isKnown) return unknown([]);
    const weightKg = layers.reduce((sum, l) => sum + l.volume! * (densities.get(l.material ?? '') ?? 0), 0);
    return { weightKg, missing: [], exactness };
  }
  if (volume === undefined || materials.length !== 1) return unknown([]);
  const density = densities.get(materials[0]!);
  return density === undefined
    ? unknown([materials[0]!])
    : { weightKg: volume.value * density, missing: [], exactness };
}

import { asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';

/** Surface styles by the representation item, or the single face, that carries them. */
export class SurfaceStyleReader {
  /** Style records by the item or face that carries them. */
  private readonly styled = new Map<number, readonly number[]>();
  /** Colour maps by the face set they colour. */
  private readonly maps = new Map<number, number>();
  private readonly names = new Map<number, string | null>();

  constructor(private readonly file: StepFile) {
    for (const id of file.idsOf('IFCSTYLEDITEM')) {
      const [item, styles] = file.attributes(id);
      const target = asRef(item);
      if (target !== null) this.styled.set(target, asRefs(styles));
    }
    for (const id of file.idsOf('IFCINDEXEDCOLOURMAP')) {
      const target = asRef(file.attributes(id)[0]);
      if (target !== null) this.maps.set(target, id);
    }
  }

  /** Name of the surface style of an item or face; of an unnamed one its colour as #rrggbb. Null if it has none. */
  styleOf(id: number): string | null {
    const styles = this.styled.get(id);
    const first = styles?.[0];
    if (styles === undefined || first === undefined) return null;
    let name = this.names.get(first);
    if (name === undefined) {
      name = this.readName(styles, 0);
      this.names.set(first, name);
    }
    return name;
  }

  /** Colours of the faces of a face set, as #rrggbb by position; null if it has no colour map. */
  coloursOf(faceSet: number): readonly (string | null)[] | null {
    const map = this.maps.get(faceSet);
    if (map === undefined) return null;
    const [, , list, indices] = this.file.attributes(map);
    const colours = asRef(list);
    const rows = colours === null ? [] : this.file.attributes(colours)[0];
    const names = (Array.isArray(rows) ? rows : []).map((row) =>
      Array.isArray(row) ? toHex(row.map((v) => asNumber(v) ?? 0)) : null,
    );
    return (Array.isArray(indices) ? indices : []).map((i) => names[(asNumber(i) ?? 0) - 1] ?? null);
  }

  private readName(styles: readonly number[], depth: number): string | null {
    for (const id of styles) {
      const a = this.file.attributes(id);
      if (this.file.is(id, 'IFCSURFACESTYLE')) return asText(a[0]) ?? this.readColour(asRefs(a[2]));
      if (this.file.is(id, 'IFCPRESENTATIONSTYLEASSIGNMENT') && depth === 0) {
        const name = this.readName(asRefs(a[0]), 1);
        if (name !== null) return name;
      }
    }
    return null;
  }

  private readColour(parts: readonly number[]): string | null {
    for (const id of parts) {
      const colour = this.file.is(id, 'IFCSURFACESTYLESHADING') ? asRef(this.file.attributes(id)[0]) : null;
      if (colour === null) continue;
      const a = this.file.attributes(colour);
      return asText(a[0]) ?? toHex(a.slice(1, 4).map((v) => asNumber(v) ?? 0));
    }
    return null;
  }
}

function toHex(rgb: readonly number[]): string {
  return `#${rgb.map((v) => Math.round(Math.min(1, Math.max(0, v)) * 255).toString(16).padStart(2, '0')).join('')}`; // biome-ignore format: one thought
}

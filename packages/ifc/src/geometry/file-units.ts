import { asEnum, asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import { StepRef } from '../step/step-value.ts';

/** Factors from the file's units to SI: x m, x m2, x m3, x kg, x rad, x kg/m3. */
export interface FileUnits {
  readonly length: number;
  readonly area: number;
  readonly volume: number;
  readonly mass: number;
  readonly angle: number;
  readonly density: number;
  /** Name of the length unit, as read: `mm`, `m`, `ft` … */
  readonly lengthName: string;
  /** The file names no length unit; metres were taken. */
  readonly isAssumed: boolean;
}

const PREFIX: Record<string, number> = {
  EXA: 1e18,
  PETA: 1e15,
  TERA: 1e12,
  GIGA: 1e9,
  MEGA: 1e6,
  KILO: 1e3,
  HECTO: 1e2,
  DECA: 10,
  DECI: 0.1,
  CENTI: 0.01,
  MILLI: 1e-3,
  MICRO: 1e-6,
  NANO: 1e-9,
};
const PREFIX_SIGN: Record<string, string> = { KILO: 'k', DECI: 'd', CENTI: 'c', MILLI: 'm', MICRO: 'µ' };
const POWER: Record<string, number> = { AREAUNIT: 2, VOLUMEUNIT: 3 };

/** Factor of a named unit to SI (m, m2, m3, kg, rad); null if it cannot be told. */
export function readUnitFactor(file: StepFile, id: number, depth = 0): number | null {
  const a = file.attributes(id);
  switch (file.typeOf(id)) {
    case 'IFCSIUNIT': {
      const name = asEnum(a[3]);
      const prefix = asEnum(a[2]);
      const factor = prefix === null ? 1 : (PREFIX[prefix] ?? 1);
      if (name === 'GRAM') return factor / 1000;
      return factor ** (POWER[asEnum(a[1]) ?? ''] ?? 1);
    }
    case 'IFCCONVERSIONBASEDUNIT':
    case 'IFCCONVERSIONBASEDUNITWITHOFFSET': {
      const measure = asRef(a[3]);
      if (measure === null || depth > 8) return null;
      const [value, unit] = file.attributes(measure);
      const base = asRef(unit) === null ? 1 : readUnitFactor(file, asRef(unit)!, depth + 1);
      const count = asNumber(value);
      return count === null || base === null ? null : count * base;
    }
    case 'IFCDERIVEDUNIT': {
      let factor = 1;
      for (const part of asRefs(a[0])) {
        const [unit, exponent] = file.attributes(part);
        const base = asRef(unit) === null ? null : readUnitFactor(file, asRef(unit)!, depth + 1);
        if (base === null || depth > 8) return null;
        factor *= base ** (asNumber(exponent) ?? 1);
      }
      return factor;
    }
    default:
      return null;
  }
}

function lengthUnitName(file: StepFile, id: number): string {
  const a = file.attributes(id);
  if (file.typeOf(id) === 'IFCSIUNIT') return `${PREFIX_SIGN[asEnum(a[2]) ?? ''] ?? ''}m`;
  const name = asText(a[2])?.toLowerCase() ?? '';
  return name.startsWith('inch') ? 'in' : name.startsWith('f') ? 'ft' : name || 'unit of its own';
}

/** Reads the unit assignment of the project. Areas and volumes without a unit of their own follow the length unit. */
export function readFileUnits(file: StepFile): FileUnits {
  const assignment =
    file
      .idsOf('IFCPROJECT')
      .map((id) => asRef(file.attributes(id)[8]))
      .find((id) => id !== null) ?? file.idsOf('IFCUNITASSIGNMENT')[0];
  const factors = new Map<string, number>();
  let lengthName = 'm';
  const units = assignment == null ? [] : (file.attributes(assignment)[0] ?? []);
  for (const ref of Array.isArray(units) ? units : []) {
    if (!(ref instanceof StepRef)) continue;
    const kind = asEnum(file.attributes(ref.id)[1]);
    const factor = readUnitFactor(file, ref.id);
    if (kind === null || factor === null || factors.has(kind)) continue;
    factors.set(kind, factor);
    if (kind === 'LENGTHUNIT') lengthName = lengthUnitName(file, ref.id);
  }
  const length = factors.get('LENGTHUNIT') ?? 1;
  return {
    length,
    area: factors.get('AREAUNIT') ?? length ** 2,
    volume: factors.get('VOLUMEUNIT') ?? length ** 3,
    mass: factors.get('MASSUNIT') ?? 1,
    angle: factors.get('PLANEANGLEUNIT') ?? 1,
    density: factors.get('MASSDENSITYUNIT') ?? 1,
    lengthName,
    isAssumed: !factors.has('LENGTHUNIT'),
  };
}

import type { ElementTable } from '../elements/element-table.ts';
import type { Region } from '../geometry/measure-within.ts';
import { foldText } from '../units/fold-text.ts';
import { ringToPoints } from './drawn-rooms.ts';

/** A level: that of a storey, or the model's zero if there is none, and so much above it. */
export interface LimitLevel {
  readonly storey: string | null;
  readonly offsetM: number;
}

/** A part of the building that quantities can be limited to: above or below a level, within an outline on plan. */
export interface Limit {
  readonly name: string;
  readonly above?: LimitLevel;
  readonly below?: LimitLevel;
  /** x, y pairs in the model's world, m. */
  readonly outline?: readonly number[];
}

/** Height of a level in the model's world, m; undefined if its storey is not there, or no height of it is known. */
export function readLevelM({ storey, offsetM }: LimitLevel, storeys: ElementTable['storeys']): number | undefined {
  if (storey === null) return offsetM;
  const wanted = foldText(storey);
  const elevation = storeys.find((s) => foldText(s.name) === wanted)?.elevation;
  return elevation == null ? undefined : elevation + offsetM;
}

/** A limit in the world of one model; null if a storey it names is not there. */
export function placeLimit({ above, below, outline }: Limit, table: ElementTable): Region | null {
  const levelOf = (level: LimitLevel | undefined) => (level ? readLevelM(level, table.storeys) : null);
  const [fromM, toM] = [levelOf(above), levelOf(below)];
  if (fromM === undefined || toM === undefined) return null;
  return { fromM, toM, outline: outline ? ringToPoints(outline) : null };
}

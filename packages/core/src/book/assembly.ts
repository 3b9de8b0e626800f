import type { ClassCodes } from './cost-class.ts';

/** Unit of a parameter that is a text: the name of a finish. */
export const TEXT_UNIT = 'text';

/** A figure or text of an assembly that a rule, or a line with the assembly, may set: a formula, checked against `unit`. */
export interface AssemblyParameter {
  readonly name: string;
  /** Unit of a figure, or `TEXT_UNIT`. */
  readonly unit: string;
  /** Value while nothing says otherwise, e.g. `0.6 m` or `"Oil, clear"`. */
  readonly value: string;
  /** What a rule can choose from; anything of the unit if absent. */
  readonly choices?: readonly string[];
  readonly note?: string;
}

/** Parts of an element that a line can run over, once for each; their results are added up. */
export const PART_RUNS = ['opening', 'layer', 'junction'] as const;
export type PartRun = (typeof PART_RUNS)[number];

/** What a line can run for once, over all elements of it together: figures are sums over them, and what it gives is shared out. */
export const SHARED_RUNS = ['room', 'project'] as const;
export type SharedRun = (typeof SHARED_RUNS)[number];

/** What a line of an assembly can run over; once per element if nothing is said. */
export const LINE_RUNS = [...PART_RUNS, ...SHARED_RUNS] as const;
export type LineRun = (typeof LINE_RUNS)[number];

export const isSharedRun = (run: LineRun | null | undefined): run is SharedRun =>
  SHARED_RUNS.includes(run as SharedRun);

/**
 * One line of an assembly: an item or another assembly, and how much of it: as a formula (`quantity`), or as people say it
 * (`consumption`, of `of`, else of the driver).
 */
export interface BuildUpLine {
  /** Its own, kept for ever, so that what hangs on the line outlives its edits; see `listLineIds` for lines that have none. */
  readonly id?: string;
  readonly item?: string;
  readonly assembly?: string;
  /** Name of its result, for other lines of the assembly. */
  readonly name?: string;
  readonly quantity?: string;
  /** e.g. `34 each per m2`, `1 roll covers 9.2 m2`, `5.5 m per hour`. */
  readonly consumption?: string;
  /** Formula of what the consumption goes by; the driver if absent. */
  readonly of?: string;
  /** Formula of the length of one piece, where the item is sold in lengths. */
  readonly piece?: string;
  /** Runs once for each opening, layer or junction of the element, or once for all elements of a room or the project. */
  readonly per?: LineRun;
  /** People who work together where hours are those of a crew. */
  readonly crew?: number;
  /** Only where this condition holds. */
  readonly when?: string;
  /** Parameters handed to the assembly of the line, as formulas of this assembly. */
  readonly parameters?: Readonly<Record<string, string>>;
  /** Overrides the item's waste, per cent. */
  readonly wastePercent?: number;
  readonly note?: string;
}

/** Turns one measured thing into many priced ones. `unit` is that of its driver. */
export interface Assembly {
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  readonly group?: string;
  /** Codes in classifications, by their names; they hold for its items that have none of their own. */
  readonly classes?: ClassCodes;
  readonly parameters?: readonly AssemblyParameter[];
  readonly lines: readonly BuildUpLine[];
}

/**
 * Ids of the lines of an assembly, no two alike: their own, else the code of the item or assembly with its ordinal among equals.
 * @example lines of M-TILE, M-LATH, M-TILE without ids // ['M-TILE', 'M-LATH', 'M-TILE#2']
 */
export function listLineIds(lines: readonly BuildUpLine[]): string[] {
  const taken = new Set(lines.flatMap((l) => (l.id === undefined ? [] : [l.id])));
  const seen = new Set<string>();
  return lines.map(({ id, item, assembly }) => {
    const code = item ?? assembly ?? '';
    // Two lines of one id, as a copy by hand gives, are told apart as well.
    if (id !== undefined && !seen.has(id)) {
      seen.add(id);
      return id;
    }
    const base = id ?? code;
    let own = base;
    for (let n = 2; seen.has(own) || taken.has(own); n++) own = `${base}#${n}`;
    seen.add(own);
    return own;
  });
}

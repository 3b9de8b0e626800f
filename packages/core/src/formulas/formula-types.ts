import type { FaceLook, FinishSurface, PropertyValue } from '../elements/model-element.ts';
import type { SideView } from '../quantities/side-view.ts';
import type { JunctionKind } from '../quantities/wall-junctions.ts';
import type { Problem } from '../result/result.ts';
import { nameKey } from '../units/code-key.ts';
import { type Dimension, dimensionToUnitName } from '../units/dimension.ts';
import { foldText } from '../units/fold-text.ts';

/** What a formula or a part of it gives. */
export type FormulaType =
  | { readonly kind: 'number'; readonly dimension: Dimension }
  | { readonly kind: 'text' }
  | { readonly kind: 'truth' };

/**
 * A name a formula may use: a quantity of the element or of the opening or layer the line runs over (`part`), a parameter, the
 * driver, the result of another line, a named value, what the project takes of the item (`total`). Figures are SI of its dimension.
 */
export interface FormulaName {
  readonly name: string;
  readonly dimension: Dimension;
  readonly source: 'quantity' | 'part' | 'parameter' | 'driver' | 'line' | 'value' | 'total';
  /** Quantity of the element that it is nothing but, under another name: a driver that is NetVolume. */
  readonly quantity?: string;
  /** Of a line that runs once for several elements: for what. Only lines that run for the same may use it. */
  readonly sharedRun?: string;
  /** Figure of a named value. */
  readonly value?: number;
  /** Of a parameter: it reads nothing of the element, so it is the same for all. */
  readonly isConstant?: boolean;
  /** It stands for a text, not a figure. */
  readonly isText?: boolean;
  /** Fields of the element that it stands for, where its source does not tell. */
  readonly reads?: readonly ElementField[];
  /** Why the name cannot be used although it is known. */
  readonly problem?: Problem;
}

/** A scale as formulas see it: what it gives, what it is looked up by (null for a text), and the way to look it up. */
export interface FormulaScale {
  readonly name: string;
  readonly dimension: Dimension;
  readonly keys: readonly (Dimension | null)[];
  /** Step of each key in SI: what is begun counts whole; null for none. */
  readonly steps: readonly (number | null)[];
  readonly find: (keys: readonly (number | string)[]) => number | Problem;
  /** Tells whether two scales give the same. */
  readonly signature: string;
  /** Why the scale cannot be used although it is there. */
  readonly problem?: Problem;
}

/** Names known to a formula, found in any case; a name of several words is written as one: "Render depth" as RenderDepth. */
export class FormulaNames {
  private readonly own = new Map<string, FormulaName>();
  private readonly scales: ReadonlyMap<string, FormulaScale>;

  /** @param outer names that these come beside, and hide where they are called the same; its scales stay */
  constructor(
    names: Iterable<FormulaName>,
    scales: Iterable<FormulaScale> = [],
    private readonly outer: FormulaNames | null = null,
  ) {
    for (const n of names) this.own.set(nameKey(n.name), n);
    this.scales = outer ? outer.scales : new Map([...scales].map((s) => [foldText(s.name), s]));
  }

  /** A scale by its name, in any case. */
  findScale(name: string): FormulaScale | undefined {
    return this.scales.get(foldText(name));
  }

  find(name: string): FormulaName | undefined {
    return this.own.get(nameKey(name)) ?? this.outer?.find(name);
  }

  /** These names with more, which hide earlier ones of the same name. Nothing is copied. */
  with(more: Iterable<FormulaName>): FormulaNames {
    return new FormulaNames(more, [], this);
  }

  /** Those of these names that are wanted, with the same scales. */
  only(isWanted: (name: FormulaName) => boolean): FormulaNames {
    return new FormulaNames(
      this.list().filter((n) => isWanted(n)),
      this.scales.values(),
    );
  }

  list(): FormulaName[] {
    return [...this.gather().values()];
  }

  private gather(): Map<string, FormulaName> {
    const all = this.outer ? this.outer.gather() : new Map<string, FormulaName>();
    for (const [key, name] of this.own) all.set(key, name);
    return all;
  }
}

/** What stands for a name in a run: its figure in SI (NaN is "absent"), or its text. */
export type SlotValue = number | string;

/** Type of what a name stands for. */
export const typeOfName = ({ isText, dimension }: FormulaName): FormulaType =>
  isText ? TEXT : { kind: 'number', dimension };

/** The figures one run of a formula reads, and the first thing that went wrong in it. */
export interface FormulaRun {
  /** Values of the formula's slots. */
  readonly values: ArrayLike<SlotValue>;
  readonly property: (name: string) => PropertyValue | undefined;
  /** The element as a rectangle seen from the side, with its openings; null if it is none. */
  readonly side?: () => SideView | null;
  /** Share of a quantity of the element within a limit of the project, 0 to 1, or why it is not known. */
  readonly within?: (limit: string, quantity: string) => number | Problem;
  /** Area of the surfaces of a room that have a finish (wildcards allowed), of one kind or all, m2; null if it has none. */
  readonly finish?: (finish: string, surface: FinishSurface | null) => number | null;
  /** Junctions of one kind counted with the element, among the walls of a class or type only; null if it can have none. */
  readonly junctions?: (kind: JunctionKind, classOrType: string) => number | null;
  /** Area of the element's faces of a surface style (wildcards allowed) that look one way, or all; null if it has none of that style. */
  readonly faces?: (style: string, look: FaceLook | null) => number | null;
  /** Material of the layer that the line runs over; null if it has none. */
  readonly layerMaterial?: () => string | null;
  /** What the junction is that the line runs over: corner, tee, cross, free end. */
  readonly junctionKind?: () => string | null;
  /** What the element is called, in one way; null if it has no such text. */
  readonly label?: (what: ElementLabel) => string | null;
  problem: Problem | null;
}

/**
 * What of an element a formula reads: a quantity (`q:` and its name in small letters), a property (`p:` and its folded name, with its
 * set or without), a text (`t:`), what it is made of or has (`parts`), the room it lies in (`room`), or anything of it (`*`).
 */
export type ElementField = `q:${string}` | `p:${string}` | `t:${ElementLabel}` | 'parts' | 'room' | '*';

/** Texts that say what an element is. */
export type ElementLabel = 'name' | 'type' | 'tag' | 'material' | 'code';

export type Evaluator = (run: FormulaRun) => number | string | boolean;

/** A part of a formula made ready to run. `isConstant` parts read nothing. */
export interface CompiledNode {
  readonly type: FormulaType;
  readonly isConstant: boolean;
  readonly evaluate: Evaluator;
  /** Name of the quantity that it is, if it is nothing but one. */
  readonly quantity?: string;
}

export const NUMBER: FormulaType = { kind: 'number', dimension: {} };
export const TEXT: FormulaType = { kind: 'text' };
export const TRUTH: FormulaType = { kind: 'truth' };

/** A type in words: `m2`, `number`, `text`, `yes/no`. */
export function describeFormulaType(type: FormulaType): string {
  return type.kind === 'number' ? dimensionToUnitName(type.dimension) : type.kind === 'text' ? 'text' : 'yes/no';
}

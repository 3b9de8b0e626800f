import type { DecidedPart } from '../elements/decided-parts.ts';
import type { Condition } from '../scopes/condition.ts';

/** A trade slot that a rule prices. In one section an element is priced once; sections add up. */
export interface WorkSection {
  readonly id: string;
  readonly name: string;
}

/** What an element is priced with, or why it is left out. */
export interface PricedWith {
  readonly item?: string;
  readonly assembly?: string;
  /** Formula of the quantity that drives it, e.g. `NetSideArea`. */
  readonly driver?: string;
  /** Parameters of the assembly set to other formulas. */
  readonly parameters?: Readonly<Record<string, string>>;
  /** Items that others take the place of, by code: wherever its lines name the one, the other is priced. */
  readonly swaps?: Readonly<Record<string, string>>;
  /** Left out on purpose, for this reason. */
  readonly leaveOut?: string;
}

/** An item that takes the place of another in the plan: in one work section, or in all of them. */
export interface ItemSwap {
  readonly from: string;
  readonly to: string;
  /** Every section if absent. */
  readonly section?: string;
}

/** Elements that a rule may speak for beside those it catches: their parts, and what they host. */
export const ALSO_FOR = ['parts', 'hosted'] as const;
export type AlsoFor = (typeof ALSO_FOR)[number];

/**
 * Scope + work section + what it is priced with + driver. Rules are taken in their order; the first that catches an
 * element prices it in its section. A leave-out rule without a section takes part in every section.
 */
export interface PricingRule extends PricedWith {
  readonly id: string;
  readonly name: string;
  readonly scope: Condition;
  readonly section?: string;
  /** What it decides about: single layers, face styles or finishes of the elements; the elements themselves if absent. */
  readonly about?: DecidedPart;
  /** Whom it speaks for too, where nothing that catches them says otherwise. One for parts prices these in place of their whole. */
  readonly also?: readonly AlsoFor[];
  /** A decision for all occurrences of a type: beats rules that are not. */
  readonly forType?: boolean;
  readonly isOff?: boolean;
  /** Made for any building: that it catches nothing in this one is no fault. */
  readonly mayBeIdle?: boolean;
}

/** A decision for one element, or for what of it is called one way, by its ElementKey: beats every rule of the section. */
export interface Pin extends PricedWith {
  readonly id: string;
  readonly element: number;
  readonly section: string;
  /** What of the element it is about, and what that is called: the material of its layers, the style of its faces, the finish of its surfaces. */
  readonly about?: DecidedPart;
  readonly of?: string;
}

/** What an element is priced with by itself, while no pin and no rule decides about it: the code of a list's line, an allowance. */
export interface OwnDecision extends PricedWith {
  readonly element: number;
  readonly section: string;
}

/** The items that are swapped in the lines of a decision: those of the project for its section, and its own before these. */
export function joinSwaps(
  all: readonly ItemSwap[] | undefined,
  { section, decision }: { readonly section: string | null; readonly decision: PricedWith },
): PricedWith['swaps'] {
  const held = (all ?? []).filter((s) => s.section === undefined || s.section === section);
  if (held.length === 0) return decision.swaps;
  // What is said of one section goes before what is said of all.
  const ordered = [...held].sort((a, b) => Number(a.section !== undefined) - Number(b.section !== undefined));
  return { ...Object.fromEntries(ordered.map((s) => [s.from, s.to])), ...decision.swaps };
}

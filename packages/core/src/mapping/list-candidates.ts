import { readText } from '../elements/columns.ts';
import { type DecidedPart, listDecidedParts } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { relateElements } from '../elements/relations.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import { evaluateScope, evaluateScopeOverParts, type RowMask } from '../scopes/evaluate-scope.ts';
import { maskRowsOf } from '../scopes/mask-part-field.ts';
import { foldText } from '../units/fold-text.ts';
import { speaksIn } from './precedence.ts';
import type { OwnDecision, Pin, PricedWith, PricingRule } from './pricing-rule.ts';

/** A decision with what it catches: a mask for a rule, single places for pins; over rows, or over the parts it is about. */
export interface Candidate {
  readonly id: string;
  readonly leaveOut: boolean;
  readonly about: DecidedPart | null;
  readonly mask: RowMask | null;
  readonly places: readonly number[];
  /** A rule that leaves the wholes it catches to their parts. */
  readonly isForParts: boolean;
}

/** Decisions about single elements that price the same way in a section, as one. */
export interface DecisionKind {
  readonly id: string;
  readonly section: string;
  readonly decision: PricedWith;
  readonly about: DecidedPart | null;
  readonly of: string;
  readonly elements: number[];
}

const kindsOf = new WeakMap<readonly (Pin | OwnDecision)[], readonly DecisionKind[]>();

/** Decisions by what they price with; gathered once for the same list. */
export function gatherAlike(decisions: readonly (Pin | OwnDecision)[], who: 'pin' | 'own'): readonly DecisionKind[] {
  const known = kindsOf.get(decisions);
  if (known) return known;
  const kinds = new Map<string, DecisionKind>();
  for (const one of decisions) {
    const { section, item, assembly, driver, parameters, swaps, leaveOut, element, about, of = '' }: Pin & OwnDecision = { id: '', ...one }; // biome-ignore format: one record
    const settings = Object.entries(parameters ?? {}).sort(([a], [b]) => (a < b ? -1 : 1));
    const part = about ? [about, of] : [];
    const changed = swaps ? [Object.entries(swaps).sort(([a], [b]) => (a < b ? -1 : 1))] : [];
    const id = `${who}:${JSON.stringify([section, item, assembly, driver, settings, leaveOut, ...part, ...changed])}`;
    const kind = kinds.get(id) ?? { id, section, decision: one, about: about ?? null, of, elements: [] };
    kinds.set(id, kind);
    kind.elements.push(element);
  }
  const gathered = [...kinds.values()];
  kindsOf.set(decisions, gathered);
  return gathered;
}

/** Places of the elements of a kind of pins, or of what of them it is about. */
export function placePins({ elements, about, of }: DecisionKind, table: ElementTable): number[] {
  const rowOf = listRowsByKey(table.keys);
  const rows = elements.flatMap((element) => rowOf.get(element) ?? []);
  if (!about) return rows;
  const { offset, name } = listDecidedParts(table, about);
  const wanted = foldText(of);
  return rows.flatMap((row) => {
    const places: number[] = [];
    for (let at = offset[row]!; at < offset[row + 1]!; at++)
      if (foldText(readText(name, at) ?? '') === wanted) places.push(at);
    return places;
  });
}

/** Rows whose wholes above, or hosts, a rule catches that is also for their parts, or for what they host; less those that it catches itself. */
export function maskInherited({ scope, also = [] }: PricingRule, table: ElementTable): RowMask {
  const caught = evaluateScope(scope, table);
  const { wholes, hosts } = relateElements(table);
  const kept = handedDown.get(caught);
  if (kept && kept.wholes === wholes && kept.hosts === hosts && kept.also === also.join()) return kept.mask;
  const rowOf = listRowsByKey(table.keys);
  const find = (key: number) => (key === 0 ? undefined : rowOf.get(key));
  const isBelow = (row: number): boolean => {
    for (let at = find(wholes[row]!), n = 0; at !== undefined && n < 32; at = find(wholes[at]!), n++)
      if (caught[at]) return true;
    return false;
  };
  const mask = Uint8Array.from(wholes, (_, row) => {
    if (caught[row]) return 0;
    const host = find(hosts[row]!);
    return Number(
      (also.includes('parts') && isBelow(row)) || (also.includes('hosted') && host !== undefined && caught[host] === 1),
    );
  });
  handedDown.set(caught, { wholes, hosts, also: also.join(), mask });
  return mask;
}
/** What was handed down of a mask, for as long as that lives. */
const handedDown = new WeakMap<RowMask, { readonly wholes: Int32Array; readonly hosts: Int32Array; readonly also: string; readonly mask: RowMask }>(); // biome-ignore format: one record

/** How the part of a rule that is handed down is told from what it catches itself. */
export const inheritedId = (rule: PricingRule): string => `${rule.id} (handed down)`;

/** What of rules takes part in a section, the first first. */
export function listRuleCandidates(ordered: readonly PricingRule[], section: string, table: ElementTable): Candidate[] {
  const speaking = ordered.filter((r) => speaksIn(r, section));
  const own = speaking.map(
    ({ id, scope, leaveOut, about = null, also = [] }): Candidate => ({
      id,
      leaveOut: leaveOut !== undefined,
      about,
      mask: about ? evaluateScopeOverParts(scope, table, about) : evaluateScope(scope, table),
      places: [],
      isForParts: leaveOut === undefined && !about && also.includes('parts'),
    }),
  );
  const handed = speaking
    .filter((r) => !r.about && r.also && r.also.length > 0)
    .map((r): Candidate => ({ id: inheritedId(r), leaveOut: r.leaveOut !== undefined, about: null, mask: maskInherited(r, table), places: [], isForParts: r.leaveOut === undefined && r.also!.includes('parts') })); // biome-ignore format: one step
  return [...own, ...handed];
}

/** What a rule catches by: its scope, and what of the elements it is about. */
export interface Caught {
  readonly scope: PricingRule['scope'];
  readonly about?: DecidedPart | undefined;
}

/** Elements that a rule's scope catches, or parts of which it catches. */
export function caughtBy({ scope, about }: Caught, table: ElementTable): RowMask {
  if (!about) return evaluateScope(scope, table);
  const parts = evaluateScopeOverParts(scope, table, about);
  const known = caughtRows.get(parts);
  if (known) return known;
  const rows = maskRowsOf(parts, table, about);
  caughtRows.set(parts, rows);
  return rows;
}
const caughtRows = new WeakMap<RowMask, RowMask>();

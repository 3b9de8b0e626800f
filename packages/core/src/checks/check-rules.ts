import { listDecidedParts } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { MappedRows } from '../mapping/map-elements.ts';
import { orderRules } from '../mapping/precedence.ts';
import type { PricingRule, WorkSection } from '../mapping/pricing-rule.ts';
import type { Plan } from '../plan/plan.ts';
import { type Condition, describeCondition, type FieldCondition } from '../scopes/condition.ts';
import {
  evaluateScope,
  evaluateScopeOverParts,
  findPropertyColumns,
  listMaskedRows,
} from '../scopes/evaluate-scope.ts';
import { textPoolOf } from '../scopes/text-pool.ts';
import { foldText } from '../units/fold-text.ts';
import { distanceOf } from '../units/text-distance.ts';
import type { Finding } from './finding.ts';

/** Values that a rule which catches nothing may have meant, at most. */
const MOST_GUESSES = 3;

/**
 * Rules that catch nothing, rules that one before them hides whole, and rules of a section that there is no more. Rules that are off, and those made for any building, are nobody's
 * business; nor is one that takes what another leaves over (it asks for nothing beyond what that one asks for), or what is priced with its whole.
 */
export function checkRules(plan: Plan, rules: readonly PricingRule[], sections: readonly WorkSection[]): Finding[] {
  const parts = plan.parts.filter((p) => !p.table.origin);
  const tables = parts.map((p) => p.table);
  const deciding = new Set(
    parts.flatMap((p) => p.mapping.mapped.filter((m) => m.rows.length > 0).map((m) => m.rule?.id ?? m.id)),
  );
  const found: Finding[] = [];
  // Where nothing is to be caught yet, no rule is at fault.
  if (tables.every((t) => t.count === 0)) return found;
  const known = new Set(sections.map((s) => s.id));
  for (const rule of orderRules(rules)) {
    if (rule.section !== undefined && !known.has(rule.section))
      found.push({
        code: 'rule-without-section',
        severity: 'warning',
        message: `Rule "${rule.name}" prices in a work section that there is no more: ${rule.section}.`,
        globalIds: [],
        cause: rule.id,
      });
    if (rule.mayBeIdle) continue;
    const caught = parts.reduce((n, p) => n + (p.mapping.caught.get(rule.id) ?? 0), 0);
    if (caught === 0) {
      const guesses = guessValues(rule.scope, tables);
      found.push({
        code: 'rule-idle',
        severity: 'notice',
        message: `Rule "${rule.name}" catches nothing: ${describeCondition(rule.scope)}.${guesses.length > 0 ? ` Near it: ${guesses.join(', ')}.` : ''}`,
        globalIds: [],
        cause: rule.id,
      });
    } else if (!deciding.has(rule.id)) {
      const hiding = findHiding(rule, rules, parts);
      if (hiding !== null)
        found.push({
          code: 'rule-hidden',
          severity: 'warning',
          message: `Rule "${rule.name}" decides nothing: all ${caught} that it catches are decided before it, by ${hiding}.`,
          globalIds: [],
          cause: rule.id,
        });
    }
  }
  return found;
}

/** What alone has all that a rule catches in its section, and asks for other things than it; null if nothing does. */
function findHiding(rule: PricingRule, rules: readonly PricingRule[], parts: Plan['parts']): string | null {
  const hiding = new Set<string>();
  for (const { table, mapping } of parts) {
    const open = listOpenPlaces(rule, table);
    for (const m of mapping.mapped) {
      if (m.section !== rule.section && m.section !== null) continue;
      const by = m.decider === 'pin' ? '' : (m.rule?.id ?? m.id);
      for (const place of listPlacesOf(m, rule, table)) if (open.delete(place)) hiding.add(by);
    }
    // What is priced with its whole, or by its parts, is hidden by no rule.
    if (open.size > 0) return null;
  }
  if (hiding.size !== 1) return null;
  const [id] = hiding;
  if (id === '') return 'pins';
  const other = rules.find((r) => r.id === id)!;
  const asked = new Set(listParts(other.scope).map((part) => JSON.stringify(part)));
  return listParts(rule.scope).every((part) => asked.has(JSON.stringify(part))) ? null : `"${other.name}"`;
}

/** What a rule catches and the project does not leave out: rows, or places of the parts that it is about. */
function listOpenPlaces({ scope, about }: PricingRule, table: ElementTable): Set<number> {
  const isIn = (row: number) => !table.excluded?.[row];
  if (!about) return new Set(listMaskedRows(evaluateScope(scope, table)).filter(isIn));
  const { rows } = listDecidedParts(table, about);
  return new Set(listMaskedRows(evaluateScopeOverParts(scope, table, about)).filter((place) => isIn(rows[place]!)));
}

/** What a decision has of what a rule may catch, as `listOpenPlaces` counts: one about the elements has all parts of them. */
function listPlacesOf(m: MappedRows, { about }: PricingRule, table: ElementTable): Iterable<number> {
  if (!about) return m.about ? [] : m.rows;
  const { offset } = listDecidedParts(table, about);
  if (m.about === about) return m.rows.map((row, at) => offset[row]! + m.parts![at]!);
  if (m.about) return [];
  return [...m.rows].flatMap((row) => Array.from({ length: offset[row + 1]! - offset[row]! }, (_, at) => offset[row]! + at)); // biome-ignore format: one step
}

/** What a scope asks for all at once. */
const listParts = (scope: Condition): Condition[] => ('all' in scope ? scope.all.flatMap(listParts) : [scope]);

/** Texts of the model that are near to those which a scope asks for and which none of it has. */
function guessValues(scope: Condition, tables: readonly ElementTable[]): string[] {
  const guesses: string[] = [];
  for (const test of listTests(scope)) {
    const pool = listPool(test, tables);
    const wanted = [test.value, ...(test.values ?? [])].filter((v) => typeof v === 'string');
    for (const value of wanted) {
      if (pool.length === 0 || tables.some((t) => evaluateScope(test, t).includes(1))) continue;
      const bare = foldText(value.replace(/[*?]/g, ' '));
      const near = pool
        .map((text) => ({ text, distance: distanceOf(foldText(text), bare) }))
        .filter(({ text, distance }) => distance <= Math.max(2, 0.4 * Math.max(bare.length, text.length)))
        .sort((a, b) => a.distance - b.distance || (a.text < b.text ? -1 : 1));
      guesses.push(...near.map(({ text }) => `"${text}"`));
    }
  }
  return [...new Set(guesses)].slice(0, MOST_GUESSES);
}

function listTests(scope: Condition): FieldCondition[] {
  if ('field' in scope) return [scope];
  if ('not' in scope) return [];
  if ('named' in scope) return scope.is ? listTests(scope.is) : [];
  return ('all' in scope ? scope.all : scope.any).flatMap(listTests);
}

/** Fields in whose texts a mistake in writing is looked for. */
const WRITTEN: ReadonlySet<FieldCondition['field']> = new Set([
  'type',
  'name',
  'material',
  'layer',
  'room',
  'storey',
  'zone',
  'code',
]);

function listPool({ field, of = '' }: FieldCondition, tables: readonly ElementTable[]): string[] {
  const texts = tables.flatMap((t) =>
    field === 'property'
      ? findPropertyColumns(t, of).flatMap((c) => c.values.map(String))
      : WRITTEN.has(field)
        ? (textPoolOf(t, field) ?? [])
        : [],
  );
  return [...new Set(texts)].slice(0, 5000);
}

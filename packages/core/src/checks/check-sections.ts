import { isClassOrSubtype } from '../elements/class-hierarchy.ts';
import { classWord } from '../elements/class-word.ts';
import { readText } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import type { ExpectedSections } from '../mapping/expected-sections.ts';
import type { WorkSection } from '../mapping/pricing-rule.ts';
import { KIND_QUANTITIES, labelKind, listElementKinds } from '../plan/list-element-kinds.ts';
import type { Plan, PlanPart } from '../plan/plan.ts';
import { amountToMinor } from '../pricing/money.ts';
import type { Finding } from './finding.ts';

/** Elements of a kind of which a few may lack what the others have, at least. */
const ENOUGH = 5;
/** Share of a kind that has a section from which the rest is thought to miss it. */
const MOST_HAVE = 0.8;

/** How elements stand to one section, one byte a row: priced in it, or not wanted in it. */
interface SectionRows {
  readonly priced: Uint8Array;
  readonly out: Uint8Array;
  /** Of what is priced, in 1/10,000 of a minor unit. */
  readonly amounts: Float64Array;
}

/** Of every section that prices anything: the rows it prices, those it leaves out, and what they cost in it. */
function readSections({ table, mapping, blocks }: PlanPart): (section: string) => SectionRows {
  const everywhere = Uint8Array.from(mapping.covered, (c, row) => c || table.excluded?.[row] || 0);
  for (const m of mapping.mapped)
    if (m.section === null && m.decision.leaveOut !== undefined && !m.about) for (const row of m.rows) everywhere[row] = 1;
  const found = new Map<string, SectionRows>();
  const of = (section: string): SectionRows => {
    const known = found.get(section) ?? { priced: new Uint8Array(table.count), out: everywhere.slice(), amounts: new Float64Array(table.count) }; // biome-ignore format: one record
    found.set(section, known);
    return known;
  };
  for (const { section, decision, rows } of mapping.mapped) {
    if (section === null) continue;
    const { priced, out } = of(section);
    for (const row of rows) (decision.leaveOut === undefined ? priced : out)[row] = 1;
  }
  for (const { mapped, lines } of blocks) {
    const { amounts } = of(mapped.section ?? '');
    for (const line of lines) for (let at = 0; at < mapped.rows.length; at++) amounts[mapped.rows[at]!]! += line.amounts[at]!;
  }
  return of;
} // biome-ignore format: short loops

/**
 * Elements that are not priced in a section in which they are expected: of a class that says so, or of a kind of which nearly all others are. What is
 * left out there, or is priced with its whole, is not missing. One finding a class or kind and section, with what the missing ones would cost at the price of the others.
 */
export function checkSections(
  plan: Plan,
  sections: readonly WorkSection[],
  expected: readonly ExpectedSections[] = [],
): Finding[] {
  const parts = plan.parts.filter((p) => !p.table.origin);
  const nameOf = new Map(sections.map((s) => [s.id, s.name]));
  const found: Finding[] = [];
  const told = new Set<string>();
  for (const { ifcClass, sections: wanted } of expected)
    for (const section of wanted) {
      const missing: PlacedRows[] = [];
      const priced: PlacedRows[] = [];
      for (const part of parts) {
        const { table } = part;
        const isOf = table.ifcClass.pool.map((c) => isClassOrSubtype(c, ifcClass));
        const rows = [...table.keys.keys()].filter((row) => isOf[table.ifcClass.index[row]!]);
        const read = readSectionsOnce(part)(section);
        for (const row of rows) told.add(`${table.keys[row]}/${section}`);
        missing.push({ part, rows: rows.filter((row) => !read.priced[row] && !read.out[row]) });
        priced.push({ part, rows: rows.filter((row) => read.priced[row]) });
      }
      const count = countRows(missing);
      if (count === 0) continue;
      const what = `${count} ${count === 1 ? 'element' : 'elements'} of the class ${classWord(ifcClass)}`;
      found.push(tell(`${what} ${count === 1 ? 'has' : 'have'} nothing in ${nameOf.get(section) ?? section}, where it is expected.`, section, missing, priced, `${ifcClass} in ${section}`)); // biome-ignore format: one step
    }
  for (const part of parts) found.push(...checkKinds(part, nameOf, told));
  return found.sort((a, b) => (b.money ?? 0) - (a.money ?? 0));
}

interface PlacedRows {
  readonly part: PlanPart;
  readonly rows: readonly number[];
}

const countRows = (list: readonly PlacedRows[]): number => list.reduce((n, { rows }) => n + rows.length, 0);

const sectionsOf = new WeakMap<PlanPart, (section: string) => SectionRows>();
function readSectionsOnce(part: PlanPart): (section: string) => SectionRows {
  const read = sectionsOf.get(part) ?? readSections(part);
  sectionsOf.set(part, read);
  return read;
}

function checkKinds(part: PlanPart, nameOf: ReadonlyMap<string, string>, told: ReadonlySet<string>): Finding[] {
  const { table } = part;
  const read = readSectionsOnce(part);
  const rowOf = listRowsByKey(table.keys);
  return listElementKinds([table], () => undefined).flatMap((kind): Finding[] => {
    const { keys } = kind;
    if (keys.length < ENOUGH) return [];
    const rows = keys.map((key) => rowOf.get(key)!);
    return [...nameOf].flatMap(([section, name]): Finding[] => {
      const { priced, out } = read(section);
      const missing = rows.filter((row) => !priced[row] && !out[row] && !told.has(`${table.keys[row]}/${section}`));
      const having = rows.filter((row) => priced[row]);
      if (missing.length === 0 || having.length < MOST_HAVE * (having.length + missing.length)) return [];
      const label = labelKind(kind);
      const message = `${missing.length} of ${keys.length} ${label} ${missing.length === 1 ? 'has' : 'have'} nothing in ${name}, which the others have.`;
      return [tell(message, section, [{ part, rows: missing }], [{ part, rows: having }], `${label} in ${section}`)];
    });
  });
}

function tell(
  message: string,
  section: string,
  missing: readonly PlacedRows[],
  priced: readonly PlacedRows[],
  cause: string,
): Finding {
  const money = estimate(section, missing, priced);
  return {
    code: 'section-missing',
    severity: 'warning',
    message,
    globalIds: missing.flatMap(({ part, rows }) => rows.map((row) => readText(part.table.identity, row) ?? '')),
    cause,
    ...(money === null ? {} : { money: amountToMinor(money) }),
  };
}

/** What the missing ones cost at the price of the others, by the first quantity that all of them have; null where there are no others. */
function estimate(section: string, missing: readonly PlacedRows[], priced: readonly PlacedRows[]): number | null {
  const amount = priced.reduce((sum, { part, rows }) => {
    const { amounts } = readSectionsOnce(part)(section);
    return sum + rows.reduce((own, row) => own + amounts[row]!, 0);
  }, 0);
  if (amount <= 0) return null;
  for (const name of KIND_QUANTITIES) {
    const sum = (list: readonly PlacedRows[]) => list.reduce((total, { part, rows }) => total + sumOf(part.table, name, rows), 0); // biome-ignore format: one step
    const share = sum(missing) / sum(priced);
    if (Number.isFinite(share) && share > 0) return Math.round(amount * share);
  }
  return Math.round((amount * countRows(missing)) / countRows(priced));
}

/** NaN where any of them has it not. */
function sumOf(table: ElementTable, name: string, rows: readonly number[]): number {
  const values = listEffectiveQuantities(table).get(name.toLowerCase())?.values;
  return rows.reduce((sum, row) => sum + (values?.[row] ?? Number.NaN), 0);
}

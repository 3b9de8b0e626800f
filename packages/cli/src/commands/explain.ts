import { explainDecisions, explainElement, type Result, readText, success, type WhyNot } from '@tally/core';
import { findElement, readPlan } from '../input.ts';

/** `explain MODEL.ifc --template T.json --element GLOBALID`: what decides about an element, section by section, and why it is not priced. */
export async function explain(path: string, templatePath: string, globalId: string): Promise<Result<unknown>> {
  const read = await readPlan(path, templatePath);
  if (!read.ok) return read;
  const { basis, plan } = read.value;
  const { table, mapping } = plan.parts[0]!;
  const found = findElement(table, globalId, path);
  if (!found.ok) return found;
  const row = found.value;
  const lines = explainElement(plan, table.keys[row]!)?.lines ?? [];
  const sections = explainDecisions(table, row, basis.rules, basis.pins, mapping).map((decided) => {
    const problems = lines.filter((l) => l.section === decided.section && l.problem !== null);
    const { winner } = decided;
    return {
      section: decided.section,
      winner: winner && { kind: winner.kind, id: winner.id, name: winner.name, rank: winner.rank },
      others: decided.others.map(({ id, name, rank, lost }) => ({ id, name, rank, lost })),
      why: decided.whyNot
        ? { code: decided.whyNot.code, message: sayWhyNot(decided.whyNot, (r) => readText(table.identity, r)) }
        : problems.length > 0
          ? { code: 'not-known', message: problems.map((l) => `${l.code}: ${l.problem!.message}`).join(' ') }
          : null,
    };
  });
  return success({ globalId, ifcClass: readText(table.ifcClass, row), name: readText(table.name, row), sections });
}

function sayWhyNot(why: WhyNot, idOf: (row: number) => string | null): string {
  switch (why.code) {
    case 'nothing-catches':
      return 'No pin and no rule of this section catches it.';
    case 'left-out':
      return `Left out: ${why.reason}`;
    case 'excluded':
      return 'Left out of the project by hand.';
    case 'covered':
      return `Priced with its whole, or by its parts: ${why.rows.map(idOf).join(', ')}.`;
  }
}

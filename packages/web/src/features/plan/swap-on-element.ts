import type { ElementCostDto, PlanLine, ProjectStateDto, WordedChange } from '@tally/core';

type Basis = Pick<ProjectStateDto['basis'], 'pins' | 'rules'>;

/**
 * Another item in place of a line's on one element: what decides about the element in that section is taken as its own decision, with the one item swapped. A text
 * says why that cannot be.
 */
export function swapOnElement(
  { pins, rules }: Basis,
  cost: ElementCostDto | null,
  line: PlanLine,
  to: string,
): WordedChange | string {
  const own = cost?.lines.find((l) => l.code === line.item && l.section === line.section);
  if (!cost || !own || line.section === null) return 'Choose an element first.';
  const { section } = line;
  const about = own.part === null ? undefined : 'part';
  if (about) return 'A layer or finish is decided on its own. Decide it in the sheet of the element.';
  const pin = pins.find((p) => p.element === cost.key && p.section === section && p.about === undefined);
  const from = Object.entries(pin?.swaps ?? {}).find(([, now]) => now === line.item)?.[0] ?? line.item;
  const cause = `${to} in place of ${from}, on one element`;
  if (pin) {
    const body = { ...pin, swaps: { ...pin.swaps, [from]: to } };
    return { cause, diff: { added: [], updated: [{ kind: 'pin', id: pin.id, from: pin, to: body }], removed: [] } };
  }
  const rule = rules.find((r) => r.id === own.rule);
  if (!rule) return 'It is priced by itself: give it a rule or a decision of its own first.';
  const { item, assembly, driver, parameters } = rule;
  const body = {
    id: `swap-${cost.key}-${section}`,
    element: cost.key,
    section,
    ...(item === undefined ? {} : { item }),
    ...(assembly === undefined ? {} : { assembly }),
    ...(driver === undefined ? {} : { driver }),
    ...(parameters === undefined ? {} : { parameters }),
    swaps: { ...rule.swaps, [from]: to },
  };
  return { cause, diff: { added: [{ kind: 'pin', id: body.id, body }], updated: [], removed: [] } };
}

import type { EntryDiff, Finding, Pin } from '@tally/core';

/** One way to settle what is counted twice, in one step. */
export interface Settling {
  readonly label: string;
  readonly cause: string;
  readonly diff: Partial<EntryDiff>;
}

/**
 * Ways to settle a thing that is counted twice: of a pair the second is left out, or is not priced in the section that has it twice; one element is
 * not priced in the second of its two sections. None for findings about anything else, and for those about more elements.
 * @param nameSection what a work section is called
 * @param pins decisions by hand that there are: those of the element in that section are replaced
 */
export function listSettlings(
  { code, keys = [], message, lines = [] }: Finding,
  nameSection: (section: string) => string,
  pins: readonly Pin[] = [],
): Settling[] {
  const [first, second, ...more] = keys;
  if (code !== 'double-count' || first === undefined || more.length > 0) return [];
  const reason = message.slice(0, 300);
  const off = lines[1];
  const settlings: Settling[] = [];
  if (second !== undefined)
    settlings.push({
      label: 'Leave one out',
      cause: 'One of two left out that were counted twice',
      diff: { added: [{ kind: 'leftOut', id: String(second), body: { reason } }] },
    });
  if (off && off.section !== '') {
    const element = second ?? first;
    const id = `off-${element}-${off.section}`.slice(0, 56);
    const before = pins.filter((p) => p.element === element && p.section === off.section && !p.about);
    settlings.push({
      label: `Not in ${nameSection(off.section)}`,
      cause: `Counted twice: not priced in ${nameSection(off.section)}`,
      diff: {
        removed: before.map((pin) => ({ kind: 'pin', id: pin.id, body: pin })),
        added: [{ kind: 'pin', id, body: { id, element, section: off.section, leaveOut: reason } }],
      },
    });
  }
  return settlings;
}

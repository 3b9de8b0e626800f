import type { BaselineBody, ChangeDto, SourceDto } from '@tally/core';
import { showTime } from '../../ui/format.ts';

/** A state of a project that can be chosen to be compared, as the server names it and as people do. */
export interface StateChoice {
  readonly ref: string;
  readonly word: string;
  readonly group: 'Now' | 'Frozen plans' | 'Revisions' | 'After a change';
}

/** States that a project offers: the plan of now, frozen ones, every revision that could count, after each of the last changes. */
export function listStates(
  baselines: Readonly<Record<string, BaselineBody>>,
  sources: readonly SourceDto[],
  changes: readonly ChangeDto[],
): StateChoice[] {
  const frozen = Object.entries(baselines)
    .sort(([, a], [, b]) => (a.at ?? '').localeCompare(b.at ?? ''))
    .map(([id, { name, isContract }]): StateChoice => {
      const word = isContract ? `${name} (contract)` : name;
      return { ref: `baseline:${id}`, word, group: 'Frozen plans' };
    });
  const revisions = sources.flatMap((s) =>
    s.revisions.length < 2
      ? []
      : s.revisions.map(
          (r): StateChoice => ({
            ref: `revision:${r.id}`,
            word: `${s.name} ${r.number}${r.state === 'counting' ? ', counts' : ''}`,
            group: 'Revisions',
          }),
        ),
  );
  const after = changes.map(
    (c): StateChoice => ({
      ref: `seq:${c.seq}`,
      word: `${c.cause} (${showTime(c.at)})`,
      group: 'After a change',
    }),
  );
  return [{ ref: 'live', word: 'Now', group: 'Now' }, ...frozen, ...revisions, ...after];
}

/** What is compared until somebody chooses: the contract, else the last frozen plan, with now; else the last change. */
export function chooseFirst(
  baselines: Readonly<Record<string, BaselineBody>>,
  changes: readonly ChangeDto[],
): { readonly from: string; readonly to: string } | null {
  const all = Object.entries(baselines).sort(([, a], [, b]) => (b.at ?? '').localeCompare(a.at ?? ''));
  const [id] = all.find(([, b]) => b.isContract) ?? all[0] ?? [];
  if (id !== undefined) return { from: `baseline:${id}`, to: 'live' };
  const last = changes.find((c) => (c.move?.move ?? 0) !== 0) ?? changes[0];
  return last ? { from: `seq:${last.seq - 1}`, to: `seq:${last.seq}` } : null;
}

import { type BaselineBody, type ChangeDto, readWorkspaceId, type SourceDto } from '@tally/core';
import { showTime } from '../../ui/format.ts';

/** A state of a project that can be chosen to be compared, as the server names it and as people do. */
export interface StateChoice {
  readonly ref: string;
  readonly word: string;
  readonly group: 'Now' | 'Options' | 'Frozen plans' | 'Revisions' | 'After a change';
}

/** Options in the order in which they were made, wherever they are listed. */
export const listOptions = <O extends { readonly at?: string }>(
  options: Readonly<Record<string, O>>,
): (readonly [id: string, option: O])[] =>
  Object.entries(options).sort(([, a], [, b]) => (a.at ?? '').localeCompare(b.at ?? ''));

/** States that a project offers: the plan of now, frozen ones, every revision that could count, after each of the last changes. */
export function listStates(
  workspace: string,
  options: Readonly<Record<string, { readonly name: string; readonly isAway?: boolean; readonly at?: string }>>,
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
  const { option } = readWorkspaceId(workspace);
  const own = option === null ? [] : [{ ref: 'base', word: 'The plan, without the option', group: 'Now' } as const];
  const others = listOptions(options)
    .filter(([id, o]) => id !== option && !o.isAway)
    .map(([id, o]): StateChoice => ({ ref: `option:${id}`, word: o.name, group: 'Options' }));
  return [
    { ref: 'live', word: option === null ? 'Now' : 'This option', group: 'Now' },
    ...own,
    ...others,
    ...frozen,
    ...revisions,
    ...after,
  ];
}

/** What is compared until somebody chooses: an option with its plan; the contract, else the last frozen plan, with now; else the last change. */
export function chooseFirst(
  workspace: string,
  baselines: Readonly<Record<string, BaselineBody>>,
  changes: readonly ChangeDto[],
): { readonly from: string; readonly to: string } | null {
  if (readWorkspaceId(workspace).option !== null) return { from: 'base', to: 'live' };
  const all = Object.entries(baselines).sort(([, a], [, b]) => (b.at ?? '').localeCompare(a.at ?? ''));
  const [id] = all.find(([, b]) => b.isContract) ?? all[0] ?? [];
  if (id !== undefined) return { from: `baseline:${id}`, to: 'live' };
  const last = changes.find((c) => (c.move?.move ?? 0) !== 0) ?? changes[0];
  return last ? { from: `seq:${last.seq - 1}`, to: `seq:${last.seq}` } : null;
}

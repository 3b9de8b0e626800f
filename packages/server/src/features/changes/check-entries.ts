import { setImmediate } from 'node:timers/promises';
import {
  bandId,
  type CheckedMark,
  type Difference,
  differenceId,
  ENTRY_SCHEMAS,
  type Entry,
  type EntryDiff,
  type EntryKind,
  type ExpectedSections,
  isEmptyDiff,
  isOptional,
  markId,
  type PriceBand,
  type Target,
  targetId,
} from '@tally/core';
import { HttpProblem } from '../../http/http-problem.ts';

/** Kinds whose entries are kept by their name. */
const NAMED_KINDS = ['value', 'scale', 'classification'];

type Body = { readonly code?: string; readonly id?: string; readonly name?: string };

/** What an entry calls itself, which is what it is kept by; undefined where it does not say. */
function readOwnId(kind: string, body: Body): string | undefined {
  if (kind === 'expected') return (body as ExpectedSections).ifcClass;
  if (kind === 'band') return bandId(body as PriceBand);
  if (kind === 'target') return targetId(body as Target);
  if (kind === 'checked') return markId((body as CheckedMark).on);
  // A difference says what it is of, not what it is.
  if (kind === 'difference') return undefined;
  // An allowance is known by its ElementKey; several may have one code.
  if (kind === 'allowance') return undefined;
  return body.code ?? body.id ?? (NAMED_KINDS.includes(kind) ? body.name : undefined);
}

/** What an option has in place of an entry is checked as that. */
async function checkDifference(id: string, body: Difference): Promise<void> {
  if (!isOptional(body.kind) || id !== differenceId(body))
    throw new HttpProblem(400, { code: 'entry-invalid', message: `${id} cannot be another in an option.` });
  if (body.to !== null)
    await checkEntries({ added: [{ kind: body.kind, id: body.id, body: body.to }], updated: [], removed: [] });
}

/** Entries that are checked before other requests have their turn. */
const CHECKED_AT_ONCE = 1000;

/** Refuses entries that are not valid, each by the schema of its kind. Errors: 400 naming the entry and the place in it */
export async function checkEntries(diff: EntryDiff): Promise<void> {
  if (isEmptyDiff(diff))
    throw new HttpProblem(400, { code: 'request-invalid', message: 'The change changes nothing.' });
  const entries = [...diff.added, ...diff.updated.map((u): Entry => ({ kind: u.kind, id: u.id, body: u.to }))];
  for (const [i, { kind, id, body }] of entries.entries()) {
    if (i % CHECKED_AT_ONCE === CHECKED_AT_ONCE - 1) await setImmediate();
    if (kind === 'difference') await checkDifference(id, body as Difference);
    const schema = Object.hasOwn(ENTRY_SCHEMAS, kind) ? ENTRY_SCHEMAS[kind as EntryKind] : undefined;
    if (!schema) throw new HttpProblem(400, { code: 'request-invalid', message: `There is no entry kind "${kind}".` });
    const parsed = schema.safeParse(body);
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      throw new HttpProblem(400, {
        code: 'entry-invalid',
        message: `${kind} ${id}${issue.path.length > 0 ? `, ${issue.path.join('.')}` : ''}: ${issue.message}`,
        path: issue.path.join('.'),
      });
    }
    const own = readOwnId(kind, parsed.data as Body);
    if (own !== undefined && own !== id)
      throw new HttpProblem(400, { code: 'entry-invalid', message: `${kind} ${id} calls itself ${own}.` });
  }
}

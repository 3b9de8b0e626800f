import { type Target, targetSchema } from '@tally/core';
import { askFigure, readFigure } from '../../ui/format.ts';

/** A target with another amount as it was typed; a text says why it cannot be taken. */
export function readTarget(target: Target, typed: string): Target | string {
  const unclear = askFigure(typed);
  if (unclear) return unclear;
  const figure = readFigure(typed);
  if (figure === null) return `"${typed}" is no figure. Write e.g. 640000.`;
  const made = targetSchema.safeParse({ ...target, amount: String(figure) });
  return made.success ? made.data : made.error.issues[0]!.message;
}

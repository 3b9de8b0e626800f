import { ITEM_KINDS, type ItemKind, type PriceFactor, settingsSchema } from '@tally/core';
import { z } from 'zod';
import { askFigure, readFigure } from '../../ui/format.ts';
import type { Settings } from './settings-part.tsx';

export const ALL_KINDS = 'all';
/** Per cents that a factor may have: as it is, and by the year. */
const PLAIN = { least: -90, most: 900 } as const;
const YEARLY = { least: -50, most: 100 } as const;

/** A factor as it is typed. */
export interface FactorForm {
  name: string;
  percent: string;
  kind: ItemKind | typeof ALL_KINDS;
  holds: 'plain' | 'yearly';
  from: string;
  to: string;
}

export const EMPTY_FACTOR: FactorForm = { name: '', percent: '', kind: ALL_KINDS, holds: 'plain', from: '', to: '' };

/** The factor that is typed, with its sign and per cent sign if one likes; each field says what is wrong with it. */
export const factorFormSchema = z
  .object({
    name: z.string().trim().min(1, 'A factor needs a name.'),
    percent: z.string(),
    kind: z.enum([ALL_KINDS, ...ITEM_KINDS]),
    holds: z.enum(['plain', 'yearly']),
    from: z.string(),
    to: z.string(),
  })
  .transform(({ name, percent, kind, holds, from, to }, context): PriceFactor => {
    const refuse = (field: keyof FactorForm, message: string) =>
      context.addIssue({ code: 'custom', path: [field], message });
    const text = percent.trim().replace(/^\+/, '').replace(/ ?%$/, '');
    const figure = readFigure(text);
    const { least, most } = holds === 'yearly' ? YEARLY : PLAIN;
    const unclear = askFigure(text);
    if (unclear) refuse('percent', unclear);
    else if (figure === null) refuse('percent', text === '' ? 'Say by how much.' : `"${percent}" is no per cent.`);
    else if (figure < least || figure > most) refuse('percent', `From ${least} to ${most}.`.replaceAll('-', '−'));
    if (holds === 'yearly' && from === '') refuse('from', 'Say of when the prices are.');
    if (holds === 'yearly' && to === '') refuse('to', 'Say by when the work is done.');
    const head = { name, ...(kind === ALL_KINDS ? {} : { kinds: [kind] }) };
    return holds === 'yearly' ? { ...head, percentPerYear: figure ?? 0, from, to } : { ...head, percent: figure ?? 0 };
  });

/** A rate of exchange as it is typed. */
export interface ExchangeForm {
  currency: string;
  rate: string;
  date: string;
}

/** The settings with the rate of exchange that is typed; one of the same currency gives way to it. */
export const exchangeFormSchema = (settings: Settings) =>
  z.object({ currency: z.string(), rate: z.string(), date: z.string() }).transform((typed, context): Settings => {
    const refuse = (field: keyof ExchangeForm, message: string) =>
      context.addIssue({ code: 'custom', path: [field], message });
    const figure = readFigure(typed.rate);
    const made = { currency: typed.currency.trim().toUpperCase(), rate: String(figure ?? ''), date: typed.date };
    const unclear = askFigure(typed.rate);
    if (unclear) refuse('rate', unclear);
    else if (figure === null || figure <= 0) refuse('rate', 'A rate of exchange is more than 0.');
    if (typed.date === '') refuse('date', 'Say of when it is.');
    if (made.currency === settings.currency) refuse('currency', 'That is the one of the project.');
    const others = (settings.exchange ?? []).filter((e) => e.currency !== made.currency);
    const next = { ...settings, exchange: [...others, made] };
    const issues = settingsSchema.safeParse(next).error?.issues ?? [];
    const wrong = issues.find((issue) => issue.path.at(-1) === 'currency' && issue.path[0] === 'exchange');
    if (wrong) refuse('currency', wrong.message);
    return next;
  });

import { z } from 'zod';
import { askFigure, readFigure } from './format.ts';

/**
 * A figure as it is typed, point or comma as the person's number style says; what could be read in two ways is asked. Gives its decimal text,
 * null where nothing is typed.
 * @param what is wanted, for the words of a refusal: `"much" is no rate.`
 */
export const figureText = (what: string, isWithin: (figure: number) => boolean = () => true) =>
  z.string().transform((text, context): string | null => {
    if (text.trim() === '') return null;
    const figure = readFigure(text);
    if (figure !== null && isWithin(figure)) return String(figure);
    context.addIssue({ code: 'custom', message: askFigure(text) ?? `"${text}" is no ${what}.` });
    return z.NEVER;
  });

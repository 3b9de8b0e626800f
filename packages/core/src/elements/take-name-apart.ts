/**
 * An identifier written as one word, as words: each but the first in small letters.
 * @example 'NetSideArea' gives 'Net side area'
 */
export const takeNameApart = (name: string): string =>
  name.replace(/([a-z0-9])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`);

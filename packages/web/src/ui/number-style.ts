import { NUMBER_STYLES, type NumberStyle, signsOf } from '@tally/core';
import { useSyncExternalStore } from 'react';

const KEY = 'tally.figures';
const listeners = new Set<() => void>();

function readKept(): NumberStyle | null {
  const kept = typeof localStorage === 'undefined' ? null : localStorage.getItem(KEY);
  return NUMBER_STYLES.find((s) => s === kept) ?? null;
}

let chosen: NumberStyle | null = readKept();

/** The way of writing figures that the person has chosen in this browser; null while none is: then what is unclear is asked. */
export const numberStyle = (): NumberStyle | null => chosen;

/** Chooses how figures are shown and read, and keeps it for the person. */
export function chooseNumberStyle(style: NumberStyle | null): void {
  chosen = style;
  if (style === null) localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, style);
  for (const tell of listeners) tell();
}

function subscribe(tell: () => void): () => void {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}

/** The chosen way of writing figures, for what has to be drawn anew when it changes. */
export const useNumberStyle = (): NumberStyle | null => useSyncExternalStore(subscribe, numberStyle);

/** A figure of the browser's own format with a point, in the signs of a style. */
export function toStyle(text: string, style: NumberStyle): string {
  const { decimal, group } = signsOf(style);
  return text.replace(/[.,]/g, (sign) => (sign === '.' ? decimal : group === ' ' ? '\u00a0' : group));
}

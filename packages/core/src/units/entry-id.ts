import { hashText } from './hash-text.ts';

/** Signs that the id of an entry has at most. */
const LONGEST = 200;

/** A text as the id of an entry: itself, or its beginning and what tells it from others, if it is too long for one. */
export const toEntryId = (text: string): string =>
  text.length <= LONGEST ? text : `${text.slice(0, LONGEST - 20)}~${hashText(text).slice(0, 16)}`;

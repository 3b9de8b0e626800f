/** What a key is typed into where it is no key of the page: fields, and what finds its entries by the letters that are typed. */
const TAKES_LETTERS = 'input,textarea,[contenteditable],[role="menu"],[role="listbox"],[role="dialog"]';

/** What of a key decides whose it is; of the browser's events and of React's. */
type Key = Pick<KeyboardEvent, 'ctrlKey' | 'metaKey' | 'altKey' | 'defaultPrevented' | 'target'>;

/** True if a key is typed into something that takes letters itself. */
export const isTypedInto = (e: Pick<Key, 'target'>, more = ''): boolean =>
  e.target instanceof Element && e.target.closest(more === '' ? TAKES_LETTERS : `${TAKES_LETTERS},${more}`) !== null;

/** True for a key that a page may act on: alone, taken by nobody, and typed into nothing. @param more selectors of what takes letters too */
export const isPageKey = (e: Key, more = ''): boolean =>
  !e.ctrlKey && !e.metaKey && !e.altKey && !e.defaultPrevented && !isTypedInto(e, more);

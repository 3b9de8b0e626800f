/** A browser that is made up has no sizes: without them lists of any length draw no rows. */
export function giveSizes(): void {
  for (const size of ['offsetHeight', 'offsetWidth', 'clientHeight'])
    Object.defineProperty(HTMLElement.prototype, size, { configurable: true, value: 600 });
  Element.prototype.scrollTo = () => undefined;
  globalThis.ResizeObserver = class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
}

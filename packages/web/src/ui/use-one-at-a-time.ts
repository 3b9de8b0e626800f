import { useRef } from 'react';

/** Does one thing at a time: what is asked again while it is being done (a double click, Enter and leaving the field) is not done twice. */
export function useOneAtATime<A extends unknown[]>(act: (...args: A) => Promise<unknown>): (...args: A) => void {
  const isBusy = useRef(false);
  return (...args) => {
    if (isBusy.current) return;
    isBusy.current = true;
    void act(...args).finally(() => {
      isBusy.current = false;
    });
  };
}

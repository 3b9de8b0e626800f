import { useCallback, useLayoutEffect, useRef } from 'react';

/** The function as it was last drawn, always as the same object: what is handed to parts that are only drawn again for their own sake. */
export function useLatest<A extends unknown[], R>(act: (...args: A) => R): (...args: A) => R {
  const latest = useRef(act);
  useLayoutEffect(() => {
    latest.current = act;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}

import { type ComponentType, lazy, type ReactNode, Suspense, useState } from 'react';
import { PartBoundary } from './part-boundary.tsx';

/**
 * A part of the interface that is loaded when it is first shown. If it cannot be (the server is away), its place says so and it is loaded
 * again when asked; the rest of the page stays.
 * @param what as it begins a sentence
 * @param meanwhile what is shown until it is there
 */
export function loadLater<P extends object>(
  what: string,
  load: () => Promise<ComponentType<P>>,
  meanwhile: ReactNode = null,
): ComponentType<P> {
  const open = () => lazy(async () => ({ default: await load() }));
  let Part = open();
  return function Later(props: P) {
    const [, setTries] = useState(0);
    const again = () => {
      Part = open();
      setTries((n) => n + 1);
    };
    return (
      <PartBoundary what={what} onAgain={again}>
        <Suspense fallback={meanwhile}>
          <Part {...props} />
        </Suspense>
      </PartBoundary>
    );
  };
}

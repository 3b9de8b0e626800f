import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';

/** The elements selected in a project, by ElementKey: one selection shared by model, tables and tape. */
export interface Selection {
  readonly keys: ReadonlySet<number>;
  readonly select: (keys: Iterable<number>, mode?: 'replace' | 'toggle') => void;
  /** Grows each time somebody asks to be shown the selection in the model. */
  readonly frameRequest: number;
  readonly frame: () => void;
  /** A figure of an element that somebody wants to see on its shape; null for none. */
  readonly figure: ShownFigure | null;
  readonly showFigure: (figure: ShownFigure | null) => void;
}

/** A figure by the element's key and the name of the quantity. */
export interface ShownFigure {
  readonly key: number;
  readonly quantity: string;
}

const SelectionContext = createContext<Selection | null>(null);

export function SelectionProvider({ children }: { readonly children: ReactNode }) {
  const [keys, setKeys] = useState<ReadonlySet<number>>(new Set());
  const [frameRequest, setFrameRequest] = useState(0);
  const [figure, showFigure] = useState<ShownFigure | null>(null);
  const value = useMemo<Selection>(
    () => ({
      keys,
      frameRequest,
      figure,
      showFigure,
      frame: () => setFrameRequest((n) => n + 1),
      select: (chosen, mode = 'replace') =>
        setKeys((before) => {
          if (mode === 'replace') return new Set(chosen);
          const next = new Set(before);
          for (const key of chosen) if (!next.delete(key)) next.add(key);
          return next;
        }),
    }),
    [keys, frameRequest, figure],
  );
  return <SelectionContext.Provider value={value}>{children}</SelectionContext.Provider>;
}

export function useSelection(): Selection {
  const selection = useContext(SelectionContext);
  if (!selection) throw new Error('useSelection needs a SelectionProvider above it.');
  return selection;
}

import { type ComponentType, createContext, useContext } from 'react';

/** How the building is shown in small. */
export interface PictureProps {
  /** What still needs a decision is lit, what is priced stands back. */
  readonly isByState?: boolean;
}

/** The building in small, which frames what is selected; the frame of the application gives it, so that any page can have it. */
const PictureContext = createContext<ComponentType<PictureProps> | null>(null);
export const PictureProvider = PictureContext.Provider;

/** The building in small; null where there is none to see. */
export const useModelPicture = (): ComponentType<PictureProps> | null => useContext(PictureContext);

/** Two states of the building beside each other. */
export interface ComparedPictureProps {
  /** Revisions of models on each side. */
  readonly before: readonly string[];
  readonly after: readonly string[];
  /** Colours and patterns of what differs, by ElementKey; the rest is drawn by its edges. */
  readonly colourOf: ReadonlyMap<
    number,
    { readonly colour: string; readonly pattern?: 'plain' | 'rising' | 'dots' | 'falling' }
  >;
}

const ComparedContext = createContext<ComponentType<ComparedPictureProps> | null>(null);
export const ComparedPictureProvider = ComparedContext.Provider;

/** Two states of the building; null where there is none to see. */
export const useComparedPicture = (): ComponentType<ComparedPictureProps> | null => useContext(ComparedContext);

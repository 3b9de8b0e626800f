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

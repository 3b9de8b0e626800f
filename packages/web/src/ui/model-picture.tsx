import { type ComponentType, createContext, useContext } from 'react';

/** The building in small, which frames what is selected; the frame of the application gives it, so that any page can have it. */
const PictureContext = createContext<ComponentType | null>(null);
export const PictureProvider = PictureContext.Provider;

/** The building in small; null where there is none to see. */
export const useModelPicture = (): ComponentType | null => useContext(PictureContext);

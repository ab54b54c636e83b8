import { createContext, useContext } from 'react';

/** What a path gives for the recipient shown; undefined where that is not known. */
export type OwnValue = (path: string) => string | undefined;

const OwnValueContext = createContext<OwnValue>(() => undefined);
export const OwnValueProvider = OwnValueContext.Provider;
export const useOwnValue = () => useContext(OwnValueContext);

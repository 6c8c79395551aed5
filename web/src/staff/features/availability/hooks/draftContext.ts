import type { Draft } from '@zaguan/contracts/availability';
import { createContext, useContext } from 'react';

/** The draft that edits go into; `null`: they hold at once. */
export const DraftContext = createContext<Draft | null>(null);
export const useDraft = () => useContext(DraftContext);

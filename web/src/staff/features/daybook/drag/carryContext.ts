import { createContext, use } from 'react';
import type { useCarry } from './useCarry.ts';

/** `null` where nothing can be carried. */
export const CarryContext = createContext<ReturnType<typeof useCarry> | null>(null);

export const useCarrying = () => use(CarryContext);

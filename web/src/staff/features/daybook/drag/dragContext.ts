import { createContext, use } from 'react';
import type { useDragVisit } from './useDragVisit.ts';

/** `null` where nothing can be dragged. */
export const DragContext = createContext<ReturnType<typeof useDragVisit> | null>(null);

export const useDragging = () => use(DragContext);

export { useUndoToast } from './useUndoToast.ts';
export { undoApi } from './undo.api.ts';

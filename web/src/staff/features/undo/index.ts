export { useUndoToast } from './useUndoToast.ts';

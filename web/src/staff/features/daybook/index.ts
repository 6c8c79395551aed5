export { useNow } from './hooks/useNow.ts';
export { LANE_SETS, shiftDate, weekOf } from './layout.ts';

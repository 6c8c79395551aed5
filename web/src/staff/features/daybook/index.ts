export { useNow } from './hooks/useNow.ts';
export { LANE_SETS } from './layout.ts';

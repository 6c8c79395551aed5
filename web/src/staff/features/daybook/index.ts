export { useNow } from './hooks/useNow.ts';
export { LANE_KINDS } from './layout.ts';

export { hasLiveHold, proveHold } from './holds.repository.ts';

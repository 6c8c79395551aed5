export { readWallTime } from './wallTimeInput.ts';

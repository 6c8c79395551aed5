export { Effects } from './Effects.tsx';
export { signed } from './signed.ts';

export { Effects } from './Effects.tsx';

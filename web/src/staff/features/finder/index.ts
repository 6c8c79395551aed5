export { Finder } from './Finder.tsx';

export { PAGES } from './pages.ts';
export { helpSearch } from './sections.ts';

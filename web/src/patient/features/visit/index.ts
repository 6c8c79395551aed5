export { StopPage } from './StopPage.tsx';
export { VisitPage } from './VisitPage.tsx';

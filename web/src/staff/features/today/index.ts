export { VisitExtrasView } from './VisitExtrasView.tsx';
export { TodayPage } from './TodayPage.tsx';

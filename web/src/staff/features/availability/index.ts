export { AvailabilityPage } from './pages/AvailabilityPage.tsx';
export { VisitsToMovePage } from './pages/VisitsToMovePage.tsx';

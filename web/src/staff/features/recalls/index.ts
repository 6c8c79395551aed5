export { OutreachPage } from './pages/OutreachPage.tsx';
export { PlanPeoplePage } from './pages/PlanPeoplePage.tsx';
export { RegistersPage } from './pages/RegistersPage.tsx';

export { JoinPage } from './pages/JoinPage.tsx';
export { SetupPage } from './pages/SetupPage.tsx';

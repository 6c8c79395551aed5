export { accountsApi } from './accounts.api.ts';
export { SignInPage } from './pages/SignInPage.tsx';
export { useClinicTime } from './useClinicTime.ts';

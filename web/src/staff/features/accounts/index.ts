export { accountsApi } from './accounts.api.ts';
export { SignInPage } from './pages/SignInPage.tsx';

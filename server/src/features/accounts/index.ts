export { accountsEndpoints, DEMO_PASSWORD } from './accounts.endpoints.ts';
export { isCommonPassword } from './commonPassword.ts';
export { hashPassword } from './password.ts';

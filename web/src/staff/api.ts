import { connectionReporter } from '../shared/api/connection.ts';
import { contractQuery, makeApi } from '../shared/api/contractApi.ts';

let csrfToken = '';

/** Set by the sign-in; sent with everything that changes something. Kept out of the store, which tools log and save. */
export function setCsrfToken(token: string): void {
  csrfToken = token;
}

export const reporter = connectionReporter();

export const api = makeApi(contractQuery(() => csrfToken, reporter.watch));

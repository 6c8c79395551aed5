import { contractQuery, makeApi } from '../shared/api/contractApi.ts';
import { connection } from '../shared/api/connection.ts';

let tell: (action: { type: string }) => void = () => undefined;
let csrfToken = '';

/** The store tells the API where to report a lost connection, once it exists. */
export function reportConnectionTo(dispatch: (action: { type: string }) => void): void {
  tell = dispatch;
}

/** Set by the sign-in; sent with everything that changes something. Kept out of the store, which is logged and saved by tools. */
export function setCsrfToken(token: string): void {
  csrfToken = token;
}

export const api = makeApi(
  contractQuery(() => csrfToken, {
    away: () => tell(connection.actions.wentAway()),
    back: () => tell(connection.actions.cameBack()),
  }),
);

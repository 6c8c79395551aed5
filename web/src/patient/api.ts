import { contractQuery, makeApi } from '../shared/api/contractApi.ts';
import { connection } from '../shared/api/connection.ts';

let tell: (action: { type: string }) => void = () => undefined;

/** The store tells the API where to report a lost connection, once it exists. */
export function reportConnectionTo(dispatch: (action: { type: string }) => void): void {
  tell = dispatch;
}

// Patients have no session: their browser is known by a cookie the page can't read.
export const api = makeApi(
  contractQuery(() => '', {
    away: () => tell(connection.actions.wentAway()),
    back: () => tell(connection.actions.cameBack()),
  }),
);

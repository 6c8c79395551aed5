import {
  demoAccounts,
  signIn as signInContract,
  signOut as signOutContract,
  whoAmI as whoAmIContract,
} from '@zaguan/contracts/accounts';
import { handle, handleSession } from '../../platform/endpoint/handler.ts';
import { demoAccountsOf } from './accounts.repository.ts';
import { signIn, signOut, whoAmI } from './signIn.ts';

/** The demo's one password, shown on its sign-in page. Accounts marked `demo` exist only where the demo was loaded. */
export const DEMO_PASSWORD = 'open the blue-green door';

/** @param demo whether this server runs the demo; otherwise no account is ever listed */
export function accountsEndpoints(demo: boolean) {
  return [
    handleSession(signInContract, signIn),
    handleSession(signOutContract, signOut),
    handleSession(whoAmIContract, whoAmI),
    handle(demoAccounts, async (ctx) => ({
      accounts: demo
        ? (await demoAccountsOf(ctx.em)).map(({ role, name, email }) => ({
            role,
            name,
            email,
            password: DEMO_PASSWORD,
          }))
        : [],
    })),
  ];
}

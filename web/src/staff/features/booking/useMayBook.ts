import { scopeOf } from '@zaguan/contracts';
import { accountsApi } from '../accounts/index.ts';

/** Whether who is signed in books at the desk at all; the server asks again, by site. */
export function useMayBook(): boolean {
  const { data } = accountsApi.useWhoAmIQuery({});
  return Boolean(data?.me && scopeOf(data.me.role, 'appointment.book') !== 'no');
}

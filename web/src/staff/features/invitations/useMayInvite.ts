import { scopeOf } from '@zaguan/contracts';
import { accountsApi } from '../accounts/index.ts';

/** Whether who is signed in may invite patients. */
export function useMayInvite(): boolean {
  const { data } = accountsApi.useWhoAmIQuery({});
  return data?.me ? scopeOf(data.me.role, 'recalls.decide') !== 'no' : false;
}

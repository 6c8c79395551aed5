import { scopeOf } from '@zaguan/contracts';
import { accountsApi } from '../../accounts/index.ts';

/** Whether who is signed in writes notes and says who runs late; the server asks again, by site. */
export function useMayAnnotate(): boolean {
  const { data } = accountsApi.useWhoAmIQuery({});
  return Boolean(data?.me && scopeOf(data.me.role, 'daybook.annotate') !== 'no');
}

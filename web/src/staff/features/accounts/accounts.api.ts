import * as accounts from '@zaguan/contracts/accounts';
import * as clinic from '@zaguan/contracts/clinic';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api, setCsrfToken } from '../../api.ts';

export const accountsApi = api.injectEndpoints({
  endpoints: (build) => ({
    whoAmI: build.query<{ me: accounts.Me | null }, object>({
      query: (input) => ({ endpoint: accounts.whoAmI, input: { ...input } }),
      providesTags: ['Me'],
      async onQueryStarted(_input, { queryFulfilled }) {
        const result = await queryFulfilled.catch(() => null);
        setCsrfToken(result?.data.me?.csrfToken ?? '');
      },
    }),
    demoAccounts: queryOf(build, accounts.demoAccounts, []),
    signIn: mutationOf(build, accounts.signIn, ['Me']),
    signOut: mutationOf(build, accounts.signOut, ['Me']),
    clinic: queryOf(build, clinic.staffClinic, ['Clinic']),
  }),
});

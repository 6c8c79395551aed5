import { scopeOf } from '@zaguan/contracts';
import type { Me } from '@zaguan/contracts/accounts';
import { apiError } from '../../../shared/api/contractApi.ts';
import { useDebounced } from '../../../shared/time/useDebounced.ts';
import { finderApi } from './finder.api.ts';

/** So long after the last key it is asked. */
const AFTER_MS = 120;

/** Patients for what was typed; while the next answer is on its way, the last one stands. */
export function usePatientHits(me: Pick<Me, 'role'> | null, typed: string) {
  const settled = useDebounced(typed, AFTER_MS);
  const skip = settled === '' || typed === '' || !me || scopeOf(me.role, 'patients.view') === 'no';
  const { data, error, isFetching } = finderApi.usePatientsQuery({ text: settled }, { skip });
  const found = skip ? undefined : data;
  const say = found?.more
    ? ('more' as const)
    : found && !found.patients.length && !isFetching
      ? ('noPatient' as const)
      : null;
  return { patients: found?.patients ?? [], say, refused: skip ? null : apiError(error) };
}

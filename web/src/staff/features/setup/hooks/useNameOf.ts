import { useMemo } from 'react';
import { accountsApi } from '../../accounts/index.ts';
import { useRecords } from './useRefs.ts';

/** What the id of a plan, register, visit type or site is called; empty: nothing is. */
export type NameOf = (id: string | null) => string;

/** What the ids of plans, registers, visit types and sites are called, for every role that sees recalls. */
export function useNameOf(): NameOf {
  const { data: clinic } = accountsApi.useClinicQuery({});
  const plans = useRecords('recall-plan');
  const registers = useRecords('register');
  return useMemo(() => {
    const names = new Map<string, string>([
      ...(clinic?.sites ?? []).map(({ id, name }) => [id, name] as const),
      ...(clinic?.visitTypes ?? []).map(({ id, name }) => [id, name] as const),
      ...plans.map(({ id, doc }) => [id, doc.name] as const),
      ...registers.map(({ id, doc }) => [id, doc.name] as const),
    ]);
    return (id) => (id && names.get(id)) || '';
  }, [clinic, plans, registers]);
}

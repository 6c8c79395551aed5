import { toNestErrors } from '@hookform/resolvers';
import { faultCode } from '@zaguan/contracts';
import { createContext, useContext } from 'react';
import { type FieldError, type FieldValues, type Resolver, useFormState } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import type { z } from 'zod';

/** What a refusal's words name, by field. */
export const FaultFacts = createContext<Readonly<Record<string, unknown>>>({});

/** Whether a field may stay empty, as the contract says; nothing may be said where no contract is at hand. */
export const RequiredFields = createContext<(name: string, empty: unknown) => boolean>(() => false);

/** The words of a field's fault, if it has one. */
export function useFault(name: string): string | undefined {
  const { t } = useTranslation();
  const facts = useContext(FaultFacts);
  const { errors } = useFormState({ name });
  const found = name
    .split('.')
    .reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], errors);
  const fault = (found as FieldError | { root?: FieldError } | undefined) ?? undefined;
  const message = fault && ('message' in fault ? fault.message : 'root' in fault ? fault.root?.message : undefined);
  return message ? t(`fault.${message}`, { ...facts, defaultValue: t('fault.other') }) : undefined;
}

/** The word beside a label that must be filled in: as the caller says, else as the contract does. */
export function useRequired(name: string, empty: unknown, said: boolean | undefined): string | undefined {
  const { t } = useTranslation();
  const isRequired = useContext(RequiredFields);
  return (said ?? isRequired(name, empty)) ? t('setup.required') : undefined;
}

/**
 * Checks a form by a contract's own schema; a field's fault is the code that the server's refusal would give.
 *
 * @param fixed what is sent along and not asked, such as the version that was read
 */
export function contractResolver(schema: z.ZodType, fixed: object = {}): Resolver<FieldValues> {
  return (values, _context, options) => {
    const read = schema.safeParse({ ...values, ...fixed }, { reportInput: true });
    if (read.success) return { values, errors: {} };
    const faults: Record<string, FieldError> = {};
    for (const issue of read.error.issues)
      faults[issue.path.join('.')] ??= { type: 'contract', message: faultCode(issue) };
    return { values: {}, errors: toNestErrors(faults, options) };
  };
}

/** Whether the contract refuses a form in which this field alone is empty. */
export function requiredBy(schema: z.ZodType, values: object, name: string, empty: unknown): boolean {
  const { error } = schema.safeParse({ ...values, [name]: empty });
  return error?.issues.some(({ path }) => path[0] === name) ?? false;
}

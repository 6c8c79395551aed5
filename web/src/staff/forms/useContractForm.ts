import type { Endpoint, OutputOf, RequestOf } from '@zaguan/contracts';
import { useEffect, useState } from 'react';
import { type DefaultValues, type FieldValues, type Path, type Resolver, useForm } from 'react-hook-form';
import { type ApiError, apiError } from '../../shared/api/contractApi.ts';
import { contractResolver, requiredBy } from './contractForm.ts';
import { dropDraft, keepDraft, keptDraft } from './keptDrafts.ts';

interface Options<E extends Endpoint, Fixed extends Partial<RequestOf<E>>> {
  /** What the fields hold before anything is typed. */
  readonly values: Omit<RequestOf<E>, keyof Fixed>;
  /** What is sent along and not asked: ids, the version that was read. */
  readonly fixed: Fixed;
  readonly send: (request: RequestOf<E>) => Promise<{ data?: OutputOf<E>; error?: unknown }>;
  readonly onDone: (answer: OutputOf<E>) => void;
  /** What is typed outlasts a reload and a closed panel under this name, in this tab only, until it is sent or given up. */
  readonly keepAs?: string;
}

/**
 * A form of one contract: its fields are checked by the contract's own schema, a refusal's issues go to the fields they
 * name and the rest beside the button, and nothing typed is lost. Draw it with `ContractForm`.
 */
export function useContractForm<E extends Endpoint, Fixed extends Partial<RequestOf<E>>>(
  { body }: E,
  { values, fixed, send, onDone, keepAs }: Options<E, Fixed>,
) {
  type Values = Omit<RequestOf<E>, keyof Fixed> & FieldValues;
  if (!body) throw new Error('This contract has nothing to fill in.');
  const [kept] = useState(() => (keepAs ? keptDraft(keepAs) : null));
  // Ids go into the path: the body's schema does not know them.
  const along = Object.fromEntries(Object.entries(fixed).filter(([name]) => name in bodyShape(body)));
  const form = useForm<Values>({
    defaultValues: { ...values, ...kept } as DefaultValues<Values>,
    resolver: contractResolver(body, along) as unknown as Resolver<Values>,
  });
  const [refused, setRefused] = useState<ApiError | null>(null);
  const { watch } = form;
  useEffect(() => {
    if (!keepAs) return;
    const watching = watch((typed) => keepDraft(keepAs, typed));
    return () => watching.unsubscribe();
  }, [keepAs, watch]);
  const submit = form.handleSubmit(async (typed) => {
    setRefused(null);
    const { data, error } = await send({ ...typed, ...fixed } as unknown as RequestOf<E>);
    if (data === undefined) {
      const refusal = apiError(error);
      setRefused(refusal);
      for (const { path, code } of refusal?.issues ?? [])
        if (path.split('.')[0] in typed)
          form.setError(path as Path<Values>, { type: 'server', message: code }, { shouldFocus: true });
      return;
    }
    if (keepAs) dropDraft(keepAs);
    onDone(data);
  });
  return {
    form,
    submit,
    /** The last refusal, until the next try. */
    refused,
    isSending: form.formState.isSubmitting,
    isRequired: (name: string, empty: unknown) => requiredBy(body, { ...form.getValues(), ...along }, name, empty),
    /** Forgets what was typed. */
    giveUp: () => {
      setRefused(null);
      form.reset(values as unknown as Values);
      // Last: setting the fields back is a change like any other.
      if (keepAs) dropDraft(keepAs);
    },
  };
}

/** The fields of a body, whether or not more is checked about all of it. */
function bodyShape(body: unknown): Record<string, unknown> {
  return (body as { shape?: Record<string, unknown> }).shape ?? {};
}

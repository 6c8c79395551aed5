import type { ReactNode } from 'react';
import { type FieldValues, FormProvider, type UseFormReturn } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import type { ApiError } from '../../shared/api/contractApi.ts';
import { Notice } from '../../shared/ui/Notice.tsx';
import { FaultFacts, RequiredFields } from './contractForm.ts';

interface Props<Values extends FieldValues> {
  readonly of: {
    readonly form: UseFormReturn<Values>;
    readonly submit: (event?: React.BaseSyntheticEvent) => Promise<void>;
    readonly refused: ApiError | null;
    readonly isRequired: (name: string, empty: unknown) => boolean;
  };
  readonly label?: string;
  readonly className?: string;
  /** Words for what a refusal lists besides; empty if it lists nothing. */
  readonly codeWords?: (codes: readonly string[]) => string;
  /** The fields. */
  readonly children: ReactNode;
  /** The buttons, below whatever was refused. */
  readonly actions: ReactNode;
}

/** Draws a form of `useContractForm`: its fields, what was refused and belongs to no field, its buttons. */
export function ContractForm<Values extends FieldValues>(props: Props<Values>) {
  const { of, label, className = 'flex flex-col gap-2', codeWords, children, actions } = props;
  const { t } = useTranslation();
  const { form, submit, refused, isRequired } = of;
  const atFields = refused?.issues?.some(({ path }) => path.split('.')[0] in form.getValues()) ?? false;
  const codes = refused?.codes?.length && codeWords ? codeWords(refused.codes) : '';
  return (
    <FormProvider {...form}>
      <FaultFacts value={refused?.facts ?? {}}>
        <RequiredFields value={isRequired}>
          <form noValidate aria-label={label} className={className} onSubmit={(event) => void submit(event)}>
            {children}
            {refused && !atFields && (
              <Notice tone="danger" live="assertive">
                {t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
                {codes && ` ${codes}`}
              </Notice>
            )}
            {actions}
          </form>
        </RequiredFields>
      </FaultFacts>
    </FormProvider>
  );
}

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

/** Draws a form of `useContractForm`: its fields, what was refused, its buttons. */
export function ContractForm<Values extends FieldValues>(props: Props<Values>) {
  const { of, label, className = 'flex flex-col gap-2', codeWords, children, actions } = props;
  const { t } = useTranslation();
  const { form, submit, refused, isRequired } = of;
  const codes = refused?.codes?.length && codeWords ? codeWords(refused.codes) : '';
  // A fault of something that has no field here would be seen by nobody.
  const isUnseen = form.formState.submitCount > 0 && hasUnseen(form.formState.errors);
  return (
    <FormProvider {...form}>
      <FaultFacts value={refused?.facts ?? {}}>
        <RequiredFields value={isRequired}>
          <form noValidate aria-label={label} className={className} onSubmit={(event) => void submit(event)}>
            {children}
            {(refused || isUnseen) && (
              <Notice tone="danger" live="assertive">
                {refused
                  ? t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })
                  : t('error.InvalidInput')}
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

/** Whether a fault belongs to no field that is drawn: those of fields point to them. */
function hasUnseen(errors: object): boolean {
  return Object.values(errors).some((error: unknown) => {
    if (!error || typeof error !== 'object') return false;
    if ('message' in error) return !('ref' in error && error.ref);
    return hasUnseen(error);
  });
}

import { Mail, Smartphone } from 'lucide-react';
import { type ComponentProps, type ReactNode, useEffect, useId, useRef } from 'react';
import { useController } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL } from '../../../shared/ui/Field.tsx';
import { ContractForm, useFault } from '../../forms/index.ts';

interface Props {
  /** The number or address. */
  readonly name: string;
  readonly title: string;
  readonly kind: 'phone' | 'mailbox';
  readonly children: ReactNode;
  readonly hint: string;
  /** How many messages there are; the newest is brought into sight. */
  readonly count: number;
  /** Answers from here. */
  readonly form: ComponentProps<typeof ContractForm<{ body: string }>>['of'];
}

/** A simulated phone or mailbox: what came and what was answered, with a line to answer in. */
export function AnsweringBox({ name, title, kind, children, hint, count, form }: Props) {
  const { t } = useTranslation();
  const list = useRef<HTMLOListElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new message moves the list, nothing else does
  useEffect(() => {
    list.current?.scrollTo({ top: list.current.scrollHeight });
  }, [count]);
  return (
    <article
      aria-label={name}
      {...{ [`data-${kind}`]: name }}
      className="flex flex-col rounded-md border border-line-strong bg-panel"
    >
      <h2 className="flex items-center gap-2 border-b border-line px-3 py-1.5 font-bold">
        {kind === 'mailbox' ? <Mail size={16} aria-hidden="true" /> : <Smartphone size={16} aria-hidden="true" />}
        {title}
      </h2>
      <ol ref={list} className="flex max-h-80 flex-1 flex-col gap-2 overflow-y-auto p-3">
        {children}
      </ol>
      <ContractForm of={form} className="flex flex-wrap gap-2 border-t border-line p-2" actions={null}>
        <AnswerLine label={t('simulatedCarriers.answerAs', { number: name })} hint={hint} />
        <Button type="submit" disabled={form.form.formState.isSubmitting}>
          {t('simulatedCarriers.send')}
        </Button>
      </ContractForm>
    </article>
  );
}

function AnswerLine({ label, hint }: { label: string; hint: string }) {
  const id = useId();
  const { field } = useController({ name: 'body' });
  const fault = useFault('body');
  return (
    <span className="flex min-w-0 flex-1 flex-col">
      <label htmlFor={id} className="sr-only">
        {label}
      </label>
      <input
        {...field}
        id={id}
        className={`${CONTROL} w-full py-1.5`}
        placeholder={hint}
        aria-invalid={Boolean(fault)}
        aria-describedby={fault && `${id}-fault`}
      />
      {fault && (
        <span id={`${id}-fault`} role="alert" className="font-semibold text-danger">
          {fault}
        </span>
      )}
    </span>
  );
}

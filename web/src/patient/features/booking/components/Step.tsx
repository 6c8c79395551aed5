import { type ReactNode, useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { useSteps } from '../hooks/useSteps.ts';

/** One question: its heading takes the focus, so that a screen reader starts there. */
export function Step({
  question,
  trail,
  back = true,
  onBack,
  phone,
  children,
}: {
  question: string;
  trail?: string;
  back?: boolean;
  /** Where “back” leads, if not to the page before. */
  onBack?: () => void;
  /** Whom to call about what this page is about, where it is not the clinic in general. */
  phone?: string;
  children: ReactNode;
}) {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const steps = useSteps();
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    heading.current?.focus();
    window.scrollTo(0, 0);
    document.title = `${question} · ${t('title')}`;
  }, [question, t]);
  return (
    <section>
      {back && (
        <button
          type="button"
          className="-ml-1 inline-flex min-h-11 items-center gap-1 px-1 text-left text-muted"
          onClick={() => (onBack ? onBack() : navigate(-1))}
        >
          <span aria-hidden="true">‹</span>{' '}
          {trail ? (
            <span>
              <span className="sr-only">{t('back')}: </span>
              {trail}
            </span>
          ) : (
            t('back')
          )}
        </button>
      )}
      {steps && (
        <p className="text-sm text-muted">{steps.of === null ? '\u00a0' : t('step', { n: steps.n, of: steps.of })}</p>
      )}
      <h1 ref={heading} tabIndex={-1} className="mt-1 mb-4 text-2xl leading-tight font-bold outline-none">
        {question}
      </h1>
      {children}
      {phone && (
        <a className="mt-6 inline-block py-2 text-sm text-muted underline" href={`tel:${phone.replace(/\D/g, '')}`}>
          {t('call', { phone })}
        </a>
      )}
    </section>
  );
}

/** A big target with a title and a line below it. */
export function Choice({
  title,
  detail,
  aside,
  onClick,
}: {
  title: string;
  detail?: string;
  aside?: string;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      onClick={onClick}
      className="flex min-h-14 w-full items-center gap-3 rounded-md border border-line-strong bg-panel px-4 py-3 text-left hover:border-accent hover:bg-accent-subtle"
    >
      <span className="flex-1">
        <span className="block text-lg font-bold">{title}</span>
        {detail && <span className="block text-muted">{detail}</span>}
        {aside && <span className="block text-accent">{aside}</span>}
      </span>
      <span aria-hidden="true" className="text-xl text-accent">
        ›
      </span>
    </button>
  );
}

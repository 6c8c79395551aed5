import { channelOf } from '@zaguan/core/messages';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { useCountdown } from '../../../../shared/time/useCountdown.ts';
import { formatPhone } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { bookingApi } from '../booking.api.ts';
import { useLanguage } from '../hooks/useLanguage.ts';
import { takeFreshProof } from '../proof.ts';

interface Props {
  readonly contact: string;
  /** The code was right: go on booking. */
  readonly onVerified: () => void;
  readonly onChangeNumber: () => void;
}

/** Proves that the number or address is the patient's: a code, sent as soon as this shows. */
export function CodeStep({ contact, onVerified, onChangeNumber }: Props) {
  const { t } = useTranslation();
  const language = useLanguage();
  const [send, sent] = bookingApi.useSendCodeMutation();
  const [check, checked] = bookingApi.useCheckCodeMutation();
  const byMail = channelOf(contact) === 'email';
  const [code, setCode] = useState('');
  const [tried, setTried] = useState(false);
  const heading = useRef<HTMLHeadingElement>(null);
  const wait = useCountdown(sent.data?.resendInSec ?? 0, sent.fulfilledTimeStamp ?? 0);
  const ask = async () => {
    const first = await send({ contact, language });
    // A third number needs more of the browser's work; it is done unseen.
    if (apiError(first.error)?.tag === 'ProofNeeded') await send({ contact, language, proof: await takeFreshProof() });
  };
  // Sent once for a number, whatever else changes on the page.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the language in use when it was asked for is the right one
  useEffect(() => {
    void ask();
    heading.current?.focus();
  }, [contact]);
  const refused = apiError(checked.error) ?? apiError(sent.error);
  /** No code will ever come there: only another number or address helps. */
  const never = refused?.tag === 'InvalidInput' ? refused.issues?.find(({ path }) => path === 'contact') : undefined;
  const submit = async () => {
    setTried(true);
    if (!/^\d{6}$/.test(code)) return;
    const result = await check({ contact, code });
    if ('data' in result) onVerified();
  };
  return (
    <form
      noValidate
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <h2 ref={heading} tabIndex={-1} className="text-xl font-bold outline-none">
        {t(byMail ? 'code.mailTitle' : 'code.title')}
      </h2>
      {sent.data && <p>{t(byMail ? 'code.mailed' : 'code.sent', { number: formatPhone(sent.data.contact) })}</p>}
      {refused && (
        <Notice tone="danger" live="assertive">
          {never
            ? codeWords(t, 'fault', never.code, {}, t('fault.unusable'))
            : t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
        </Notice>
      )}
      {!never && (
        <>
          <Field
            label={t('code.label')}
            required={t('required')}
            error={tried && !/^\d{6}$/.test(code) ? t('fault.six-figures') : undefined}
          >
            {(controlProps) => (
              <input
                {...controlProps}
                inputMode="numeric"
                autoComplete="one-time-code"
                maxLength={6}
                className={`${CONTROL} min-h-12 text-xl tracking-[0.3em]`}
                value={code}
                onChange={(event) => setCode(event.target.value.replace(/\D/g, ''))}
              />
            )}
          </Field>
          <Button look="accent" type="submit" className="min-h-12 text-lg" disabled={checked.isLoading}>
            {t('code.check')}
          </Button>
          {wait > 0 ? (
            <p className="text-muted">{t('code.wait', { count: wait })}</p>
          ) : (
            <Button className="min-h-11" disabled={sent.isLoading} onClick={() => void ask()}>
              {t('code.again')}
            </Button>
          )}
        </>
      )}
      <Button className="min-h-11" onClick={onChangeNumber}>
        {t(byMail ? 'code.changeMail' : 'code.change')}
      </Button>
      <p className="text-muted">{t('code.call')}</p>
    </form>
  );
}

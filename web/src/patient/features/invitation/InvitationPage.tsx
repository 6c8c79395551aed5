import type { OpenedInvitation } from '@zaguan/contracts/invitations';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { apiError } from '../../../shared/api/contractApi.ts';
import { dateAt, dayAndMonth, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { AskBirthDate, Loaded, Step, useLanguage } from '../booking/index.ts';
import { Answer, NOT_NOW } from './Answer.tsx';
import { invitationApi } from './invitation.api.ts';
import { PickTime } from './PickTime.tsx';
import type { Who } from './who.ts';

/** The link of an invitation: what it may book, after the date of birth. Opening the page changes nothing. */
export function InvitationPage() {
  const { t } = useTranslation();
  const { token = '' } = useParams();
  const query = invitationApi.useLookAtInvitationQuery({ token }, { refetchOnMountOrArgChange: true });
  return (
    <Loaded query={query} rows={2} gone="LinkGone">
      {(look) =>
        look.over ? (
          <Step question={t('invitation.title')} back={false} phone={look.phone}>
            <Notice tone="warning">{t(`invitation.over.${look.over}`)}</Notice>
          </Step>
        ) : (
          <Entry key={token} token={token} look={look} />
        )
      }
    </Loaded>
  );
}

interface Look {
  readonly phone: string;
  readonly locked: boolean;
}

function Entry({ token, look }: { token: string; look: Look }) {
  const { t } = useTranslation();
  const language = useLanguage();
  const [birthDate, setBirthDate] = useState('');
  const [open, opening] = invitationApi.useOpenInvitationMutation();
  const refused = apiError(opening.error);
  const over = refused?.tag === 'InvitationOver' ? String(refused.facts.over) : null;
  const [shown, setShown] = useState<OpenedInvitation | null>(null);
  const ask = useCallback(
    async (typed: string) => {
      const { data } = await open({ token, birthDate: typed, language });
      if (data) setShown(data.invitation);
    },
    [open, token, language],
  );
  const shownIn = useRef(language);
  useEffect(() => {
    // Types are named in the patient's language: they come anew in the other one.
    if (birthDate && shownIn.current !== language) void ask(birthDate);
    shownIn.current = language;
  }, [ask, birthDate, language]);
  const show = (typed: string) => {
    setBirthDate(typed);
    void ask(typed);
  };
  return (
    <Step question={t('invitation.title')} back={false} phone={look.phone}>
      {refused && (
        <div className="mb-4">
          <Notice tone="danger" live="assertive">
            {over
              ? t(`invitation.over.${over as 'used'}`)
              : t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
          </Notice>
        </div>
      )}
      {look.locked && !refused && <Notice tone="danger">{t('error.LinkLocked')}</Notice>}
      {!shown && !look.locked && !over && (
        <AskBirthDate
          text={t('invitation.askBirth')}
          action={t('invitation.show')}
          busy={opening.isLoading}
          onShow={show}
        />
      )}
      {opening.data && <Opened who={{ token, birthDate, language }} of={opening.data.invitation} phone={look.phone} />}
    </Step>
  );
}

function Opened({ who, of, phone }: { who: Who; of: OpenedInvitation; phone: string }) {
  const { t } = useTranslation();
  const { givenName, reason, until, types, visit, moves, mayAnswer } = of;
  const [isDone, setDone] = useState(false);
  const when = visit && sayWhen(visit, who.language);
  const [only] = types.length === 1 ? types : [];
  // The reason is in the clinic's words; the type's name is in the patient's language.
  const about = only ? `${only.name}, ${t('invitation.minutes', { count: only.minutes })}` : reason;
  return (
    <div className="flex flex-col gap-4">
      {!isDone && (
        <p>
          {t('invitation.hello', { name: givenName })}
          {about && `: ${about}`}.{' '}
          <span className="text-muted">{t('invitation.until', { date: dayAndMonth(until, who.language) })}</span>{' '}
          <button
            type="button"
            className="min-h-6 text-accent underline"
            onClick={() => document.getElementById(NOT_NOW)?.scrollIntoView()}
          >
            {t('invitation.notNow')}
          </button>
        </p>
      )}
      {when && !moves ? (
        <Notice tone="success">{t('invitation.bookedAlready', { when, phone })}</Notice>
      ) : (
        <>
          {when && !isDone && <Notice tone="warning">{t('invitation.moves', { when })}</Notice>}
          <PickTime who={who} of={of} phone={phone} onBooked={() => setDone(true)} />
        </>
      )}
      {!isDone && <Answer who={who} today={of.today} ofPlan={mayAnswer} />}
    </div>
  );
}

function sayWhen(
  { start, timeZone, site, provider }: NonNullable<OpenedInvitation['visit']>,
  language: Who['language'],
): string {
  const day = shortDate(dateAt(start, timeZone), language);
  return [`${day}, ${timeOf(start, timeZone, language)}`, site, provider].filter(Boolean).join(', ');
}

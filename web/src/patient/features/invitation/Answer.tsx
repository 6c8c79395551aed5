import { addMonths } from '@zaguan/core/time';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { invitationApi } from './invitation.api.ts';
import type { Who } from './who.ts';

/** Where the page says what else can be said than a time. */
export const NOT_NOW = 'not-now';

type Kind = 'later' | 'done-elsewhere' | 'declined' | 'never';

/** Not now, done elsewhere, or not at all: kept for the clinic. Of no plan, only no to everything can be said. */
export function Answer({ who, today, ofPlan }: { who: Who; today: string; ofPlan: boolean }) {
  const { t } = useTranslation();
  const [asked, setAsked] = useState<Kind | null>(null);
  const [date, setDate] = useState('');
  const [answer, answering] = invitationApi.useAnswerInvitationMutation();
  const [said, setSaid] = useState<Kind | null>(null);
  const refused = apiError(answering.error);
  const say = async (kind: Kind, on: string | null) => {
    const { data } = await answer({ ...who, kind, date: on });
    if (data) setSaid(kind);
  };
  if (said)
    return (
      <Notice tone="success" live="polite">
        {t(`invitation.thanks.${said}`)}
      </Notice>
    );
  const busy = answering.isLoading;
  return (
    <section id={NOT_NOW} aria-label={t('invitation.notNow')} className="flex flex-col gap-2 border-t border-line pt-4">
      <h2 className="font-bold">{t('invitation.notNow')}</h2>
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
        </Notice>
      )}
      {ofPlan && (
        <>
          <Button className="min-h-12" disabled={busy} onClick={() => void say('later', addMonths(today, 1))}>
            {t('invitation.later')}
          </Button>
          {asked === 'done-elsewhere' ? (
            <form
              className="flex flex-col gap-2 rounded-md border border-line-strong p-3"
              onSubmit={(event) => {
                event.preventDefault();
                if (date) void say('done-elsewhere', date);
              }}
            >
              <label className="flex flex-col gap-1 font-bold">
                {t('invitation.when')}
                <input
                  type="date"
                  required
                  max={today}
                  className="min-h-11 rounded-md border border-line-strong bg-panel px-2 font-normal"
                  value={date}
                  onChange={(event) => setDate(event.target.value)}
                />
              </label>
              <Button type="submit" look="accent" className="min-h-12" disabled={busy || !date}>
                {t('invitation.save')}
              </Button>
            </form>
          ) : (
            <Button className="min-h-12" disabled={busy} onClick={() => setAsked('done-elsewhere')}>
              {t('invitation.elsewhere')}
            </Button>
          )}
          <NoThanks
            isAsked={asked === 'declined'}
            busy={busy}
            words={{ ask: t('invitation.no'), sure: t('invitation.noSure'), yes: t('invitation.noYes') }}
            onAsk={(on) => setAsked(on ? 'declined' : null)}
            onYes={() => void say('declined', null)}
          />
        </>
      )}
      <NoThanks
        isAsked={asked === 'never'}
        busy={busy}
        words={{ ask: t('invitation.never'), sure: t('invitation.neverSure'), yes: t('invitation.neverYes') }}
        onAsk={(on) => setAsked(on ? 'never' : null)}
        onYes={() => void say('never', null)}
      />
    </section>
  );
}

interface NoThanksProps {
  readonly isAsked: boolean;
  readonly busy: boolean;
  readonly words: { readonly ask: string; readonly sure: string; readonly yes: string };
  readonly onAsk: (on: boolean) => void;
  readonly onYes: () => void;
}

/** A patient can't take it back, so it is asked once more. */
function NoThanks({ isAsked, busy, words, onAsk, onYes }: NoThanksProps) {
  const { t } = useTranslation();
  if (!isAsked)
    return (
      <Button className="min-h-12" disabled={busy} onClick={() => onAsk(true)}>
        {words.ask}
      </Button>
    );
  return (
    <div className="flex flex-col gap-2 rounded-md border border-line-strong p-3">
      <p className="font-bold">{words.sure}</p>
      <Button look="danger" className="min-h-12" disabled={busy} onClick={onYes}>
        {words.yes}
      </Button>
      <Button className="min-h-12" onClick={() => onAsk(false)}>
        {t('invitation.noKeep')}
      </Button>
    </div>
  );
}

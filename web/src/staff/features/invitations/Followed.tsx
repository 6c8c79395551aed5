import type { FollowedInvitation } from '@zaguan/contracts/invitations';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { dayAndMonth } from '../../../shared/time/format.ts';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { useSayRefused } from '../../shell/useSayRefused.ts';
import { useUndoToast } from '../undo/index.ts';
import { invitationsApi } from './invitations.api.ts';
import { useMayInvite } from './useMayInvite.ts';

/** An invitation in a line: where it stands, when it went out, what was booked; with what can be done about it. */
export function Followed({ of, withName }: { of: FollowedInvitation; withName: boolean }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const sayRefused = useSayRefused();
  const mayInvite = useMayInvite();
  const [withdraw, { isLoading }] = invitationsApi.useWithdrawInvitationMutation();
  const { id, version, patientId, name, template, plan, state, locked, invitedOn, until, isLive, visit } = of;
  return (
    <li data-invitation={id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1">
      {withName && (
        <Link className="inline-flex min-h-7 w-44 items-center font-bold underline" to={`/patients/${patientId}`}>
          {name}
        </Link>
      )}
      <b className="w-28" data-invitation-state={state}>
        {t(`invite.state.${state}`)}
      </b>
      <span className="flex-1">
        {!withName && `${[...new Set([template, plan])].filter(Boolean).join(' · ')} · `}
        {t(isLive ? 'invite.dates' : 'invite.invitedOn', { from: dayAndMonth(invitedOn), until: dayAndMonth(until) })}
        {of.failReason && (
          <span className="text-warning">
            {' · '}
            {codeWords(t, 'messages.fail', of.failReason, {}, t('messages.failOther'))}
          </span>
        )}
        {locked && <b className="ml-1 rounded-sm bg-warning-subtle px-1.5 text-warning">{t('invite.locked')}</b>}
        {visit && (
          <Link className="ml-2 inline-block min-h-7 underline" to={`/daybook/${visit.date}?visit=${visit.id}`}>
            {t('invite.visitOn', { date: dayAndMonth(visit.date) })}
          </Link>
        )}
      </span>
      {isLive && mayInvite && (
        <Button
          aria-label={`${t('invite.withdraw')}: ${withName ? name : template}`}
          disabled={isLoading}
          onClick={async () => {
            const { data, error } = await withdraw({ id, version });
            sayRefused(error);
            if (data) undo(t('invite.withdrawn'), data.undo.id);
          }}
        >
          {t('invite.withdraw')}
        </Button>
      )}
      {of.body && (
        <details className="w-full text-muted">
          <summary className="min-h-7 cursor-pointer underline">{t('invite.message')}</summary>
          <p className="my-1 rounded-md bg-surface-deep px-3 py-2 whitespace-pre-line text-foreground">
            {of.body.replace('{link}', '…')}
          </p>
        </details>
      )}
    </li>
  );
}

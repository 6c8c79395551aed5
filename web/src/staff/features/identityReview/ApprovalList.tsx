import { type ApprovalRequest, declineRequest, MAX_DECLINE_WORDS } from '@zaguan/contracts/identityReview';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { shortDate, timeOf, zoneShort } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { ContractForm, FormActions, TextField, useContractForm } from '../../forms/index.ts';
import { MARKED, useMarked } from '../../shell/useMarked.ts';
import { UnreadableNotice } from '../../shell/UnreadableNotice.tsx';
import { useUndoToast } from '../undo/index.ts';
import { identityReviewApi } from './identityReview.api.ts';

/** Self-bookings that the clinic has yet to agree to, by the time of the visit. */
export function ApprovalList({
  requests,
  marked,
  unreadable,
}: {
  requests: readonly ApprovalRequest[];
  /** The one that a link led to. */
  marked: string | null;
  unreadable: readonly string[];
}) {
  const { t } = useTranslation();
  return (
    <div className="flex max-w-4xl flex-col gap-3">
      <UnreadableNotice ids={unreadable} />
      {requests.length === 0 && (
        <div className="flex items-center gap-3 text-accent">
          <ArchMark shape="outline" label="" size={40} />
          <p className="text-foreground">{t('identityReview.noApprovals')}</p>
        </div>
      )}
      {requests.map((request) => (
        <Request key={request.appointmentId} request={request} isMarked={request.appointmentId === marked} />
      ))}
    </div>
  );
}

function Request({ request, isMarked }: { request: ApprovalRequest; isMarked: boolean }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [approve, approving] = identityReviewApi.useApproveMutation();
  const [declining, setDeclining] = useState(false);
  const refused = apiError(approving.error);
  const agree = async () => {
    const result = await approve({ id: request.appointmentId, version: request.version });
    if (result.data) undo(t('identityReview.approved', { name: request.name }), result.data.undo.id);
  };
  return (
    <article
      ref={useMarked(isMarked)}
      aria-label={request.name}
      data-request={request.appointmentId}
      className={`flex flex-col gap-2 rounded-md border border-line-strong bg-panel p-4 ${isMarked ? MARKED : ''}`}
    >
      <div className="flex flex-wrap items-start gap-4">
        <div className="flex-1">
          <h2 className="flex items-center gap-1.5 text-lg font-bold">
            <ArchMark shape="dotted" label="" size={20} />
            {request.name}
          </h2>
          <p>
            {request.visitType}, {t(`visit.kind.${request.kind}`)}
            {request.provider && `, ${request.provider}`}
          </p>
          <p className="text-muted">
            <Link className="underline" to={`/daybook/${request.date}?visit=${request.appointmentId}`}>
              {shortDate(request.date)}, {timeOf(request.start, request.timeZone)} {zoneShort(request.timeZone)},{' '}
              {request.siteName}
            </Link>
            {' · '}
            {request.reason || t('visit.noReason')}
          </p>
          {request.passed && <p className="font-semibold text-danger">{t('identityReview.passed')}</p>}
          {!request.known && <p className="text-warning">{t('identityReview.notKnownYet')}</p>}
        </div>
        {!declining && (
          <div className="flex gap-2">
            <Button look="accent" disabled={approving.isLoading} onClick={() => void agree()}>
              {t('identityReview.approve')}
            </Button>
            <Button look="danger" onClick={() => setDeclining(true)}>
              {t('identityReview.decline')}
            </Button>
          </div>
        )}
      </div>
      {refused && (
        <p role="alert" className="font-semibold text-danger">
          {t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </p>
      )}
      {declining && <Decline request={request} onKeep={() => setDeclining(false)} />}
    </article>
  );
}

/** Why, in the clinic's own words: the patient gets them. */
function Decline({ request, onKeep }: { request: ApprovalRequest; onKeep: () => void }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [decline] = identityReviewApi.useDeclineMutation();
  const form = useContractForm(declineRequest, {
    values: { words: '' },
    fixed: { id: request.appointmentId, version: request.version },
    send: decline,
    onDone: (answer) => undo(t('identityReview.declined', { name: request.name }), answer.undo.id),
    keepAs: `decline.${request.appointmentId}`,
  });
  return (
    <ContractForm
      of={form}
      actions={
        <FormActions
          of={form}
          look="danger"
          send={t('identityReview.doDecline')}
          leave={t('identityReview.keepRequest')}
          onLeave={onKeep}
        />
      }
    >
      <TextField
        name="words"
        label={t('identityReview.declineReason')}
        hint={t('identityReview.declineHint')}
        maxLength={MAX_DECLINE_WORDS}
      />
    </ContractForm>
  );
}

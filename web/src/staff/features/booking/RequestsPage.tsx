import { type OutputOf, scopeOf } from '@zaguan/contracts';
import { type requests as requestsContract, withdrawRequest } from '@zaguan/contracts/desk';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { shortDate } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { ContractForm, FormActions, TextField, useContractForm } from '../../forms/index.ts';
import { Page } from '../../shell/Page.tsx';
import { UnreadableNotice } from '../../shell/UnreadableNotice.tsx';
import { accountsApi, useClinicTime } from '../accounts/index.ts';
import { InviteLink, useMayInvite } from '../invitations/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { bookingApi } from './booking.api.ts';
import { useMayBook } from './useMayBook.ts';

type Request = OutputOf<typeof requestsContract>['requests'][number];

/** What somebody asked to be booked and nobody has booked yet, what is due first above. */
export function RequestsPage() {
  const { t } = useTranslation();
  const query = bookingApi.useBookingRequestsQuery({ booked: 'no' });
  return (
    <Page
      title={t('bookingRequests.title')}
      note={<span className="text-muted">{t('bookingRequests.note')}</span>}
      query={query}
    >
      {({ requests, unreadable }) =>
        requests.length + unreadable.length === 0 ? (
          <p className="text-muted">{t('bookingRequests.none')}</p>
        ) : (
          <div className="flex max-w-5xl flex-col gap-2">
            <UnreadableNotice ids={unreadable} />
            <ul className="flex flex-col gap-2">
              {requests.map((request) => (
                <Row key={request.id} request={request} />
              ))}
            </ul>
          </div>
        )
      }
    </Page>
  );
}

function Row({ request }: { request: Request }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const mayBook = useMayBook();
  const mayInvite = useMayInvite();
  const [isEnding, setEnding] = useState(false);
  const wishes = [request.provider, request.siteName].filter(Boolean).join(', ');
  return (
    <li
      data-request={request.id}
      className={`flex flex-col gap-2 rounded-md border bg-panel px-4 py-2 ${request.overdue ? 'border-danger' : 'border-line-strong'}`}
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="min-w-64 flex-1">
          <b>{request.patient}</b>, {request.visitType}
          {wishes && ` · ${wishes}`}
          {request.urgency !== 'routine' && (
            <b className="ml-2 rounded-sm bg-warning-subtle px-1.5 text-warning">
              {t(`bookingRequests.urgency.${request.urgency}`)}
            </b>
          )}
          <span className="block text-muted">
            {t('bookingRequests.between', { from: shortDate(request.fromDate), due: shortDate(request.dueDate) })}
            {request.overdue && <b className="text-danger"> {t('book.overdue')}</b>}
            {' · '}
            {t('bookingRequests.by', { name: request.askedBy, at: write(request.askedAt) })}
            {request.reason && ` · “${request.reason}”`}
          </span>
        </span>
        {mayBook && (
          <Link
            className="rounded-md border border-primary bg-primary px-3 py-1.5 font-semibold text-on-fill hover:bg-primary-strong"
            to={`/daybook?book=new&for=${request.patientId}&use=${request.id}`}
          >
            {t('book.open')}
          </Link>
        )}
        {mayInvite && (
          <InviteLink
            patientId={request.patientId}
            name={request.patient}
            about={{ request: request.id, type: request.visitTypeId }}
          />
        )}
        {who?.me && scopeOf(who.me.role, 'bookingRequest.ask') !== 'no' && !isEnding && (
          <Button onClick={() => setEnding(true)}>{t('bookingRequests.withdraw')}</Button>
        )}
      </div>
      {isEnding && <Withdraw request={request} onDone={() => setEnding(false)} />}
    </li>
  );
}

function Withdraw({ request, onDone }: { request: Request; onDone: () => void }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [withdraw] = bookingApi.useWithdrawRequestMutation();
  const form = useContractForm(withdrawRequest, {
    values: { because: '' },
    fixed: { id: request.id, version: request.version },
    send: withdraw,
    onDone: (answer) => {
      undo(t('bookingRequests.withdrawn'), answer.undo.id);
      onDone();
    },
    keepAs: `request.withdraw.${request.id}`,
  });
  return (
    <ContractForm
      of={form}
      className="flex max-w-xl flex-col gap-2"
      actions={
        <FormActions
          of={form}
          send={t('bookingRequests.withdraw')}
          leave={t('setup.giveUp')}
          onLeave={onDone}
          forgets
        />
      }
    >
      <TextField name="because" label={t('bookingRequests.because')} />
    </ContractForm>
  );
}

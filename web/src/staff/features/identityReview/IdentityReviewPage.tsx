import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { Page } from '../../shell/Page.tsx';
import { UnreadableNotice } from '../../shell/UnreadableNotice.tsx';
import { useUndoToast } from '../undo/index.ts';
import { ApprovalList } from './ApprovalList.tsx';
import { identityReviewApi } from './identityReview.api.ts';
import { WaitingBooking } from './WaitingBooking.tsx';

/** Two questions about those who booked online: who is this, and may this be. Their time is kept meanwhile. */
export function IdentityReviewPage() {
  const { t } = useTranslation();
  const [asked] = useSearchParams();
  const approving = asked.get('tab') === 'approve';
  const booking = asked.get('booking');
  const page = Math.max(0, Number.parseInt(asked.get('page') ?? '0', 10) || 0);
  const query = identityReviewApi.useWaitingQuery({ page });
  const requests = identityReviewApi.useApprovalsQuery({});
  const note = (
    <nav aria-label={t('identityReview.tabs')} className="flex gap-4">
      <Tab
        to="/identity-review"
        here={!approving}
        text={t('identityReview.tab.who', { count: query.data?.total ?? 0 })}
      />
      <Tab
        to="/identity-review?tab=approve"
        here={approving}
        text={t('identityReview.tab.approve', { count: requests.data?.requests.length ?? 0 })}
      />
    </nav>
  );
  if (approving)
    return (
      <Page title={t('identityReview.title')} note={note} query={requests}>
        {(data) => <ApprovalList requests={data.requests} marked={booking} unreadable={data.unreadable} />}
      </Page>
    );
  return (
    <Page title={t('identityReview.title')} note={note} query={query}>
      {({ waiting, unreadable, sources, total, pageSize }) => (
        <div className="flex flex-col gap-4">
          <UnreadableNotice ids={unreadable} />
          {total === 0 && (
            <div className="flex max-w-md items-center gap-3 text-accent">
              <ArchMark shape="outline" label="" size={40} />
              <p className="text-foreground">{t('identityReview.empty')}</p>
            </div>
          )}
          {sources.map((each) => (
            <SameSourceNotice key={each.source} {...each} />
          ))}
          {waiting.map((row) => (
            <WaitingBooking key={row.appointmentId} row={row} isMarked={row.appointmentId === booking} />
          ))}
          {(total > pageSize || page > 0) && <Pages page={page} pages={Math.max(1, Math.ceil(total / pageSize))} />}
        </div>
      )}
    </Page>
  );
}

function Tab({ to, here, text }: { to: string; here: boolean; text: string }) {
  return (
    <Link
      to={to}
      aria-current={here ? 'page' : undefined}
      className={`py-1 ${here ? 'border-b-2 border-foreground font-bold' : 'text-muted underline'}`}
    >
      {text}
    </Link>
  );
}

/** Several bookings that look like they came from one person: seen together, and discarded together. */
function SameSourceNotice({ source, bookings }: { source: string; bookings: number }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [discard, { error, isLoading }] = identityReviewApi.useDiscardManyMutation();
  const refused = apiError(error);
  const all = async () => {
    const result = await discard({ source, bookings });
    if (result.data) undo(t('identityReview.discardedMany', { count: result.data.discarded }), result.data.undo.id);
  };
  return (
    <Notice tone="warning">
      <div className="flex flex-wrap items-center gap-3" data-source={source}>
        <p className="flex-1">{t('identityReview.source', { count: bookings })}</p>
        <Button look="danger" disabled={isLoading} onClick={() => void all()}>
          {t('identityReview.discardAll', { count: bookings })}
        </Button>
      </div>
      {refused && <p role="alert">{t(`error.${refused.tag}`, { requestId: refused.requestId })}</p>}
    </Notice>
  );
}

function Pages({ page, pages }: { page: number; pages: number }) {
  const { t } = useTranslation();
  return (
    <nav aria-label={t('identityReview.pages')} className="flex items-center gap-4">
      {page > 0 && (
        <Link className="font-bold text-accent underline" to={`/identity-review?page=${page - 1}`}>
          {t('identityReview.earlier')}
        </Link>
      )}
      <span>{t('identityReview.page', { page: page + 1, pages })}</span>
      {page + 1 < pages && (
        <Link className="font-bold text-accent underline" to={`/identity-review?page=${page + 1}`}>
          {t('identityReview.later')}
        </Link>
      )}
    </nav>
  );
}

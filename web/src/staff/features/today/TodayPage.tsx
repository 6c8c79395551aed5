import { scopeOf } from '@zaguan/contracts';
import type { Today } from '@zaguan/contracts/today';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { dateAt, phoneWords, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Page } from '../../shell/Page.tsx';
import { accountsApi } from '../accounts/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { todayApi } from './today.api.ts';

/** What needs a hand now, and nothing else. */
export function TodayPage() {
  const { t } = useTranslation();
  const query = todayApi.useTodayQuery({});
  return (
    <Page title={t('today.title')} note={<span className="text-muted">{t('today.note')}</span>} query={query}>
      {({ vestibule, inbox, failed }) =>
        !vestibule.count && !inbox.length && !failed.length ? (
          <div className="flex items-center gap-3 text-door">
            <ArchMark shape="outline" label="" size={40} />
            <p className="text-ink">{t('today.nothing')}</p>
          </div>
        ) : (
          <div className="grid max-w-5xl gap-6">
            {vestibule.count > 0 && <VestibuleLine vestibule={vestibule} />}
            {inbox.length > 0 && (
              <Work title={t('today.inbox', { count: inbox.length })}>
                {inbox.map((row) => (
                  <Inbox key={row.id} row={row} />
                ))}
              </Work>
            )}
            {failed.length > 0 && (
              <Work title={t('today.failed', { count: failed.length })}>
                {failed.map((row) => (
                  <Failed key={row.id} row={row} />
                ))}
              </Work>
            )}
          </div>
        )
      }
    </Page>
  );
}

function Work({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="mb-2 font-bold text-ochre">{title}</h2>
      <ul className="flex flex-col gap-2">{children}</ul>
    </section>
  );
}

function VestibuleLine({ vestibule }: { vestibule: Today['vestibule'] }) {
  const { t } = useTranslation();
  const { firstStart, timeZone } = vestibule;
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const mayDecide = who?.me && scopeOf(who.me.role, 'vestibule.decide') !== 'no';
  return (
    <Work title={t('today.vestibule', { count: vestibule.count })}>
      <li className="flex items-center gap-3 rounded-md border border-line-strong bg-white px-4 py-3">
        <ArchMark shape="question" label="" size={20} />
        <span className="flex-1">
          {firstStart &&
            timeZone &&
            t('today.firstVisit', {
              when: `${shortDate(dateAt(firstStart, timeZone))}, ${timeOf(firstStart, timeZone)}`,
            })}
        </span>
        {mayDecide && (
          <Link className="font-bold text-door underline" to="/vestibule">
            {t('today.toVestibule')}
          </Link>
        )}
      </li>
    </Work>
  );
}

function Line({ kind, id, children }: { kind: 'inbox' | 'failed'; id: string; children: ReactNode }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [finish, { isLoading }] = todayApi.useFinishMutation();
  const done = async () => {
    const result = await finish({ kind, id });
    const refused = 'error' in result ? apiError(result.error) : null;
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
    else if (result.data) undo(t('today.done'), result.data.undo.id);
  };
  return (
    <li data-work={kind} className="flex items-center gap-3 rounded-md border border-line-strong bg-white px-4 py-3">
      <div className="flex-1">{children}</div>
      <Button disabled={isLoading} onClick={() => void done()}>
        {t('today.finish')}
      </Button>
    </li>
  );
}

function About({ visit }: { visit: Today['inbox'][number]['visit'] }) {
  const { t } = useTranslation();
  if (!visit) return <span className="text-muted">{t('today.noVisit')}</span>;
  return (
    <Link className="underline" to={`/daybook/${visit.date}`}>
      {visit.name}, {shortDate(visit.date)}, {timeOf(visit.start, visit.timeZone)}, {visit.siteName}
    </Link>
  );
}

function Inbox({ row }: { row: Today['inbox'][number] }) {
  return (
    <Line kind="inbox" id={row.id}>
      <p className="text-[1.05rem]">“{row.body}”</p>
      <p className="text-muted">
        {phoneWords(row.number)} · <About visit={row.visit} />
      </p>
    </Line>
  );
}

function Failed({ row }: { row: Today['failed'][number] }) {
  const { t } = useTranslation();
  return (
    <Line kind="failed" id={row.id}>
      <p>
        <span className="font-bold">{t(row.step ? `messages.step.${row.step}` : `messages.kind.${row.kind}`)}</span>:{' '}
        {t(`messages.fail.${row.reason}`)}. {t('today.callInstead', { number: phoneWords(row.number) })}
      </p>
      <p className="text-muted">
        <About visit={row.visit} />
      </p>
    </Line>
  );
}

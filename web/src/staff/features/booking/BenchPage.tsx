import type { OutputOf } from '@zaguan/contracts';
import type { bench as benchContract } from '@zaguan/contracts/desk';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Page } from '../../shell/Page.tsx';
import { UnreadableNotice } from '../../shell/UnreadableNotice.tsx';
import { accountsApi, useClinicTime } from '../accounts/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { bookingApi } from './booking.api.ts';

type Unplaced = OutputOf<typeof benchContract>['unplaced'][number];

/** Visits that have no time yet, and those that wait for another one: the oldest above, mine first. */
export function BenchPage() {
  const { t } = useTranslation();
  const query = bookingApi.useBenchQuery({});
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const mine = who?.me?.accountId ?? '';
  return (
    <Page title={t('bench.title')} note={<span className="text-muted">{t('bench.note')}</span>} query={query}>
      {({ unplaced, unreadable }) =>
        unplaced.length + unreadable.length === 0 ? (
          <p className="text-muted">{t('bench.none')}</p>
        ) : (
          <div className="flex max-w-5xl flex-col gap-2">
            <UnreadableNotice ids={unreadable} />
            <ul className="flex flex-col gap-2">
              {[...unplaced]
                .sort((a, b) => Number(b.ownerId === mine) - Number(a.ownerId === mine))
                .map((row) => (
                  <Row key={row.id} row={row} mine={mine} />
                ))}
            </ul>
          </div>
        )
      }
    </Page>
  );
}

function Row({ row, mine }: { row: Unplaced; mine: string }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const undo = useUndoToast();
  const [own] = bookingApi.useOwnUnplacedMutation();
  const [withdraw] = bookingApi.useWithdrawUnplacedMutation();
  const say = (error: unknown) => {
    const refused = apiError(error);
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
  };
  const isMine = row.ownerId === mine;
  const { keeps } = row;
  return (
    <li
      data-unplaced={row.id}
      className="flex flex-wrap items-center gap-x-4 gap-y-1 rounded-md border border-line-strong bg-panel px-4 py-2"
    >
      <span className="min-w-64 flex-1">
        <b>{row.patient}</b>, {row.visitType}
        {[row.provider, row.siteName].filter(Boolean).map((each) => ` · ${each}`)}
        <span className="block text-muted">
          {t('bench.since', { at: write(row.since) })}
          {keeps && (
            <>
              {' · '}
              <Link className="underline" to={`/daybook/${keeps.date}?visit=${keeps.id}`}>
                {t('bench.keeps', { when: `${shortDate(keeps.date)}, ${timeOf(keeps.start, keeps.timeZone)}` })}
              </Link>
            </>
          )}
          {row.owner && ` · ${t('bench.owner', { name: row.owner })}`}
          {row.reason && ` · “${row.reason}”`}
          {row.note && ` · ${row.note}`}
        </span>
      </span>
      <Link
        className="rounded-md border border-primary bg-primary px-3 py-1.5 font-semibold text-on-fill hover:bg-primary-strong"
        to={`/daybook?book=new&for=${row.patientId}&use=${row.id}`}
      >
        {t(keeps ? 'visit.move' : 'book.open')}
      </Link>
      <Button
        onClick={() => void own({ id: row.id, mine: !isMine, version: row.version }).then(({ error }) => say(error))}
      >
        {t(isMine ? 'bench.release' : 'bench.assign')}
      </Button>
      <Button
        onClick={() =>
          void withdraw({ id: row.id, version: row.version }).then(({ data, error }) =>
            data ? undo(t('bench.withdrawn'), data.undo.id) : say(error),
          )
        }
      >
        {t('bench.withdraw')}
      </Button>
    </li>
  );
}

import type { OutputOf } from '@zaguan/contracts';
import type { listActs } from '@zaguan/contracts/undo';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Page } from '../../shell/Page.tsx';
import { useSayRefused } from '../../shell/useSayRefused.ts';
import { useClinicTime } from '../accounts/index.ts';
import { undoApi } from './undo.api.ts';

type Act = OutputOf<typeof listActs>['acts'][number];

/** What one did within a day and may still take back, also after a reload or from another desk. */
export function ActsPage() {
  const { t } = useTranslation();
  const query = undoApi.useActsQuery({}, { refetchOnMountOrArgChange: true });
  return (
    <Page title={t('acts.title')} note={<span className="text-muted">{t('acts.note')}</span>} query={query}>
      {({ acts }) =>
        acts.length === 0 ? (
          <p className="text-muted">{t('acts.none')}</p>
        ) : (
          <ul className="flex max-w-4xl flex-col gap-1">
            {acts.map((act) => (
              <Row key={act.id} act={act} />
            ))}
          </ul>
        )
      }
    </Page>
  );
}

function Row({ act: { id, what, at, visit } }: { act: Act }) {
  const { t } = useTranslation();
  const sayRefused = useSayRefused();
  const { write } = useClinicTime();
  const [undo, undoing] = undoApi.useUndoMutation();
  const take = async () => {
    const { error } = await undo({ id: id as never });
    sayRefused(error);
    if (!error) toast(t('undone'));
  };
  // A schedule's acts say which edit they were: one word does for all.
  const [kind] = what.split(':');
  return (
    <li data-act={what} className="flex items-center gap-4 rounded-md border border-line-strong bg-panel px-4 py-1.5">
      <span className="w-52 shrink-0 whitespace-nowrap text-muted">{write(at)}</span>
      <span className="min-w-0 flex-1">
        <b>{codeWords(t, 'acts.what', kind, {}, t('acts.other'))}</b>
        {visit && (
          <>
            {': '}
            <Link className="underline" to={`/daybook/${visit.date}?visit=${visit.id}`}>
              {[visit.patient, `${shortDate(visit.date)}, ${timeOf(visit.start, visit.timeZone)}`]
                .filter(Boolean)
                .join(', ')}
            </Link>
          </>
        )}
      </span>
      <Button disabled={undoing.isLoading} onClick={() => void take()}>
        {t('undo')}
      </Button>
    </li>
  );
}

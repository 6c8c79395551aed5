import type { SiteDay, ViewSettings } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useMayBook } from '../../booking/index.ts';
import type { Panel, useDaybookAddress } from '../hooks/useDaybookAddress.ts';
import { useMayAnnotate } from '../notes/useMayAnnotate.ts';
import { InUseChoice } from './LaneChoice.tsx';

interface Props {
  readonly date: string;
  /** Those that are drawn. */
  readonly sites: readonly SiteDay[];
  /** How many sites are looked at, those not loaded yet included. */
  readonly of: number;
  /** The site that is looked at; `null`: several. */
  readonly siteId: string | null;
  readonly view: ViewSettings;
  readonly choose: ReturnType<typeof useDaybookAddress>['choose'];
  readonly onOpen: (panel: Panel) => void;
}

/** What is drawn in numbers that carry their meaning, and where else one might want to go. */
export function Counts({ date, sites, of, siteId, view, choose, onOpen }: Props) {
  const { t } = useTranslation();
  const mayAnnotate = useMayAnnotate();
  const mayBook = useMayBook();
  const plates = new Map(
    sites.flatMap((site) => site.lanes.flatMap((lane) => lane.plates.map((plate) => [plate.id, plate] as const))),
  );
  const visits = [...plates.values()].filter((plate) => plate.kind === 'visit');
  const held = plates.size - visits.length;
  const unknown = visits.filter((plate) => plate.identity === 'unknown').length;
  const first = siteId ?? sites[0]?.id;
  return (
    <div className="flex flex-wrap items-center gap-x-5 border-b border-line bg-surface-deep px-4 py-1.5">
      <span className="font-bold" data-testid="visit-count">
        {t('daybook.visits', { count: visits.length })}
      </span>
      {sites.length < of && <span className="text-muted">{t('daybook.soFar', { loaded: sites.length, of })}</span>}
      {unknown > 0 && <span className="font-bold text-warning">{t('daybook.unknown', { count: unknown })}</span>}
      {held > 0 && <span>{t('daybook.held', { count: held })}</span>}
      <InUseChoice view={view} choose={choose} />
      <span className="ml-auto flex items-center gap-4 font-semibold text-accent">
        {siteId && (
          <Link to={`/daybook/week/site/${siteId}/${date}`} className="underline">
            {t('daybook.week')}
          </Link>
        )}
        <Link to={`/daybook/month/${date.slice(0, 7)}${siteId ? `?site=${siteId}` : ''}`} className="underline">
          {t('month.title')}
        </Link>
        {mayBook && (
          <>
            <Link to="/requests" className="underline">
              {t('bookingRequests.title')}
            </Link>
            <Link to="/bench" className="underline">
              {t('bench.title')}
            </Link>
          </>
        )}
        {siteId && mayAnnotate && (
          <button
            type="button"
            data-add-note
            className="font-semibold underline"
            onClick={() => onOpen({ kind: 'note', noteId: null, date, siteId, resourceId: null })}
          >
            {t('note.addToDay')}
          </button>
        )}
        {first && (
          <Link to={`/print/day/${date}?site=${first}`} target="_blank" className="underline">
            {t('daySheet.open')}
          </Link>
        )}
        <Link to={`/find?from=${date}`} className="underline">
          {t('find.title')}
        </Link>
      </span>
    </div>
  );
}

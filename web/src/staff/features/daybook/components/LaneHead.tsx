import type { Lane, SiteDay } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { dateAt } from '../../../../shared/time/format.ts';
import type { Panel } from '../hooks/useDaybookAddress.ts';
import { LaneMenu } from '../notes/LaneMenu.tsx';
import { useMayAnnotate } from '../notes/useMayAnnotate.ts';
import { colorOf } from './colors.ts';

interface Props {
  readonly site: SiteDay;
  readonly lane: Lane;
  readonly now: string;
  readonly color: string | null | undefined;
  /** Where the lane's name leads. */
  readonly link: string;
  readonly onOpen: (panel: Panel) => void;
}

/** Whose lane it is, how full it is, how late they run. */
export function LaneHead({ site, lane, now, color, link, onOpen }: Props) {
  const { t } = useTranslation();
  const mayAnnotate = useMayAnnotate();
  const delay = site.delays.find(({ resourceId }) => resourceId === lane.resourceId);
  const full =
    lane.booked === null ? t('daybook.noHours') : t('daybook.full', { share: Math.round(lane.booked * 100) });
  const date = dateAt(site.dayStart, site.timeZone);
  return (
    <div className="sticky left-0 z-20 w-[130px] shrink-0 border-r border-b border-line bg-surface px-2 py-1 leading-tight">
      {color && <span aria-hidden="true" className={`absolute inset-y-0 left-0 w-[4px] ${colorOf(color).edge}`} />}
      {/* A number at the end tells rooms apart: it must not be cut off. */}
      <p className={`line-clamp-2 font-bold ${mayAnnotate ? 'pr-4' : ''}`}>
        <Link to={link} className="hover:underline">
          {lane.name}
        </Link>
      </p>
      <p className="truncate text-xs text-muted">
        {[lane.detail, lane.kind === 'provider' || lane.kind === 'staff' ? full : ''].filter(Boolean).join(' · ')}
      </p>
      {delay && (
        <p className="text-xs font-bold text-danger" data-delay={delay.minutes}>
          {t('daybook.late', { minutes: delay.minutes })}
        </p>
      )}
      {delay && delay.toCall.length > 0 && (
        <button
          type="button"
          data-to-call={delay.toCall.length}
          className="min-h-6 text-left text-xs font-bold text-accent underline"
          onClick={() => onOpen({ kind: 'visit', visitId: delay.toCall[0] })}
        >
          {t('delay.callFirst', { count: delay.toCall.length })}
        </button>
      )}
      {mayAnnotate && (
        <LaneMenu
          site={site}
          lane={lane}
          delayMin={delay?.minutes ?? 0}
          isToday={dateAt(now, site.timeZone) === date}
          onNote={() => onOpen({ kind: 'note', noteId: null, date, siteId: site.id, resourceId: lane.resourceId })}
        />
      )}
    </div>
  );
}

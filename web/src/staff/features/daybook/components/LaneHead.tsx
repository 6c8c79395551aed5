import type { Axis, DayNote, Lane, SiteDay } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { dateAt } from '../../../../shared/time/format.ts';
import type { Panel } from '../hooks/useDaybookAddress.ts';
import { LaneMenu } from '../notes/LaneMenu.tsx';
import { NoteChip } from '../notes/LaneNotes.tsx';
import { useMayAnnotate } from '../notes/useMayAnnotate.ts';
import { LaneTotalsLine } from '../views/LaneTotalsLine.tsx';
import { colorOf } from './colors.ts';

interface Props {
  readonly site: SiteDay;
  readonly lane: Lane;
  readonly now: string;
  readonly color: string | null | undefined;
  /** Where the lane's name leads. */
  readonly link: string;
  readonly onOpen: (panel: Panel) => void;
  readonly axis: Axis;
  /** Of a column's head, which is as high as its neighbors'. */
  readonly heightPx?: number;
}

const SHAPE = {
  across: 'left-0 w-[130px] shrink-0 border-r',
  down: 'top-[24px] overflow-hidden',
} as const satisfies Record<Axis, string>;

/** Whose lane it is, how full it is, how late they run; above a column also what is noted. */
export function LaneHead({ site, lane, now, color, link, onOpen, axis, heightPx }: Props) {
  const { t } = useTranslation();
  const mayAnnotate = useMayAnnotate();
  const delay = site.delays.find(({ resourceId }) => resourceId === lane.resourceId);
  const date = dateAt(site.dayStart, site.timeZone);
  const openNote = ({ id }: DayNote) => onOpen({ kind: 'note', noteId: id });
  return (
    <div
      className={`sticky z-20 border-b border-line bg-surface px-2 pt-[5px] pb-1 leading-tight ${SHAPE[axis]}`}
      style={{ height: heightPx }}
    >
      {color && (
        <span
          aria-hidden="true"
          className={`absolute ${axis === 'across' ? 'inset-y-0 left-0 w-[4px]' : 'inset-x-0 top-0 h-[4px]'} ${colorOf(color).edge}`}
        />
      )}
      {/* A number at the end tells rooms apart: it must not be cut off. */}
      <p className={`line-clamp-2 font-bold ${mayAnnotate ? 'pr-4' : ''}`}>
        <Link to={link} className="hover:underline">
          {lane.name}
        </Link>
      </p>
      <LaneTotalsLine lane={lane} site={site} />
      {delay && (
        <p className="text-xs font-bold text-danger" data-delay={delay.minutes}>
          {t('daybook.late', { minutes: delay.minutes })}
        </p>
      )}
      {delay && delay.toCall.length > 0 && (
        <button
          type="button"
          data-to-call={delay.toCall.length}
          className="min-h-7 text-left text-xs font-bold text-accent underline"
          onClick={() => onOpen({ kind: 'visit', visitId: delay.toCall[0] })}
        >
          {t('delay.callFirst', { count: delay.toCall.length })}
        </button>
      )}
      {axis === 'down' &&
        lane.notes.map((note) => <NoteChip key={note.id} note={note} onOpen={openNote} className="mt-0.5 w-full" />)}
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

const NAME_PX = 44;
const LINE_PX = 16;
const CALL_PX = 26;
const NOTE_PX = 27;

/** How high the heads of a site's columns must be for all that any of them says. */
export function columnHeadPx(site: SiteDay, totals: number): number {
  const ofLane = (lane: Lane) => {
    const delay = site.delays.find(({ resourceId }) => resourceId === lane.resourceId);
    const late = delay ? LINE_PX + (delay.toCall.length ? CALL_PX : 0) : 0;
    return late + lane.notes.length * NOTE_PX;
  };
  return NAME_PX + LINE_PX * Math.max(1, totals) + Math.max(0, ...site.lanes.map(ofLane));
}

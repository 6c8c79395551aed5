import type { TFunction } from 'i18next';
import type { LaneDay, ScheduleWeek } from '@zaguan/contracts/availability';
import { memo } from 'react';
import { useTranslation } from 'react-i18next';
import { formatDate, wallTime } from '../../../../shared/time/format.ts';
import type { Span } from '../panel.ts';
import { type Lane, placed, type Shown } from './geometry.ts';

type SiteDay = ScheduleWeek['sites'][number]['days'][number];

const HATCH = 'bg-[repeating-linear-gradient(135deg,transparent_0_4px,var(--color-line-strong)_4px_5px)]';
const BRUSHED = { shown: 'bg-accent', 'desk-only': 'bg-warning' } as const;

interface Props {
  readonly lane: Lane;
  readonly day: LaneDay;
  readonly site: SiteDay;
  readonly shown: Shown;
  readonly place: string;
  readonly active: boolean;
  readonly chosen: boolean;
  readonly roomy: boolean;
  readonly past: boolean;
  /** The brush is held: hours are painted over, not moved. */
  readonly painting: boolean;
  readonly ghost: (Span & { readonly brush: string | null }) | null;
}

/** One day of one lane: what is worked, what of it patients see, what takes from it. */
export const DayCell = memo(function DayCell(props: Props) {
  const { lane, day, site, shown, place, active, chosen, roomy, past, painting, ghost } = props;
  const { t } = useTranslation();
  return (
    // biome-ignore lint/a11y/useSemanticElements: a table's cell could not be as wide as its share of the page
    <div
      role="gridcell"
      tabIndex={active ? 0 : -1}
      data-cell={place}
      aria-label={spoken(lane, day, site, t)}
      aria-selected={chosen}
      className={`relative min-w-0 flex-1 border-l border-line outline-offset-[-2px] focus-visible:outline-3 focus-visible:outline-accent ${chosen ? 'bg-warning-subtle' : past ? 'bg-surface-deep' : ''}`}
    >
      {day.hours.map((stretch, i) => (
        <div
          key={`${stretch.hoursId}${stretch.changeId}${stretch.fromMinute}`}
          data-stretch={`${i} ${stretch.fromMinute} ${stretch.toMinute}`}
          className={`absolute top-[5px] bottom-[5px] ${painting ? '' : 'cursor-grab'} overflow-hidden rounded-sm border bg-highlight ${stretch.changeId ? 'border-dashed border-primary' : 'border-line-strong'} ${past ? 'opacity-70' : ''}`}
          style={placed(stretch, shown)}
        >
          {stretch.online.map((run) => (
            <span
              key={run.fromMinute}
              className="pointer-events-none absolute inset-y-0 border-t-[3px] border-accent bg-accent-subtle"
              style={placed(run, { fromMin: stretch.fromMinute, toMin: stretch.toMinute })}
            />
          ))}
          <HoursLabel stretch={stretch} roomy={roomy} />
          <span
            data-grip="from"
            className={`absolute inset-y-0 left-0 w-[5px] ${painting ? '' : 'cursor-ew-resize'}`}
          />
          <span data-grip="to" className={`absolute inset-y-0 right-0 w-[5px] ${painting ? '' : 'cursor-ew-resize'}`} />
        </div>
      ))}
      {day.cancelled.map((span) => (
        <span
          key={`c${span.changeId}`}
          className="pointer-events-none absolute top-[5px] bottom-[5px] rounded-sm border border-dashed border-primary"
          style={placed(span, shown)}
        />
      ))}
      {[...day.timeOff, ...site.closed].map((span) => (
        <span
          key={`o${span.id}`}
          className={`pointer-events-none absolute inset-y-[2px] rounded-sm border border-line-strong bg-panel/70 ${HATCH}`}
          style={placed(span, shown)}
        />
      ))}
      {day.keptFree.map((span) => (
        <span
          key={`k${span.id}`}
          className="pointer-events-none absolute inset-y-[3px] border-x border-dotted border-foreground bg-panel"
          style={placed(span, shown)}
        />
      ))}
      {day.brush.map((span) => (
        <span
          key={`b${span.fromMinute}${span.value}`}
          className={`pointer-events-none absolute bottom-[1px] h-[3px] ${BRUSHED[span.value]}`}
          style={placed(span, shown)}
        />
      ))}
      {ghost && (
        <span
          className={`pointer-events-none absolute inset-y-[2px] z-10 rounded-sm border-2 ${ghost.brush ? 'border-accent bg-accent/30' : 'border-primary bg-primary/25'}`}
          style={placed(ghost, shown)}
        >
          {roomy && (
            <span className="absolute top-0 left-1 text-xs font-bold whitespace-nowrap">
              {wallTime(ghost.fromMinute)} – {wallTime(ghost.toMinute)}
            </span>
          )}
        </span>
      )}
    </div>
  );
});

/** A stretch narrower than the longest word of its label shows none: half an hour would be read as another one. */
const NARROWER_THAN: Record<number, string> = {
  2: '@max-[19px]:hidden',
  3: '@max-[25px]:hidden',
  4: '@max-[31px]:hidden',
  5: '@max-[37px]:hidden',
  6: '@max-[43px]:hidden',
};

/** From when until when, in one line or two. Drawn, not said: the cell's label says it in full. */
function HoursLabel({ stretch, roomy }: { stretch: Span; roomy: boolean }) {
  if (roomy)
    return (
      <span
        data-words={`${wallTime(stretch.fromMinute)} – ${wallTime(stretch.toMinute)}`}
        className="pointer-events-none relative block overflow-hidden px-2 pt-1 text-sm before:content-[attr(data-words)]"
      />
    );
  const words = brief(stretch);
  const longest = Math.max(...words.split(/(?<=–)/).map((part) => part.length));
  return (
    <span className="pointer-events-none @container absolute inset-0">
      <span
        data-words={words}
        className={`block overflow-hidden px-[3px] pt-[4px] text-xs leading-[10.5px] tabular-nums before:content-[attr(data-words)] ${NARROWER_THAN[longest]}`}
      />
    </span>
  );
}

/** As short as it can be said: the place tells morning from afternoon. */
function brief({ fromMinute, toMinute }: Span): string {
  const clock = (minute: number) => wallTime(minute).replace(/:00| [ap]m/g, '');
  return `${clock(fromMinute)}–${clock(toMinute)}`;
}

type Say = TFunction;

/** The cell in words, for who does not see it. */
function spoken(lane: Lane, day: LaneDay, site: SiteDay, t: Say): string {
  const span = ({ fromMinute, toMinute }: Span) => ({ from: wallTime(fromMinute), until: wallTime(toMinute) });
  const when = (each: Span) => ({
    when: each.fromMinute === 0 && each.toMinute === 1440 ? t('schedule.allDay') : t('schedule.cell.span', span(each)),
  });
  const parts = [
    ...day.hours.map((stretch) =>
      t('schedule.cell.hours', {
        ...span(stretch),
        online: t(stretch.online.length ? 'schedule.shown' : 'schedule.desk'),
      }),
    ),
    ...day.timeOff.map((each) => t('schedule.cell.away', when(each))),
    ...site.closed.map((each) => t('schedule.cell.closed', when(each))),
    ...day.keptFree.map((each) => t('schedule.cell.keptFree', when(each))),
  ];
  const what = parts.length ? parts.join('; ') : t('schedule.cell.nothing');
  return `${lane.name}, ${formatDate(day.date)}: ${what}. ${t('schedule.cell.visits', { count: day.visits })}`;
}

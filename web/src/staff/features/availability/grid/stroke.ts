import type { LaneDay, ScheduleWeek } from '@zaguan/contracts/availability';
import type { Span } from '../panel.ts';

type SiteDay = ScheduleWeek['sites'][number]['days'][number];

const within = (a: Span, b: Span): Span[] => {
  const fromMinute = Math.max(a.fromMinute, b.fromMinute);
  const toMinute = Math.min(a.toMinute, b.toMinute);
  return fromMinute < toMinute ? [{ fromMinute, toMinute }] : [];
};

/** What is left of a stretch without another one. */
function without(span: Span, gone: Span): Span[] {
  return [
    { fromMinute: span.fromMinute, toMinute: Math.min(span.toMinute, gone.fromMinute) },
    { fromMinute: Math.max(span.fromMinute, gone.toMinute), toMinute: span.toMinute },
  ].filter(({ fromMinute, toMinute }) => fromMinute < toMinute);
}

function joined(spans: readonly Span[]): Span[] {
  const found: { fromMinute: number; toMinute: number }[] = [];
  for (const span of [...spans].sort((a, b) => a.fromMinute - b.fromMinute)) {
    const last = found.at(-1);
    if (last && span.fromMinute <= last.toMinute) last.toMinute = Math.max(last.toMinute, span.toMinute);
    else found.push({ ...span });
  }
  return found;
}

/**
 * A day as it looks with one more stroke of the brush, until the server's own answer comes: painted at once, as by hand.
 * What a stroke "by rule" uncovers only the server knows.
 */
export function painted(day: LaneDay, site: SiteDay, span: Span, value: 'shown' | 'desk-only'): LaneDay {
  const hidden = [...day.timeOff, ...day.keptFree, ...site.closed];
  const hours = day.hours.map((stretch) => {
    const kept = stretch.online.flatMap((online) => without(online, span));
    const opened =
      value === 'desk-only'
        ? []
        : site.open
            .flatMap((open) => within(span, open).flatMap((part) => within(part, stretch)))
            .flatMap((part) =>
              hidden.reduce<Span[]>((left, gone) => left.flatMap((one) => without(one, gone)), [part]),
            );
    return { ...stretch, online: joined([...kept, ...opened]) };
  });
  const before = day.brush.flatMap(({ value: of, ...old }) =>
    without(old, span).map((left) => ({ ...left, value: of })),
  );
  const brush = [...before, { ...span, value }].sort((a, b) => a.fromMinute - b.fromMinute);
  return { ...day, hours, brush };
}

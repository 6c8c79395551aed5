import type { AddressChanges } from '../../shell/useAddress.ts';
import type { Panel, Span } from './panel.ts';

/** Everything that says which panel is open; a panel that needs less leaves the others empty. */
const NAMES = ['panel', 'lane', 'day', 'stretch', 'span', 'movedTo', 'who', 'where', 'start'] as const;

const spanText = (span: Span | null) => span && `${span.fromMinute}-${span.toMinute}`;

function readSpan(text: string | null): Span | null {
  const [, fromMinute, toMinute] = /^(\d{1,4})-(\d{1,4})$/.exec(text ?? '') ?? [];
  return toMinute === undefined ? null : { fromMinute: Number(fromMinute), toMinute: Number(toMinute) };
}

function readDay(text: string | null): number | null {
  return text !== null && /^[0-6]$/.test(text) ? Number(text) : null;
}

/** What the address says of an open panel, so that a reload, Back and a link lead to it again. No patient is named. */
export function toAddress(panel: Panel | null): AddressChanges {
  const values: Partial<Record<(typeof NAMES)[number], string | number | null>> = {};
  if (panel) {
    values.panel = panel.kind;
    if ('lane' in panel) values.lane = panel.lane;
    if ('day' in panel) values.day = panel.day;
    if ('span' in panel) values.span = spanText(panel.span);
    if ('resourceId' in panel) values.who = panel.resourceId;
    if (panel.kind === 'close') values.where = panel.siteId;
    if (panel.kind === 'why-not') values.start = panel.start;
    if (panel.kind === 'edit') {
      values.stretch = panel.stretch;
      if (panel.moved) [values.span, values.movedTo] = [spanText(panel.moved), panel.moved.day];
    }
  }
  return Object.fromEntries(NAMES.map((name) => [name, values[name]?.toString() ?? null]));
}

/** The panel that the address names; `null` where it names none, or none that there is. */
export function fromAddress(asked: URLSearchParams): Panel | null {
  const kind = asked.get('panel');
  const lane = asked.get('lane');
  const day = readDay(asked.get('day'));
  const span = readSpan(asked.get('span'));
  switch (kind) {
    case 'new':
      return { kind, lane, day, span };
    case 'paint':
      return { kind, lane, day };
    case 'away':
      return { kind, resourceId: asked.get('who'), day };
    case 'copy':
      return { kind, resourceId: asked.get('who') };
    case 'close':
      return { kind, siteId: asked.get('where') };
    case 'requests':
    case 'draft':
    case 'coming':
      return { kind };
    case 'why-not': {
      const start = asked.get('start');
      return lane && start && !Number.isNaN(Date.parse(start)) ? { kind, lane, start } : null;
    }
    case 'calendar':
      return lane ? { kind, lane } : null;
    case 'day':
    case 'copy-day':
      return lane && day !== null ? { kind, lane, day } : null;
    case 'keep-free':
      return lane && day !== null ? { kind, lane, day, span } : null;
    case 'edit': {
      const stretch = Number(asked.get('stretch') ?? Number.NaN);
      if (!lane || day === null || !Number.isInteger(stretch) || stretch < 0) return null;
      const onDay = readDay(asked.get('movedTo'));
      return { kind, lane, day, stretch, moved: span && onDay !== null ? { ...span, day: onDay } : null };
    }
    default:
      return null;
  }
}

/** Whether a panel is about a day of the week that is shown: in another week it would be about another day. */
export const isOfDay = (panel: Panel): boolean => ('day' in panel && panel.day !== null) || panel.kind === 'why-not';

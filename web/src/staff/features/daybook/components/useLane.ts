import type { Axis, Lane, SiteDay } from '@zaguan/contracts/daybook';
import { type PointerEvent, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { accountsApi } from '../../accounts/index.ts';
import { type ChosenTime, useMayBook } from '../../booking/index.ts';
import { NEW_BOOKING, type Panel } from '../hooks/useDaybookAddress.ts';
import { instantOf, minuteOf, type Shown } from '../layout.ts';
import { faceOf } from '../plateFace.ts';
import { useView } from '../views/viewContext.ts';
import { colorOfPlate } from './colors.ts';

export interface TypeNames {
  readonly [id: string]: { readonly name: string; readonly color: string } | undefined;
}

/** The visit types of the clinic by their ids. */
export function useTypeNames(): TypeNames {
  const { data: clinic } = accountsApi.useClinicQuery({});
  return useMemo(() => Object.fromEntries(clinic?.visitTypes.map((type) => [type.id, type]) ?? []), [clinic]);
}

/** What a lane is drawn from, whether as a row or as a column. */
export interface LaneProps {
  readonly site: SiteDay;
  readonly lane: Lane;
  readonly shown: Shown;
  readonly pxPerMin: number;
  readonly now: string;
  /** Where the now-line crosses, from the beginning of the hours; `null` where it is not shown. */
  readonly nowAt: number | null;
  readonly types: TypeNames;
  /** Short names that two people of the day have. */
  readonly alike: ReadonlySet<string>;
  readonly widthOf: (words: string) => number;
  /** The visit that is open at the right, if it is in this lane: other lanes are not drawn again for it. */
  readonly chosen: string | null;
  readonly onOpen: (panel: Panel) => void;
  /** Times at which the visit that is being booked could be. */
  readonly lit: readonly string[];
  /** Chooses a time for the booking that is open; `false`: none is. */
  readonly onPick: (time: ChosenTime) => boolean;
  /** Where the lane's name leads. */
  readonly link: string;
}

const FIVE_MIN_MS = 300_000;

/** What rows and columns have in common: what is written on the plates, their colors, where an instant is, what a press does. */
export function useLane(axis: Axis, { site, lane, shown, pxPerMin, now, types, alike, onOpen, onPick }: LaneProps) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const mayBook = useMayBook();
  const { namesHidden, details, coloredBy } = useView();
  const lateAfterMin = clinic?.lateAfterMin ?? null;
  const { timeZone, delays } = site;
  const people = clinic?.people;
  // When only the width changes, as for a panel that opens, the words stay.
  const plates = useMemo(() => {
    const byId = new Map(people?.map((person) => [person.id, person]));
    const facts = { now, timeZone, alike, namesHidden, details, delays, lateAfterMin };
    const colors = {
      type: (id: string) => types[id]?.color,
      person: (id: string | null) => (id === null ? null : byId.get(id)?.color),
    };
    return lane.plates.map((plate) => {
      const typeName = types[plate.visitTypeId]?.name ?? '';
      const providerName = (plate.providerId && byId.get(plate.providerId)?.shortName) || '';
      return {
        plate,
        face: faceOf(plate, { ...facts, typeName, providerName }, t),
        color: colorOfPlate(plate, coloredBy, colors),
      };
    });
  }, [lane.plates, now, timeZone, delays, lateAfterMin, alike, namesHidden, details, coloredBy, types, people, t]);
  const colorOf = useMemo(() => new Map(plates.map(({ plate, color }) => [plate.id, color])), [plates]);
  const at = (instant: string) => (minuteOf(site, instant) - shown.fromMin) * pxPerMin;
  const began = useRef(false);
  const press = (px: number) => {
    const instant = Date.parse(site.dayStart) + (shown.fromMin + px / pxPerMin) * 60_000;
    const start = new Date(Math.floor(instant / FIVE_MIN_MS) * FIVE_MIN_MS).toISOString();
    const place = { siteId: site.id, resourceId: lane.resourceId, start };
    if (onPick({ siteId: site.id, providerId: lane.resourceId, start })) return;
    const isToCome = Date.parse(start) > Date.parse(now);
    onOpen(mayBook && isToCome ? { ...NEW_BOOKING, at: place } : { kind: 'why-not', ...place });
  };
  return {
    plates,
    colorOf: (plateId: string) => colorOf.get(plateId),
    laneColor: people?.find(({ id }) => id === lane.resourceId)?.color,
    unitPx: (clinic?.baseUnitMin ?? 5) * pxPerMin,
    density: clinic?.density ?? 'roomy',
    /** From the beginning of the hours, in pixels. */
    at,
    /** The clock's minutes are those that went by since midnight, but on the two days of the year when clocks change. */
    atMinute: (minute: number) => at(instantOf(site, minute)),
    lengthPx: (shown.toMin - shown.fromMin) * pxPerMin,
    isOutside: (plate: { readonly drawn: { readonly start: string; readonly end: string } }) =>
      minuteOf(site, plate.drawn.end) <= shown.fromMin || minuteOf(site, plate.drawn.start) >= shown.toMin,
    /** For the hours' own element: a press that begins and ends on free time. What is dragged away, or given up, is none. */
    presses: {
      onPointerDown: (event: PointerEvent) => {
        began.current = event.target === event.currentTarget;
      },
      onPointerUp: (event: PointerEvent) => {
        if (!began.current || event.target !== event.currentTarget || lane.kind !== 'provider') return;
        press(axis === 'across' ? event.nativeEvent.offsetX : event.nativeEvent.offsetY);
      },
    },
  };
}

/** Lines closer than this would be a gray field. */
const MIN_UNIT_PX = 14;

/** Lines of the base unit where there is room between them. */
export function unitLines(unitPx: number, axis: Axis): { backgroundImage?: string } {
  if (unitPx < MIN_UNIT_PX) return {};
  const to = axis === 'across' ? 'right' : 'bottom';
  return {
    backgroundImage: `repeating-linear-gradient(to ${to}, transparent 0 ${unitPx - 1}px, var(--color-highlight) ${unitPx - 1}px ${unitPx}px)`,
  };
}

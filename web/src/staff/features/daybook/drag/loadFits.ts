import { type ApiError, apiError } from '../../../../shared/api/contractApi.ts';
import type { Dispatch } from '../../../store.ts';
import { bookingApi } from '../../booking/index.ts';
import { daybookApi } from '../daybook.api.ts';
import type { LaneSection } from '../layout.ts';
import { fitsOf } from './askJudge.ts';
import type { Picked, ToBook } from './drag.slice.ts';
import { type FitsByPlace, placeKey } from './moveJudge.ts';

/** What is known of a date for a dragged visit; without `fits` it can't be had. */
interface Loaded {
  readonly fits?: FitsByPlace;
  readonly error?: ApiError | null;
}

/**
 * Where a dragged visit fits on a date, asked once for each date that it comes over: a booked one by what the worker
 * judges, one that has no time yet by the desk's own search.
 *
 * @param key under which the worker keeps what it judges by
 */
export async function loadFits(
  dispatch: Dispatch,
  key: string,
  picked: Picked,
  date: string,
  sections: readonly LaneSection[],
): Promise<Loaded> {
  if (picked.toBook) return timesFor(dispatch, picked.toBook, date, sections);
  const asked = daybookApi.endpoints.moveSnapshot.initiate(
    { id: picked.visitId as never, date },
    { subscribe: false, forceRefetch: true },
  );
  const { data, error } = await dispatch(asked);
  if (!data) return { error: apiError(error) };
  return { fits: await fitsOf(key, picked.visitId, data).catch(() => undefined) };
}

async function timesFor(
  dispatch: Dispatch,
  { patientId, visitTypeId, parts }: ToBook,
  date: string,
  sections: readonly LaneSection[],
): Promise<Loaded> {
  const fits: Record<string, number[]> = {};
  for (const siteId of new Set(sections.map(({ site }) => site.id))) {
    const asked = { patientId, visitTypeId, parts, siteId, date, flowId: crypto.randomUUID() };
    const { data, error } = await dispatch(
      bookingApi.endpoints.timesOfDay.initiate(asked as never, { subscribe: false, forceRefetch: true }),
    );
    if (!data) return { error: apiError(error) };
    for (const { providerId, start } of data.times) {
      const place = placeKey(siteId, providerId);
      fits[place] = [...(fits[place] ?? []), Date.parse(start) / 60_000];
    }
  }
  return { fits };
}

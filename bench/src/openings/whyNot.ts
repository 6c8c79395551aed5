import { ClinicIndex, ClinicStore, openDays, whyNot } from '@zaguan/core/openings';
import { makeRandom } from '@zaguan/demo/random';
import { inTurn, type Result, rounded } from '../measure.ts';
import { workload } from './workload.ts';

const ASKED = 500;

/** One explanation of a start by every rule, against a whole day's search for everybody on the same clinic. */
export async function explained(): Promise<Result> {
  const w = workload(200, 14);
  const index = new ClinicIndex(new ClinicStore(w.snapshot), w.now);
  const random = makeRandom(3);
  const workingHours = w.snapshot.workingHours;
  const asked = Array.from({ length: ASKED }, () => {
    const hoursRow = random.pick(workingHours);
    const day = index.day(hoursRow.siteId, w.from);
    return { siteId: hoursRow.siteId, providerId: hoursRow.subject.id, start: day.start + random.int(84, 204) * 5 };
  });
  const offered = new Set(
    [
      ...openDays(index, w.criteria, {
        siteIds: w.snapshot.sites.map(({ id }) => id),
        providerIds: null,
        from: w.from,
        until: w.from,
      }),
    ].flatMap(({ siteId, providerId, day, starts }) =>
      asked
        .filter((each) => each.siteId === siteId && each.providerId === providerId)
        .filter(({ start }) => {
          const cell = (start - day.start) / 5;
          return (starts[cell >>> 5] & (1 << (cell & 31))) !== 0;
        }),
    ),
  );
  for (const each of asked)
    if (whyNot(index, w.criteria, each.siteId, each.providerId, each.start).offered !== offered.has(each))
      throw new Error('Why not? and the search disagree.');
  let failed = 0;
  const ms = inTurn(
    {
      explain: () => {
        for (const each of asked)
          failed += whyNot(index, w.criteria, each.siteId, each.providerId, each.start).answers.filter(
            (a) => !a.passed,
          ).length;
      },
      day: () => {
        for (const { starts } of openDays(index, w.criteria, {
          siteIds: w.snapshot.sites.map(({ id }) => id),
          providerIds: null,
          from: w.from,
          until: w.from,
        }))
          failed += starts[4] & 1;
      },
    },
    { rounds: 7 },
  );
  if (!failed) throw new Error('Nothing was explained.');
  return {
    ratio: rounded(ms.explain / ASKED / ms.day),
    msEach: rounded(ms.explain / ASKED),
    unit: 'of the time of one day’s search over 200 providers',
    peer: 'the search itself, same answers',
    n: ASKED,
  };
}

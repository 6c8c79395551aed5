import type { InputOf, OutputOf } from '@zaguan/contracts';
import { templateFinds as contract } from '@zaguan/contracts/invitations';
import { FINDS_DAYS, findsAny, findsBySite, type InvitationSearch } from '@zaguan/core/invitations';
import { ClinicIndex } from '@zaguan/core/openings';
import { addDays } from '@zaguan/core/time';
import { type Ctx, earliestDate, latestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { handleHeavy } from '../../platform/endpoint/handler.ts';
import { type HeavyTask, isRefusal } from '../../platform/heavy/heavyTask.ts';

interface Question {
  readonly rules: InputOf<typeof contract>['rules'];
  readonly now: Date;
}
type Found = OutputOf<typeof contract>;

/** Nobody who writes a template waits longer to hear what it would find. */
const DEADLINE_MS = 6_000;

/** The dates on which it may be looked, at whatever site. */
const datesFrom = (now: Date) => ({ from: earliestDate({ now }), until: addDays(latestDate({ now }), FINDS_DAYS) });

export const templateFindsTask: HeavyTask<Question, Found> = {
  name: 'template-finds',
  threads: 'search',
  deadlineMs: DEADLINE_MS,
  run: async ({ rules, now }, { clinic }) => {
    const store = await clinic.keptStore(datesFrom(now), now);
    const { starts, sites, without } = findsBySite(new ClinicIndex(store, nowMinute({ now })), rules);
    return { starts, sites: [...sites], without: [...without], gaveUp: false };
  },
};

/** What the holder of an invitation would find in the next three weeks, whoever they are; looked for in a thread. */
export const templateFinds = handleHeavy(
  contract,
  async (ctx: Ctx, { rules }): Promise<Question> => ({ rules, now: ctx.now }),
  async (question, { heavy, signal }): Promise<Found> => {
    const answer = await heavy.run(templateFindsTask, question, signal);
    return isRefusal(answer) ? { starts: 0, sites: [], without: [], gaveUp: true } : answer;
  },
);

/** Whether an invitation finds anything at all: the first time that there is ends the search. */
export async function findsAnything(ctx: Ctx, rules: InvitationSearch): Promise<boolean> {
  return findsAny(new ClinicIndex(await ctx.clinic(datesFrom(ctx.now)), nowMinute(ctx)), rules);
}

import type { InvitationLimits, SearchCriteria } from '../src/openings/index.ts';
import { addDays } from '../src/time/index.ts';
import { DAY } from './smallClinic.ts';

const ANYTHING: InvitationLimits = {
  ...{ typeIds: ['visit'], siteIds: null, providerIds: null, hours: null, fromDate: null, untilDate: null },
};
/** What an invitation of the handbook is for, and whether it is for desk times too. */
const INVITED_TO: Readonly<Record<string, [limits: Partial<InvitationLimits>, deskTimesToo?: boolean]>> = {
  'this visit type': [{}],
  'desk times too': [{}, true],
  'another visit type': [{ typeIds: ['other'] }],
  'this site': [{ siteIds: ['site'] }],
  'this provider': [{ providerIds: ['doctor'] }],
  'another site': [{ siteIds: ['elsewhere'] }],
  'another provider': [{ providerIds: ['nurse'] }],
  'dates until Tuesday': [{ untilDate: addDays(DAY, -1) }],
  'dates until Wednesday': [{ untilDate: DAY }],
  'Wednesdays 9:00 to 10:00': [{ hours: [{ weekdays: [3], fromMinute: 540, toMinute: 600 }] }],
};

/** What an invitation of the handbook may book, by the handbook's words. */
export function invitedTo(what: string): Pick<SearchCriteria, 'limits' | 'deskTimesToo'> {
  const [limits, deskTimesToo] = INVITED_TO[what];
  return { deskTimesToo, limits: { ...ANYTHING, ...limits } };
}

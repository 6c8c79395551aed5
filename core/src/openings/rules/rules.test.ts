import { describe, expect, it } from 'vitest';
import {
  DAY,
  HOURS,
  otherVisit as visit,
  PAYER,
  POLICY,
  smallClinic,
  twoRoomParts as twoParts,
  VISIT,
  ZONE,
} from '../../../tests/smallClinic.ts';
import { addDays, wallToEpoch } from '../../time/index.ts';
import {
  ClinicIndex,
  CODES,
  type ClinicSnapshot,
  type Code,
  type InvitationLimits,
  type SearchCriteria,
  whyNot,
} from '../index.ts';

interface Row {
  readonly code: Code;
  readonly what: string;
  readonly change?: Partial<ClinicSnapshot>;
  readonly criteria?: Partial<SearchCriteria>;
  /** Wall minute of the start; 9:00 unless said. */
  readonly minute?: number;
  readonly date?: string;
  /** Wall minute of now on the day before; noon unless said. */
  readonly now?: number;
  readonly hidden: boolean;
}

const at = (minute: number, date = DAY) => wallToEpoch(ZONE, date, minute);
const span = (from: number, to: number) => ({ startDate: DAY, startMinute: from, endDate: DAY, endMinute: to });
const policy = (change: object) => ({ policies: [{ ...POLICY, ...change }] });
const payer = (change: object) => ({ payerRules: [{ ...PAYER, accepted: true, ...change }] });
const PAID = { payerId: 'payer' };
const resources = (change: object) => ({
  resources: smallClinic().resources.map((row) => (row.id === 'doctor' ? { ...row, ...change } : row)),
});
const accepts = (change: object) => ({ workingHours: [{ ...HOURS, accepts: { ...HOURS.accepts, ...change } }] });
/** The small clinic's hours, but from nine. */
const NINE_TO_TWELVE = { ...HOURS, fromMinute: 540 };
const stroke = (value: 'shown' | 'desk-only', from: number, to: number, order = 1) => ({
  id: `${order}`,
  resourceId: 'doctor',
  siteId: 'site',
  date: DAY,
  fromMinute: from,
  toMinute: to,
  value,
  order,
});
const taken = (resourceId: string, from: number, to: number) => ({
  resourceId,
  start: at(from),
  end: at(to),
  visitId: 'x',
});

const NO_LIMITS: InvitationLimits = {
  ...{ typeIds: ['visit'], siteIds: null, providerIds: null, hours: null, fromDate: null, untilDate: null },
};
const invited = (limits: Partial<InvitationLimits>): Partial<SearchCriteria> => ({
  channel: 'invited',
  limits: { ...NO_LIMITS, ...limits },
});
const from = (fromMinute: number, toMinute: number) => [{ weekdays: [1, 2, 3] as const, fromMinute, toMinute }];

/** Each rule just inside, exactly at and just outside its limit. 9:00 to 9:30 is asked for, from the day before at noon. */
const ROWS: readonly Row[] = [
  { code: 'past', what: 'a start exactly now', minute: 540, now: 1440 + 540, hidden: false },
  { code: 'past', what: 'a start five minutes ago', minute: 540, now: 1440 + 545, hidden: true },
  {
    code: 'not-performed',
    what: 'a provider among those who do it',
    change: { visitTypes: [{ ...VISIT, providerIds: ['doctor'] }] },
    hidden: false,
  },
  {
    code: 'not-performed',
    what: 'a provider who does not',
    change: { visitTypes: [{ ...VISIT, providerIds: [] }] },
    hidden: true,
  },
  { code: 'not-performed', what: 'a site without the pool', change: { ...twoParts({}), pools: [] }, hidden: true },
  {
    code: 'site-closed',
    what: 'a closure from the visit’s end',
    change: { closures: [{ id: 'c', siteId: 'site', ...span(570, 600) }] },
    hidden: false,
  },
  {
    code: 'site-closed',
    what: 'a closure of its last five minutes',
    change: { closures: [{ id: 'c', siteId: 'site', ...span(565, 600) }] },
    hidden: true,
  },
  {
    code: 'outside-site-hours',
    what: 'opening exactly at the start',
    change: { siteHours: [{ ...smallClinic().siteHours[0], fromMinute: 540 }] },
    hidden: false,
  },
  {
    code: 'outside-site-hours',
    what: 'opening five minutes later',
    change: { siteHours: [{ ...smallClinic().siteHours[0], fromMinute: 545 }] },
    hidden: true,
  },
  {
    code: 'outside-site-hours',
    what: 'the same at the desk',
    change: { siteHours: [] },
    criteria: { channel: 'desk' },
    hidden: false,
  },
  { code: 'not-offered', what: 'no policy at all', change: { policies: [] }, hidden: true },
  {
    code: 'not-offered',
    what: 'an invitation to desk times',
    change: { policies: [] },
    criteria: { channel: 'invited', deskTimesToo: true },
    hidden: false,
  },
  {
    code: 'not-offered',
    what: 'an invitation to online times',
    change: { policies: [] },
    criteria: { channel: 'invited' },
    hidden: true,
  },
  {
    code: 'not-offered',
    what: 'a provider’s no over the type’s yes',
    change: { policies: [POLICY, { ...POLICY, id: 'n', providerId: 'doctor', offered: false }] },
    hidden: true,
  },
  { code: 'kind-not-offered', what: 'new patients only', change: policy({ kinds: ['new'] }), hidden: true },
  {
    code: 'no-new-patients',
    what: 'a new patient with a provider who takes none',
    change: resources({ acceptsNew: false }),
    criteria: { kind: 'new' },
    hidden: true,
  },
  {
    code: 'no-new-patients',
    what: 'an established one',
    change: resources({ acceptsNew: false }),
    hidden: false,
  },
  {
    code: 'no-new-patients',
    what: 'a new one at the desk',
    change: resources({ acceptsNew: false }),
    criteria: { kind: 'new', channel: 'desk' },
    hidden: false,
  },
  { code: 'payer-not-accepted', what: 'nobody named', change: { payerRules: [] }, hidden: false },
  { code: 'payer-not-accepted', what: 'a payer nothing is said about', criteria: PAID, hidden: true },
  { code: 'payer-not-accepted', what: 'one that is accepted', change: payer({}), criteria: PAID, hidden: false },
  {
    code: 'payer-not-accepted',
    what: 'accepted here, but not with this provider',
    change: { payerRules: [...payer({}).payerRules, { ...PAYER, providerId: 'doctor', accepted: false }] },
    criteria: PAID,
    hidden: true,
  },
  {
    code: 'payer-not-accepted',
    what: 'accepted with this provider, though not at this site',
    change: {
      payerRules: [
        { ...PAYER, siteId: 'site', accepted: false },
        { ...PAYER, providerId: 'doctor', accepted: true },
      ],
    },
    criteria: PAID,
    hidden: false,
  },
  {
    code: 'referral-needed',
    what: 'no referral',
    change: payer({ referral: true }),
    criteria: PAID,
    hidden: true,
  },
  {
    code: 'referral-needed',
    what: 'a referral',
    change: payer({ referral: true }),
    criteria: { ...PAID, hasReferral: true },
    hidden: false,
  },
  {
    code: 'authorization-needed',
    what: 'none, for another type only',
    change: { payerRules: [...payer({}).payerRules, { ...PAYER, visitTypeId: 'other', authorization: true }] },
    criteria: PAID,
    hidden: false,
  },
  {
    code: 'authorization-needed',
    what: 'none, for this type',
    change: { payerRules: [...payer({}).payerRules, { ...PAYER, visitTypeId: 'visit', authorization: true }] },
    criteria: PAID,
    hidden: true,
  },
  {
    code: 'authorization-needed',
    what: 'one that is there',
    change: payer({ authorization: true }),
    criteria: { ...PAID, hasAuthorization: true },
    hidden: false,
  },
  { code: 'kind-not-offered', what: 'both kinds', change: policy({ kinds: ['new', 'established'] }), hidden: false },
  {
    code: 'not-bookable-online',
    what: 'the site left out',
    change: { sites: [{ id: 'site', zone: ZONE, bookableOnline: false }] },
    hidden: true,
  },
  {
    code: 'not-bookable-online',
    what: 'the provider left out, asked from the desk',
    change: { resources: [{ id: 'doctor', kind: 'provider', bookableOnline: false, capabilities: [] }] },
    criteria: { channel: 'desk' },
    hidden: false,
  },
  { code: 'too-soon', what: 'notice exactly as asked', change: policy({ leadMin: 21 * 60 }), hidden: false },
  { code: 'too-soon', what: 'five minutes less', change: policy({ leadMin: 21 * 60 + 5 }), hidden: true },
  {
    code: 'too-soon',
    what: 'exactly at 12:00 of the working day before',
    change: policy({ leadWorkingDays: 1, leadByMinute: 720 }),
    hidden: false,
  },
  {
    code: 'too-soon',
    what: 'a minute after it',
    change: policy({ leadWorkingDays: 1, leadByMinute: 720 }),
    now: 721,
    hidden: true,
  },
  {
    code: 'too-soon',
    what: 'Monday by Friday noon, on Friday at one',
    date: '2026-06-15',
    now: -2 * 1440 + 780,
    change: policy({ leadWorkingDays: 1, leadByMinute: 720 }),
    hidden: true,
  },
  {
    code: 'too-soon',
    what: 'Monday by Friday noon, on Friday at noon',
    date: '2026-06-15',
    now: -2 * 1440 + 720,
    change: policy({ leadWorkingDays: 1, leadByMinute: 720 }),
    hidden: false,
  },
  { code: 'too-far', what: 'the window’s last day', change: policy({ windowDays: 1 }), hidden: false },
  { code: 'too-far', what: 'a day later', change: policy({ windowDays: 0 }), hidden: true },
  { code: 'off-grid', what: 'on the grid', change: policy({ gridMin: 30 }), hidden: false },
  { code: 'off-grid', what: 'between its lines', change: policy({ gridMin: 20 }), minute: 550, hidden: true },
  { code: 'not-before', what: 'allowed from that day', criteria: { notBefore: DAY }, hidden: false },
  { code: 'not-before', what: 'allowed from the next day', criteria: { notBefore: addDays(DAY, 1) }, hidden: true },
  { code: 'invitation-type', what: 'for this type', criteria: invited({ typeIds: ['visit', 'other'] }), hidden: false },
  { code: 'invitation-type', what: 'for another', criteria: invited({ typeIds: ['other'] }), hidden: true },
  { code: 'invitation-site', what: 'for this site', criteria: invited({ siteIds: ['site'] }), hidden: false },
  { code: 'invitation-site', what: 'for another', criteria: invited({ siteIds: ['elsewhere'] }), hidden: true },
  { code: 'invitation-provider', what: 'for this one', criteria: invited({ providerIds: ['doctor'] }), hidden: false },
  { code: 'invitation-provider', what: 'for another', criteria: invited({ providerIds: ['nurse'] }), hidden: true },
  { code: 'invitation-dates', what: 'its last date', criteria: invited({ untilDate: DAY }), hidden: false },
  { code: 'invitation-dates', what: 'over', criteria: invited({ untilDate: addDays(DAY, -1) }), hidden: true },
  { code: 'invitation-dates', what: 'its first date', criteria: invited({ fromDate: DAY }), hidden: false },
  { code: 'invitation-dates', what: 'from tomorrow', criteria: invited({ fromDate: addDays(DAY, 1) }), hidden: true },
  { code: 'invitation-hours', what: 'its first minute', criteria: invited({ hours: from(540, 600) }), hidden: false },
  { code: 'invitation-hours', what: 'five minutes early', criteria: invited({ hours: from(545, 600) }), hidden: true },
  { code: 'invitation-hours', what: 'at their end', criteria: invited({ hours: from(480, 540) }), hidden: true },
  {
    code: 'invitation-hours',
    what: 'on another weekday',
    criteria: invited({ hours: [{ weekdays: [7], fromMinute: 540, toMinute: 600 }] }),
    hidden: true,
  },
  { code: 'no-hours', what: 'the last start that fits', minute: 690, hidden: false },
  { code: 'no-hours', what: 'five minutes later', minute: 695, hidden: true },
  {
    code: 'changed-that-date',
    what: 'hours shortened to its end',
    change: {
      dateChanges: [
        { id: 'c', subject: HOURS.subject, workingHoursId: 'hours', date: DAY, hours: { ...HOURS, toMinute: 570 } },
      ],
    },
    hidden: false,
  },
  {
    code: 'changed-that-date',
    what: 'hours shortened into it',
    change: {
      dateChanges: [
        { id: 'c', subject: HOURS.subject, workingHoursId: 'hours', date: DAY, hours: { ...HOURS, toMinute: 565 } },
      ],
    },
    hidden: true,
  },
  {
    code: 'changed-that-date',
    what: 'hours cancelled on another date',
    change: {
      dateChanges: [{ id: 'c', subject: HOURS.subject, workingHoursId: 'hours', date: addDays(DAY, 1), hours: null }],
    },
    hidden: false,
  },
  {
    code: 'time-off',
    what: 'away from its end',
    change: { timeOff: [{ id: 'o', resourceId: 'doctor', siteId: null, ...span(570, 1440) }] },
    hidden: false,
  },
  {
    code: 'time-off',
    what: 'away into it',
    change: { timeOff: [{ id: 'o', resourceId: 'doctor', siteId: 'site', ...span(0, 545) }] },
    hidden: true,
  },
  {
    code: 'time-off',
    what: 'away at another site',
    change: { timeOff: [{ id: 'o', resourceId: 'doctor', siteId: 'elsewhere', ...span(0, 1440) }] },
    hidden: false,
  },
  {
    code: 'kept-free',
    what: 'kept free beside it',
    change: {
      keptFree: [{ id: 'k', resourceId: 'doctor', siteId: null, rule: HOURS.rule, fromMinute: 570, toMinute: 600 }],
    },
    hidden: false,
  },
  {
    code: 'kept-free',
    what: 'kept free within it, whatever the brush says',
    change: {
      keptFree: [{ id: 'k', resourceId: 'doctor', siteId: null, rule: HOURS.rule, fromMinute: 565, toMinute: 600 }],
      brush: [stroke('shown', 480, 720)],
    },
    hidden: true,
  },
  {
    code: 'type-not-accepted',
    what: 'the type among those accepted',
    change: accepts({ visitTypeIds: ['visit'] }),
    hidden: false,
  },
  { code: 'type-not-accepted', what: 'others only', change: accepts({ visitTypeIds: ['other'] }), hidden: true },
  {
    code: 'type-not-accepted',
    what: 'released exactly at its limit',
    change: {
      workingHours: [
        {
          ...HOURS,
          accepts: { ...HOURS.accepts, visitTypeIds: [] },
          release: { beforeMin: 21 * 60, accepts: HOURS.accepts, online: true },
        },
      ],
    },
    hidden: false,
  },
  {
    code: 'type-not-accepted',
    what: 'not yet released',
    change: {
      workingHours: [
        {
          ...HOURS,
          accepts: { ...HOURS.accepts, visitTypeIds: [] },
          release: { beforeMin: 21 * 60 - 5, accepts: HOURS.accepts, online: true },
        },
      ],
    },
    hidden: true,
  },
  {
    code: 'kind-not-accepted',
    what: 'established accepted',
    change: accepts({ kinds: ['established'] }),
    hidden: false,
  },
  {
    code: 'kind-not-accepted',
    what: 'new only, also at the desk',
    change: accepts({ kinds: ['new'] }),
    criteria: { channel: 'desk' },
    hidden: true,
  },
  { code: 'invited-only', what: 'asked online', change: accepts({ invitedOnly: true }), hidden: true },
  {
    code: 'invited-only',
    what: 'asked by invitation',
    change: accepts({ invitedOnly: true }),
    criteria: { channel: 'invited' },
    hidden: false,
  },
  { code: 'desk-only', what: 'hours not shown', change: { workingHours: [{ ...HOURS, online: false }] }, hidden: true },
  {
    code: 'desk-only',
    what: 'hours not shown, painted shown',
    change: { workingHours: [{ ...HOURS, online: false }], brush: [stroke('shown', 540, 570)] },
    hidden: false,
  },
  {
    code: 'desk-only',
    what: 'painted shown but for five minutes',
    change: { workingHours: [{ ...HOURS, online: false }], brush: [stroke('shown', 540, 565)] },
    hidden: true,
  },
  {
    code: 'desk-only',
    what: 'the latest stroke wins',
    change: { brush: [stroke('desk-only', 500, 600, 1), stroke('shown', 500, 600, 2)] },
    hidden: false,
  },
  {
    code: 'desk-only',
    what: 'an invitation with desk times too',
    change: { workingHours: [{ ...HOURS, online: false }] },
    criteria: { channel: 'invited', deskTimesToo: true },
    hidden: false,
  },
  { code: 'busy', what: 'taken up to the start', change: { occupied: [taken('doctor', 500, 540)] }, hidden: false },
  {
    code: 'busy',
    what: 'taken for its first five minutes',
    change: { occupied: [taken('doctor', 500, 545)] },
    hidden: true,
  },
  {
    code: 'busy',
    what: 'a second place free',
    change: { occupied: [taken('doctor', 500, 600)], workingHours: [{ ...HOURS, places: 2 }] },
    hidden: false,
  },
  {
    code: 'busy',
    what: 'its own old time, when it is moved',
    change: { occupied: [taken('doctor', 500, 600)] },
    criteria: { ignoreVisitId: 'x' },
    hidden: false,
  },
  {
    code: 'gap-too-short',
    what: 'exactly the gap after the other',
    change: { visits: [visit(500, 530, { afterMin: 10 })] },
    hidden: false,
  },
  {
    code: 'gap-too-short',
    what: 'five minutes less, the larger of both gaps counts',
    change: { visits: [visit(500, 530, { afterMin: 5 })], visitTypes: [{ ...VISIT, beforeMin: 15 }] },
    hidden: true,
  },
  {
    code: 'gap-too-short',
    what: 'travel to the next site',
    change: {
      sites: [...smallClinic().sites, { id: 'far', zone: ZONE, bookableOnline: true }],
      travel: [{ fromSiteId: 'site', toSiteId: 'far', minutes: 60 }],
      visits: [visit(625, 660, { siteId: 'far' })],
    },
    hidden: true,
  },
  {
    code: 'cap-reached',
    what: 'one below the cap',
    change: {
      caps: [{ id: 'c', bucket: 'provider-day', providerId: null, siteId: null, visitTypeId: null, max: 2 }],
      visits: [visit(600, 630)],
    },
    hidden: false,
  },
  {
    code: 'cap-reached',
    what: 'at the cap',
    change: {
      caps: [{ id: 'c', bucket: 'provider-day', providerId: null, siteId: null, visitTypeId: null, max: 1 }],
      visits: [visit(600, 630)],
    },
    hidden: true,
  },
  {
    code: 'cap-reached',
    what: 'a cap on self-bookings, asked from the desk',
    change: {
      caps: [{ id: 'c', bucket: 'provider-self-day', providerId: null, siteId: null, visitTypeId: null, max: 1 }],
      visits: [visit(600, 630)],
    },
    criteria: { channel: 'desk' },
    hidden: false,
  },
  {
    code: 'cap-reached',
    what: '“1 new in these hours”, reached',
    change: {
      workingHours: [{ ...HOURS, caps: [{ visitTypeId: null, kind: 'new', max: 1 }] }],
      visits: [visit(600, 630, { kind: 'new' })],
    },
    criteria: { kind: 'new' },
    hidden: true,
  },
  {
    code: 'cap-reached',
    what: '“1 new in these hours”, but they were cancelled on the date and others put there',
    change: {
      workingHours: [{ ...HOURS, caps: [{ visitTypeId: null, kind: 'new', max: 1 }] }],
      dateChanges: [
        { id: 'off', subject: HOURS.subject, workingHoursId: HOURS.id, date: DAY, hours: null },
        { id: 'instead', subject: HOURS.subject, workingHoursId: null, date: DAY, hours: NINE_TO_TWELVE },
      ],
      visits: [visit(600, 630, { kind: 'new' })],
    },
    criteria: { kind: 'new' },
    hidden: false,
  },
  {
    code: 'cap-reached',
    what: '“1 new in these hours”, changed for the date; the visit that counted is outside of them now',
    change: {
      workingHours: [{ ...HOURS, caps: [{ visitTypeId: null, kind: 'new', max: 1 }] }],
      dateChanges: [
        { id: 'later', subject: HOURS.subject, workingHoursId: HOURS.id, date: DAY, hours: NINE_TO_TWELVE },
      ],
      visits: [visit(480, 510, { kind: 'new' })],
    },
    criteria: { kind: 'new' },
    hidden: false,
  },
  {
    code: 'cap-reached',
    what: '“1 new in these hours”, changed for the date and reached within the changed ones',
    change: {
      workingHours: [{ ...HOURS, caps: [{ visitTypeId: null, kind: 'new', max: 1 }] }],
      dateChanges: [
        { id: 'later', subject: HOURS.subject, workingHoursId: HOURS.id, date: DAY, hours: NINE_TO_TWELVE },
      ],
      visits: [visit(600, 630, { kind: 'new' })],
    },
    criteria: { kind: 'new' },
    hidden: true,
  },
  {
    code: 'nobody-present',
    what: 'someone able until the end',
    change: {
      resources: [{ id: 'doctor', kind: 'provider', bookableOnline: true, capabilities: ['treats'] }],
      visitTypes: [
        {
          ...VISIT,
          parts: [
            { lengthMin: 30, needs: [...VISIT.parts[0].needs, { key: 'able', what: 'present', capability: 'treats' }] },
          ],
        },
      ],
    },
    hidden: false,
  },
  {
    code: 'nobody-present',
    what: 'nobody able',
    change: {
      visitTypes: [
        {
          ...VISIT,
          parts: [
            { lengthMin: 30, needs: [...VISIT.parts[0].needs, { key: 'able', what: 'present', capability: 'treats' }] },
          ],
        },
      ],
    },
    hidden: true,
  },
  {
    code: 'patient-elsewhere',
    what: 'another visit that ends at the start',
    change: { visits: [visit(510, 540, { providerId: null, patientId: 'me' })] },
    criteria: { patientId: 'me' },
    hidden: false,
  },
  {
    code: 'patient-elsewhere',
    what: 'another visit five minutes longer',
    change: { visits: [visit(510, 545, { providerId: null, patientId: 'me' })] },
    criteria: { patientId: 'me' },
    hidden: true,
  },
  {
    code: 'spacing',
    what: 'exactly the days apart',
    change: {
      visitTypes: [{ ...VISIT, spacing: [{ otherTypeId: 'visit', minDays: 2, maxDays: null }] }],
      visits: [visit(300, 310, { patientId: 'me', providerId: null, date: addDays(DAY, -2) })],
    },
    criteria: { patientId: 'me' },
    hidden: false,
  },
  {
    code: 'spacing',
    what: 'a day short',
    change: {
      visitTypes: [{ ...VISIT, spacing: [{ otherTypeId: 'visit', minDays: 3, maxDays: null }] }],
      visits: [visit(300, 310, { patientId: 'me', providerId: null, date: addDays(DAY, -2) })],
    },
    criteria: { patientId: 'me' },
    hidden: true,
  },
  {
    code: 'never-together',
    what: 'a room free for each part, and one for both',
    change: { ...twoParts({ sameAs: 'a' }), occupied: [taken('room-a', 555, 570)] },
    hidden: false,
  },
  {
    code: 'never-together',
    what: 'a room free for each part, but no one room for both',
    change: { ...twoParts({ sameAs: 'a' }), occupied: [taken('room-a', 555, 570), taken('room-b', 540, 555)] },
    hidden: true,
  },
  {
    code: 'never-together',
    what: 'the same without the bond',
    change: { ...twoParts({}), occupied: [taken('room-a', 555, 570), taken('room-b', 540, 555)] },
    hidden: false,
  },
];

describe('each rule just inside, at and outside its limit', () => {
  it.each(ROWS)('$code: $what', (row) => {
    const { code, change, criteria, minute = 540, date = DAY, now = 720, hidden } = row;
    const present = wallToEpoch(ZONE, addDays(DAY, -1), 0) + now + (date === DAY ? 0 : 5 * 1440);
    const index = new ClinicIndex(smallClinic(change), present);
    const { answers } = whyNot(
      index,
      { visitTypeId: 'visit', kind: 'established', channel: 'online', ...criteria },
      'site',
      'doctor',
      at(minute, date),
    );
    expect(answers.filter((answer) => !answer.passed).map((answer) => answer.code)).toEqual(hidden ? [code] : []);
  });

  it('has a row for every code', () => {
    expect([...new Set(ROWS.map((row) => row.code))].sort()).toEqual([...CODES].sort());
  });
});

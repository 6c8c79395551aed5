import type { BookedVisit } from '../src/visits/index.ts';
import type { ClinicSnapshot, OnlinePolicy, PayerRule, SearchCriteria } from '../src/openings/index.ts';
import { addDays, wallToEpoch } from '../src/time/index.ts';
import { invitedTo } from './exampleInvitations.ts';
import { DAY, HOURS, otherVisit, PAYER, POLICY, smallClinic, twoRoomParts, VISIT, ZONE } from './smallClinic.ts';

/** One question of the handbook: a clinic, search criteria, a start and an instant, and the answer the handbook gives. */
export interface Example {
  /** The rule under whose heading it stands. */
  readonly rule: string;
  /** The question as written. */
  readonly text: string;
  readonly clinic: ClinicSnapshot;
  readonly criteria: SearchCriteria;
  /** Epoch minutes. */
  readonly start: number;
  readonly now: number;
  readonly answer: string;
}

interface Question {
  minute: number;
  now: number;
  criteria: SearchCriteria;
}

const DAYS: Record<string, string> = {
  Monday: addDays(DAY, -2),
  Tuesday: addDays(DAY, -1),
  Wednesday: DAY,
  Thursday: addDays(DAY, 1),
};
const at = (minute: number, date = DAY) => wallToEpoch(ZONE, date, minute);
const clock = (text: string) => {
  const [hour, minute] = text.split(':').map(Number);
  return hour * 60 + minute;
};
const span = (from: string, to: string) => ({
  startDate: DAY,
  startMinute: clock(from),
  endDate: DAY,
  endMinute: clock(to),
});
const booked = (from: string, to: string, more?: Partial<BookedVisit>) => otherVisit(clock(from), clock(to), more);
type Change = (clinic: ClinicSnapshot, ...found: string[]) => Partial<ClinicSnapshot>;
const policy =
  (change: (...found: string[]) => Partial<OnlinePolicy>): Change =>
  (clinic, ...found) => ({
    policies: clinic.policies.map((row) => ({ ...row, ...change(...found) })),
  });
const hours =
  (change: Partial<typeof HOURS>): Change =>
  (clinic) => ({
    workingHours: clinic.workingHours.map((row) => ({ ...row, ...change })),
  });
const accepts = (change: Partial<(typeof HOURS)['accepts']>): Change =>
  hours({ accepts: { ...HOURS.accepts, ...change } });
const payer =
  (change: Partial<PayerRule>): Change =>
  (clinic) => ({
    payerRules: [...clinic.payerRules, { ...PAYER, ...change }],
  });
const taken =
  (who: (found: string) => string): Change =>
  (clinic, found, from, to) => ({
    occupied: [
      ...clinic.occupied,
      { resourceId: who(found), start: at(clock(from)), end: at(clock(to)), visitId: `taken ${found}` },
    ],
  });
const brushed =
  (value: 'shown' | 'desk-only'): Change =>
  (clinic, from, to) => ({
    brush: [
      ...clinic.brush,
      {
        id: `stroke ${clinic.brush.length}`,
        resourceId: 'doctor',
        siteId: 'site',
        date: DAY,
        fromMinute: clock(from),
        toMinute: clock(to),
        value,
        order: clinic.brush.length,
      },
    ],
  });
const inRooms =
  (bind: object): Change =>
  () =>
    twoRoomParts(bind);
const addVisit = (clinic: ClinicSnapshot, visit: BookedVisit) => ({ visits: [...clinic.visits, visit] });

/** The sentences a `given` line may be made of. */
const GIVEN: readonly (readonly [RegExp, Change])[] = [
  [/^the type is done by nobody$/, () => ({ visitTypes: [{ ...VISIT, providerIds: [] }] })],
  [
    /^the site is closed from (\S+) to (\S+)$/,
    (_, from, to) => ({ closures: [{ id: 'c', siteId: 'site', ...span(from, to) }] }),
  ],
  [
    /^the site opens at (\S+)$/,
    (clinic, from) => ({ siteHours: clinic.siteHours.map((row) => ({ ...row, fromMinute: clock(from) })) }),
  ],
  [
    /^the type is offered, but not with this provider$/,
    () => ({ policies: [POLICY, { ...POLICY, id: 'own', providerId: 'doctor', offered: false }] }),
  ],
  [/^the type is offered online to new patients only$/, policy(() => ({ kinds: ['new'] }))],
  [
    /^the site is left out of online booking$/,
    (clinic) => ({ sites: clinic.sites.map((row) => ({ ...row, bookableOnline: false })) }),
  ],
  [/^online booking asks for (\d+) hours' notice$/, policy((n) => ({ leadMin: Number(n) * 60 }))],
  [
    /^online booking asks for notice by (\S+) on the working day before$/,
    policy((time) => ({ leadWorkingDays: 1, leadByMinute: clock(time) })),
  ],
  [/^online booking opens (\d+) days? ahead$/, policy((n) => ({ windowDays: Number(n) }))],
  [/^start times are offered every (\d+) minutes$/, policy((n) => ({ gridMin: Number(n) }))],
  [
    /^on Wednesday the hours end at (\S+)$/,
    (_, to) => ({
      dateChanges: [
        {
          id: 'c',
          subject: HOURS.subject,
          workingHoursId: 'hours',
          date: DAY,
          hours: { ...HOURS, toMinute: clock(to) },
        },
      ],
    }),
  ],
  [
    /^the provider is away on Wednesday from (\S+) to (\S+)$/,
    (_, from, to) => ({ timeOff: [{ id: 'o', resourceId: 'doctor', siteId: null, ...span(from, to) }] }),
  ],
  [
    /^(\S+) to (\S+) is kept free$/,
    (_, from, to) => ({
      keptFree: [
        {
          id: 'k',
          resourceId: 'doctor',
          siteId: null,
          rule: HOURS.rule,
          fromMinute: clock(from),
          toMinute: clock(to),
        },
      ],
    }),
  ],
  [/^the brush shows (\S+) to (\S+)$/, brushed('shown')],
  [/^the brush hides (\S+) to (\S+)$/, brushed('desk-only')],
  [/^the hours accept other types only$/, accepts({ visitTypeIds: ['other'] })],
  [
    /^they are released to all (\d+) hours before$/,
    (clinic, n) => hours({ release: { beforeMin: Number(n) * 60, accepts: HOURS.accepts, online: true } })(clinic),
  ],
  [/^the hours accept new patients only$/, accepts({ kinds: ['new'] })],
  [/^the hours are for invited patients$/, accepts({ invitedOnly: true })],
  [/^the hours are for the desk$/, hours({ online: false })],
  [/^the hours have (\d+) places$/, (clinic, n) => hours({ places: Number(n) })(clinic)],
  [/^the (provider) is taken from (\S+) to (\S+)$/, taken(() => 'doctor')],
  [/^room ([AB]) is taken from (\S+) to (\S+)$/, taken((found) => `room-${found.toLowerCase()}`)],
  [
    /^another visit from (\S+) to (\S+) that asks (\d+) minutes after it$/,
    (clinic, from, to, n) => addVisit(clinic, booked(from, to, { afterMin: Number(n) })),
  ],
  [
    /^another visit from (\S+) to (\S+) at a site (\d+) minutes away$/,
    (clinic, from, to, n) => ({
      ...addVisit(clinic, booked(from, to, { siteId: 'far' })),
      sites: [...clinic.sites, { id: 'far', zone: ZONE, bookableOnline: true }],
      travel: [{ fromSiteId: 'site', toSiteId: 'far', minutes: Number(n) }],
    }),
  ],
  [/^another visit from (\S+) to (\S+)$/, (clinic, from, to) => addVisit(clinic, booked(from, to))],
  [
    /^at most (\d+) visits? a provider and day$/,
    (_, n) => ({
      caps: [{ id: 'c', bucket: 'provider-day', providerId: null, siteId: null, visitTypeId: null, max: Number(n) }],
    }),
  ],
  [
    /^the type wants somebody able to treat at the site$/,
    () => ({
      visitTypes: [
        {
          ...VISIT,
          parts: [
            { lengthMin: 30, needs: [...VISIT.parts[0].needs, { key: 'able', what: 'present', capability: 'treats' }] },
          ],
        },
      ],
    }),
  ],
  [
    /^the provider can treat$/,
    (clinic) => ({
      resources: clinic.resources.map((row) => (row.id === 'doctor' ? { ...row, capabilities: ['treats'] } : row)),
    }),
  ],
  [
    /^the patient has a visit from (\S+) to (\S+)$/,
    (clinic, from, to) => addVisit(clinic, booked(from, to, { providerId: null, patientId: 'me' })),
  ],
  [
    /^the type asks (\d+) days between visits$/,
    (_, n) => ({
      visitTypes: [{ ...VISIT, spacing: [{ otherTypeId: 'visit', minDays: Number(n), maxDays: null }] }],
    }),
  ],
  [
    /^the patient had one on (\S+)$/,
    (clinic, day) => addVisit(clinic, booked('6:00', '6:10', { providerId: null, patientId: 'me', date: DAYS[day] })),
  ],
  [
    /^the provider takes no new patients$/,
    (clinic) => ({
      resources: clinic.resources.map((row) => (row.id === 'doctor' ? { ...row, acceptsNew: false } : row)),
    }),
  ],
  [/^the payer is accepted$/, payer({ accepted: true })],
  [/^the payer is not accepted with this provider$/, payer({ providerId: 'doctor', accepted: false })],
  [/^the payer asks for a referral$/, payer({ accepted: true, referral: true })],
  [/^the payer asks for an authorization$/, payer({ accepted: true, authorization: true })],
  [/^two parts in one room$/, inRooms({ sameAs: 'a' })],
  [/^two parts in any rooms$/, inRooms({})],
];

type Ask = (question: Question, ...found: string[]) => void;
/** The clauses a question may be made of. */
const ASKED: readonly (readonly [RegExp, Ask])[] = [
  [
    /^asked on (\S+) at (\S+)$/,
    (question, day, time) => {
      question.now = at(clock(time), DAYS[day]);
    },
  ],
  [
    /^at the desk$/,
    (question) => {
      question.criteria = { ...question.criteria, channel: 'desk' };
    },
  ],
  [
    /^for (\S+)$/,
    (question, time) => {
      question.minute = clock(time);
    },
  ],
  [
    /^asked by a new patient$/,
    (question) => {
      question.criteria = { ...question.criteria, kind: 'new' };
    },
  ],
  [
    /^paid by the payer$/,
    (question) => {
      question.criteria = { ...question.criteria, payerId: 'payer' };
    },
  ],
  [
    /^with a referral$/,
    (question) => {
      question.criteria = { ...question.criteria, hasReferral: true };
    },
  ],
  [
    /^with an authorization$/,
    (question) => {
      question.criteria = { ...question.criteria, hasAuthorization: true };
    },
  ],
  [
    /^asked with an invitation to (.+)$/,
    (question, what) => {
      question.criteria = { ...question.criteria, channel: 'invited', ...invitedTo(what) };
    },
  ],
  [
    /^asked with an invitation(?: for (\S+) and later)?$/,
    (question, day) => {
      question.criteria = { ...question.criteria, channel: 'invited', notBefore: day ? DAYS[day] : undefined };
    },
  ],
];

function matching<T>(table: readonly (readonly [RegExp, T])[], text: string): [T, string[]] {
  for (const [pattern, value] of table) {
    const found = pattern.exec(text);
    if (found) return [value, found.slice(1)];
  }
  throw new Error(`The handbook says something that its examples can't say: "${text}"`);
}

function given(text: string): ClinicSnapshot {
  let clinic = smallClinic();
  for (const sentence of text.split('; ')) {
    const [change, found] = matching(GIVEN, sentence);
    clinic = { ...clinic, ...change(clinic, ...found) };
  }
  return clinic;
}

/**
 * Reads the handbook's examples: the fenced blocks marked `example` under each rule's heading.
 *
 * @param handbook Markdown
 * @throws Error on a sentence that is not among those known, so that a misspelled one is not passed over
 */
export function readExamples(handbook: string): Example[] {
  const examples: Example[] = [];
  for (const [, rule, body] of handbook.matchAll(/^### `([a-z-]+)`[^\n]*\n(.*?)(?=^### |$(?![\s\S]))/gms))
    for (const [, block] of body.matchAll(/^```example\n(.*?)^```/gms)) {
      let clinic = smallClinic();
      let said = '';
      for (const line of block.trim().split('\n')) {
        if (line.startsWith('given ')) {
          said = line.slice('given '.length);
          clinic = given(said);
          continue;
        }
        const [asked, answer] = line.split('→').map((part) => part.trim());
        const question: Question = {
          minute: 540,
          now: at(720, DAYS.Tuesday),
          criteria: { visitTypeId: 'visit', kind: 'established', channel: 'online', patientId: 'me' },
        };
        for (const clause of asked ? asked.split(', ') : []) {
          const [ask, found] = matching(ASKED, clause);
          ask(question, ...found);
        }
        examples.push({
          rule,
          text: [said, asked].filter(Boolean).join('; ') || 'as it is',
          clinic,
          criteria: question.criteria,
          start: at(question.minute),
          now: question.now,
          answer,
        });
      }
    }
  return examples;
}

import type { InvitationTemplateDoc } from '@zaguan/contracts/invitations';
import { fillWords, textOf } from '@zaguan/core/invitations';
import { addDays, epochToWall } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf, makeRandom } from '../random.ts';
import { insertRows, type Row } from '../rows.ts';
import { TYPE } from './visitTypeData.ts';

const SEED = 20_261_202;
/** Those who were invited and have not booked, for each plan. */
const UNANSWERED = 70;
const DAYS_BACK = 60;
const DAY_MS = 86_400_000;

type Limits = Partial<Pick<InvitationTemplateDoc, 'hours' | 'deskTimesToo' | 'uses' | 'livesDays'>>;

/** Words of a template, about one thing. */
const wordsOf = (en: string, es: string): InvitationTemplateDoc['words'] => ({
  en: {
    text: `{clinic}: {name}, it is time for ${en}. Pick a time: {link}`,
    subject: `{clinic}: time for ${en}`,
    mail: `Dear {name},\n\nit is time for ${en}. Pick a time that suits you:\n{link}\n\nOr call us at {phone}.\n\n{clinic}`,
  },
  es: {
    text: `{clinic}: {name}, ya le toca ${es}. Elija la hora: {link}`,
    subject: `{clinic}: ya le toca ${es}`,
    mail: `Hola {name}:\n\nYa le toca ${es}. Elija la hora que le convenga:\n{link}\n\nO llámenos al {phone}.\n\n{clinic}`,
  },
});

const TEMPLATES: readonly ({
  name: string;
  typeIds: string[];
  reason: string;
  words: InvitationTemplateDoc['words'];
} & Limits)[] = [
  {
    name: 'Asthma review',
    typeIds: [TYPE.asthma],
    reason: 'Asthma review',
    // What the visit is for is for the page behind the date of birth; the message says only that it is due.
    words: wordsOf('your next visit', 'su cita'),
  },
  {
    name: 'Breathing test, mornings',
    typeIds: [TYPE.spirometry],
    reason: 'Yearly breathing test',
    deskTimesToo: true,
    hours: [{ weekdays: [1, 2, 3, 4, 5], fromMinute: 480, toMinute: 720 }],
    words: wordsOf('your yearly visit', 'su cita anual'),
  },
  {
    name: 'Injection, desk times too',
    typeIds: [TYPE.injection],
    reason: 'Allergy injection',
    ...{ deskTimesToo: true, livesDays: 14 },
    words: wordsOf('your next visit', 'su cita'),
  },
  {
    name: 'Follow-up',
    typeIds: [TYPE.follow],
    reason: '',
    words: wordsOf('a follow-up visit', 'una cita de control'),
  },
];

const templateId = (name: string) => idOf(`invitation template ${name}`);

/** Plans from which people were invited, and by which template. */
const INVITED = [
  { plan: 'Asthma review', template: TEMPLATES[0] },
  { plan: 'Spirometry', template: TEMPLATES[1] },
] as const;

interface Person {
  patient_id: string;
  given_name: string;
  language: 'en' | 'es';
  contact_point_id: string;
  contact: string;
  kind: 'phone' | 'email';
  clinic: string;
  phone: string;
  /** The visit that was booked with it, and when. */
  appointment_id: string | null;
  booked_at: Date | null;
}

const PERSON = `p.id as patient_id, p.given_name, p.language, pc.contact_point_id, cp.value as contact, cp.kind, c.name as clinic, c.phone`;
const REACHED = `join patient p on p.id = a.patient_id and p.status in ('new','active') cross join clinic c join patient_contact pc on pc.patient_id = p.id and pc.rank = 1
     join contact_point cp on cp.id = pc.contact_point_id and not opted_out(cp.id, true)`;

/** Templates, and invitations of the last two months with what became of each. */
export async function loadInvitations(orm: Orm, now: Date, zone: string): Promise<void> {
  const db = orm.em.getConnection();
  await insertRows(
    orm,
    'invitation_template',
    TEMPLATES.map(({ name, reason, words, ...limits }, at) => ({
      id: templateId(name),
      ...{ name, reason, words },
      rules: {
        ...{ siteIds: null, providerIds: null, hours: null, fromDate: null, untilDate: null },
        ...{ deskTimesToo: false, uses: 1, livesDays: 30, ...limits },
      },
      ...{ sort_order: at, active: true },
    })),
  );
  const random = makeRandom(SEED);
  const rows = new InvitationRows(now, zone);
  for (const { plan, template } of INVITED) {
    const planId = idOf(`recall plan ${plan}`);
    // Visits that came of an invitation.
    const booked = (await db.execute(
      `select ${PERSON}, a.id as appointment_id, a.created_at as booked_at from appointment a ${REACHED}
       where a.origin = 'invitation' and a.visit_type_id = ? and a.status not in ('cancelled','entered-in-error') and a.created_at between ? and ? order by a.id`,
      [template.typeIds[0], new Date(now.getTime() - DAYS_BACK * DAY_MS), now],
    )) as Person[];
    const seen = new Set<string>();
    for (const person of booked) {
      if (seen.has(person.patient_id) || !person.booked_at) continue;
      seen.add(person.patient_id);
      const sent = new Date(new Date(person.booked_at).getTime() - random.int(2, 120) * 3_600_000);
      rows.add(person, { planId, template, sent, outcome: 'booked' });
    }
    const rest = (await db.execute(
      `select distinct on (md5(p.id::text)) ${PERSON}, null as appointment_id, null as booked_at from appointment a ${REACHED}
       where a.status = 'fulfilled' and a.visit_type_id = ? order by md5(p.id::text) limit ?`,
      [template.typeIds[0], UNANSWERED * 2],
    )) as Person[];
    for (const person of rest.filter(({ patient_id }) => !seen.has(patient_id)).slice(0, UNANSWERED)) {
      const sent = new Date(now.getTime() - random.int(2, DAYS_BACK) * DAY_MS - random.int(0, 5) * 3_600_000);
      rows.add(person, { planId, template, sent, outcome: random.pick(OUTCOMES) });
    }
  }
  await rows.write(orm);
}

const OUTCOMES = ['none', 'none', 'none', 'opened', 'opened', 'looked', 'declined', 'later', 'failed'] as const;

interface Sent {
  readonly planId: string;
  readonly template: (typeof TEMPLATES)[number];
  readonly sent: Date;
  readonly outcome: (typeof OUTCOMES)[number] | 'booked';
}

/** The rows of many invitations, written in bulk. */
class InvitationRows {
  private readonly invitations: Row[] = [];
  private readonly events: Row[] = [];
  private readonly messages: Row[] = [];
  private readonly choices: Row[] = [];

  constructor(
    private readonly now: Date,
    private readonly zone: string,
  ) {}

  add(person: Person, { planId, template, sent, outcome }: Sent): void {
    const id = idOf(`invitation ${planId} ${person.patient_id}`);
    const invitedOn = epochToWall(this.zone, Math.floor(sent.getTime() / 60_000)).date;
    const until = addDays(invitedOn, template.livesDays ?? 30);
    const expires = new Date(Date.parse(`${addDays(until, 1)}T06:00:00Z`));
    const at = (hours: number) =>
      new Date(Math.min(this.now.getTime(), sent.getTime() + hours * 3_600_000)).toISOString();
    const bookedAt = person.booked_at ? new Date(person.booked_at).toISOString() : at(3);
    const endedAs =
      outcome === 'booked'
        ? 'used'
        : outcome === 'declined' || outcome === 'later'
          ? outcome
          : expires <= this.now
            ? 'expired'
            : null;
    this.invitations.push({
      ...{ id, template_id: templateId(template.name), patient_id: person.patient_id, plan_id: planId },
      ...{ uses_left: outcome === 'booked' ? 0 : 1, invited_on: invitedOn, until_date: until },
      ...{ expires_at: expires.toISOString(), ended_as: endedAs },
      ended_at:
        endedAs === null ? null : endedAs === 'expired' ? expires.toISOString() : endedAs === 'used' ? bookedAt : at(4),
      ...{ created_at: sent.toISOString(), version: 1 },
    });
    if (outcome === 'declined' || outcome === 'later')
      this.choices.push({
        ...{ id: idOf(`choice of ${id}`), plan_id: planId, patient_id: person.patient_id, kind: outcome },
        date:
          outcome === 'later'
            ? addDays(epochToWall(this.zone, Math.floor(this.now.getTime() / 60_000)).date, 30)
            : null,
        ...{ note: '', said_on: invitedOn, said_by: 'patient', at: at(4), version: 1 },
      });
    const happened: [kind: string, when: string, appointmentId?: string | null][] = [['planned', sent.toISOString()]];
    if (outcome !== 'none' && outcome !== 'failed') happened.push(['opened', outcome === 'booked' ? bookedAt : at(2)]);
    if (outcome === 'looked' || outcome === 'booked')
      happened.push(['looked', outcome === 'booked' ? bookedAt : at(2)]);
    if (outcome === 'declined' || outcome === 'later') happened.push([outcome, at(4)]);
    if (outcome === 'booked') happened.push(['booked', bookedAt, person.appointment_id]);
    for (const [kind, when, appointmentId = null] of happened)
      this.events.push({ invitation_id: id, kind, at: when, appointment_id: appointmentId });
    this.messages.push(this.messageOf(person, template, { id, sent, expires, failed: outcome === 'failed' }));
  }

  private messageOf(
    { language, given_name, contact, contact_point_id, kind, clinic, phone }: Person,
    { words }: Sent['template'],
    { id, sent, expires, failed }: { id: string; sent: Date; expires: Date; failed: boolean },
  ): Row {
    const facts = { clinic, phone, name: given_name };
    const isText = kind === 'phone';
    const body = isText
      ? textOf(fillWords(words[language].text, facts), language)
      : fillWords(words[language].mail, facts);
    const settled = new Date(sent.getTime() + 8000).toISOString();
    return {
      ...{ id: idOf(`message of ${id}`), invitation_id: id, contact_point_id, channel: isText ? 'sms' : 'email' },
      ...{ kind: 'invitation', language, subject: fillWords(words[language].subject, facts), body, address: contact },
      ...{ send_at: sent.toISOString(), not_after: expires.toISOString(), status: failed ? 'failed' : 'delivered' },
      ...{ fail_reason: failed ? (isText ? 'number-unreachable' : 'bounced') : null, attempts: 1 },
      ...{ next_attempt_at: sent.toISOString(), sent_at: failed ? null : settled, settled_at: settled },
      ...{ receipt_at: failed ? null : settled, created_at: sent.toISOString() },
      // What is older was dealt with; what is left is for today.
      handled_at: failed && this.now.getTime() - sent.getTime() > 5 * DAY_MS ? settled : null,
    };
  }

  async write(orm: Orm): Promise<void> {
    await insertRows(orm, 'recall_choice', this.choices);
    await insertRows(orm, 'invitation', this.invitations);
    await insertRows(
      orm,
      'invitation_event',
      this.events,
      'invitation_id uuid, kind text, at timestamptz, appointment_id uuid',
    );
    await insertRows(orm, 'message', this.messages, MESSAGE);
  }
}

const MESSAGE =
  'id uuid, invitation_id uuid, contact_point_id uuid, channel text, kind text, language text, subject text, body text, address text, send_at timestamptz, not_after timestamptz, status text, fail_reason text, attempts integer, next_attempt_at timestamptz, sent_at timestamptz, settled_at timestamptz, receipt_at timestamptz, created_at timestamptz, handled_at timestamptz';

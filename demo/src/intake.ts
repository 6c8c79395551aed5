import { createHash } from 'node:crypto';
import { type FormItem, flatten, type Words } from '@zaguan/core/intake';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { consentToPdf } from '@zaguan/server/exchange/consentPdf';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { insertRows } from './rows.ts';
import { idOf, type Random } from './random.ts';

interface Coming {
  id: string;
  status: string;
  visit_type_id: string;
  patient_kind: string;
  patient_id: string;
  given_name: string;
  family_name: string;
  birth_date: string;
  starts_at: string;
  site: string;
  time_zone: string;
}

/** A form and which visits ask for it; `null`: any. */
export interface DemoForm {
  readonly id: string;
  readonly code: string;
  /** As the staff call it. */
  readonly staffName: string;
  readonly title: Words;
  readonly items: readonly FormItem[];
  readonly typeIds: readonly string[] | null;
  readonly kinds: readonly string[] | null;
  /** The answers of the i-th who filled it in; `flagged` reports what a red flag is for, if the form has one. */
  answers(i: number, flagged: boolean): Record<string, string | number | boolean>;
  readonly redFlagLink: string | null;
}

export interface DemoConsent {
  readonly id: string;
  readonly code: string;
  /** As the staff call it. */
  readonly staffName: string;
  readonly title: Words;
  readonly body: Words;
  readonly validMonths: number;
  readonly typeIds: readonly string[] | null;
  readonly kinds: readonly string[] | null;
}

export interface PacketDocuments {
  readonly forms: readonly DemoForm[];
  readonly consents: readonly DemoConsent[];
  /** About so many of the visits of today and tomorrow have each paper done. */
  readonly doneShare: number;
}

/** Forms and consents with their rules; most of today's and tomorrow's papers done, one red flag tomorrow. */
export async function loadIntake(
  orm: Orm,
  today: LocalDate,
  now: Date,
  random: Random,
  { forms, consents, doneShare }: PacketDocuments,
): Promise<readonly Coming[]> {
  const created_at = new Date(now.getTime() - 300 * 86_400_000).toISOString();
  await insertRows(
    orm,
    'intake_form',
    forms.map(({ id, code, staffName, title, items }) => ({
      id,
      code,
      version: 1,
      title_en: title.en,
      title_es: title.es,
      staff_name: staffName,
      items,
      created_at,
    })),
  );
  await insertRows(
    orm,
    'consent_form',
    consents.map(({ id, code, staffName, title, body, validMonths }) => ({
      id,
      code,
      version: 1,
      title_en: title.en,
      title_es: title.es,
      staff_name: staffName,
      body_en: body.en,
      body_es: body.es,
      valid_months: validMonths,
      created_at,
    })),
  );
  await insertRows(
    orm,
    'packet_rule',
    [...forms.map((form) => ({ form, consent: null })), ...consents.map((consent) => ({ form: null, consent }))].map(
      ({ form, consent }, i) => ({
        id: idOf(`rule ${(form ?? consent)?.code}`),
        form_id: form?.id ?? null,
        consent_id: consent?.id ?? null,
        visit_type_ids: (form ?? consent)?.typeIds ?? null,
        kinds: (form ?? consent)?.kinds ?? null,
        position: i + 1,
      }),
    ),
  );
  const upcoming = await orm.em.getConnection().execute<Coming[]>(
    `select a.id, a.status, a.visit_type_id, a.patient_kind, a.patient_id, p.given_name, p.family_name, p.birth_date::text, a.starts_at, s.public_name as site, s.time_zone
     from appointment a join patient p on p.id = a.patient_id join site s on s.id = a.site_id
     where a.site_date between ? and ? and a.status not in ('noshow','cancelled') order by a.starts_at, a.id`,
    [today, addDays(today, 1)],
  );
  await loadAnswers(orm, upcoming, now, random, { forms, doneShare });
  await loadSignatures(orm, upcoming, now, random, { consents, doneShare });
  return upcoming;
}

function asks(paper: Pick<DemoForm, 'typeIds' | 'kinds'>, visit: Coming): boolean {
  return (
    (paper.typeIds === null || paper.typeIds.includes(visit.visit_type_id)) &&
    (paper.kinds === null || paper.kinds.includes(visit.patient_kind))
  );
}

const inside = (status: string) => status === 'checked-in' || status === 'fulfilled';
const before = (now: Date, hours: number) => new Date(now.getTime() - hours * 3_600_000).toISOString();

async function loadAnswers(
  orm: Orm,
  upcoming: readonly Coming[],
  now: Date,
  random: Random,
  { forms, doneShare }: Pick<PacketDocuments, 'forms' | 'doneShare'>,
): Promise<void> {
  const filled = upcoming.flatMap((visit) =>
    forms
      .filter((form) => asks(form, visit))
      .filter(() => inside(visit.status) || random.chance(doneShare))
      .map((form) => ({ visit, form })),
  );
  // The last one booked of tomorrow reports trouble: the day's red flag.
  const flagged = filled.filter(({ visit, form }) => visit.status === 'booked' && form.redFlagLink).at(-1);
  const responseId = (each: (typeof filled)[number]) => idOf(`response ${each.visit.id} ${each.form.code}`);
  await insertRows(
    orm,
    'form_response',
    filled.map((each, i) => ({
      id: responseId(each),
      appointment_id: each.visit.id,
      form_id: each.form.id,
      answers: Object.fromEntries(
        Object.entries(each.form.answers(i, each === flagged)).map(([link, value]) => [
          link,
          { value: [value], rev: 1 },
        ]),
      ),
      rev: 1,
      status: 'completed',
      language: 'en',
      started_at: before(now, 30 - (i % 20)),
      saved_at: before(now, 29.8 - (i % 20)),
      completed_at: before(now, 29.8 - (i % 20)),
    })),
  );
  if (flagged)
    await insertRows(orm, 'red_flag', [
      {
        id: idOf('red flag'),
        appointment_id: flagged.visit.id,
        form_response_id: responseId(flagged),
        link_id: flagged.form.redFlagLink,
        severity: 'urgent',
        answer: true,
        advice: flatten(flagged.form.items).find(({ item }) => item.linkId === flagged.form.redFlagLink)?.item.redFlag
          ?.advice,
        raised_at: new Date(now.getTime() - 6 * 60_000).toISOString(),
      },
    ]);
}

async function loadSignatures(
  orm: Orm,
  upcoming: readonly Coming[],
  now: Date,
  random: Random,
  { consents, doneShare }: Pick<PacketDocuments, 'consents' | 'doneShare'>,
): Promise<void> {
  const rows = [];
  const asked = upcoming.flatMap((visit) =>
    consents.filter((consent) => asks(consent, visit)).map((consent) => ({ visit, consent })),
  );
  for (const { visit, consent } of asked) {
    if (!inside(visit.status) && !random.chance(doneShare)) continue;
    const signedAt = new Date(now.getTime() - random.int(26, 60) * 3_600_000);
    const minor = Date.parse(visit.starts_at) - Date.parse(visit.birth_date) < 18 * 366 * 86_400_000;
    const signer = minor ? 'parent' : 'self';
    const signerName = minor ? `Ana ${visit.family_name}` : `${visit.given_name} ${visit.family_name}`;
    const id = idOf(`signed ${visit.id} ${consent.code}`);
    const pdf = await consentToPdf({
      id,
      clinic: 'Brindlewood Allergy & Asthma',
      site: visit.site,
      timeZone: visit.time_zone,
      language: 'en',
      title: consent.title.en,
      body: consent.body.en,
      patient: `${visit.given_name} ${visit.family_name}`,
      birthDate: visit.birth_date,
      signer,
      signerName,
      strokes: null,
      signedAt,
    });
    rows.push({
      id,
      appointment_id: visit.id,
      consent_id: consent.id,
      signer,
      signer_name: signerName,
      language: 'en',
      signature: { kind: 'typed' },
      signed_at: signedAt.toISOString(),
      pdf: `\\x${pdf.toString('hex')}`,
      pdf_sha256: `\\x${createHash('sha256').update(pdf).digest('hex')}`,
    });
  }
  await insertRows(orm, 'signed_consent', rows);
}

/** Who is inside or done was checked in. */
export async function loadEncounters(orm: Orm, upcoming: readonly Coming[]): Promise<void> {
  await insertRows(
    orm,
    'encounter',
    upcoming
      .filter(({ status }) => inside(status))
      .map((visit) => ({
        id: idOf(`encounter ${visit.id}`),
        appointment_id: visit.id,
        patient_id: visit.patient_id,
        status: visit.status === 'fulfilled' ? 'finished' : 'arrived',
        identifiers: ['name', 'birth-date'],
        started_at: visit.starts_at,
        ended_at: visit.status === 'fulfilled' ? visit.starts_at : null,
        account_id: idOf('account front-desk'),
      })),
  );
}

import { createHash } from 'node:crypto';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { consentToPdf } from '@zaguan/server/exchange/consentPdf';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { insertRows } from './clinicRows.ts';
import { BEFORE_THE_VISIT, CONSENT_ID, FORM_ID, PRIVACY } from './forms.ts';
import { idOf, type Random } from './random.ts';

/** About so many of the visits of today and tomorrow have each paper done. */
const DONE_SHARE = 0.84;

interface Coming {
  id: string;
  status: string;
  patient_id: string;
  given_name: string;
  family_name: string;
  birth_date: string;
  starts_at: string;
  site: string;
  time_zone: string;
}

/** One form and one consent for every visit; most of today's and tomorrow's papers done, one red flag tomorrow. */
export async function loadIntake(orm: Orm, today: LocalDate, now: Date, random: Random): Promise<void> {
  const created_at = new Date(now.getTime() - 300 * 86_400_000).toISOString();
  await insertRows(orm, 'intake_form', [
    {
      id: FORM_ID,
      code: 'before-the-visit',
      version: 1,
      title_en: 'Before your visit',
      title_es: 'Antes de su cita',
      items: BEFORE_THE_VISIT,
      created_at,
    },
  ]);
  await insertRows(orm, 'consent_form', [
    {
      id: CONSENT_ID,
      code: 'privacy',
      version: 1,
      title_en: PRIVACY.title.en,
      title_es: PRIVACY.title.es,
      body_en: PRIVACY.body.en,
      body_es: PRIVACY.body.es,
      valid_months: 12,
      created_at,
    },
  ]);
  await insertRows(orm, 'packet_rule', [
    { id: idOf('rule form'), form_id: FORM_ID, consent_id: null, visit_type_ids: null, kinds: null, position: 1 },
    { id: idOf('rule consent'), form_id: null, consent_id: CONSENT_ID, visit_type_ids: null, kinds: null, position: 2 },
  ]);
  const coming = await orm.em.getConnection().execute<Coming[]>(
    `select a.id, a.status, a.patient_id, p.given_name, p.family_name, p.birth_date::text, a.starts_at, s.public_name as site, s.time_zone
     from appointment a join patient p on p.id = a.patient_id join site s on s.id = a.site_id where a.site_date between ? and ? and a.status <> 'noshow' order by a.starts_at, a.id`,
    [today, addDays(today, 1)],
  );
  await loadAnswers(orm, coming, now, random);
  await loadSignatures(orm, coming, now, random);
  await loadEncounters(orm, coming);
}

const inside = (status: string) => status === 'checked-in' || status === 'fulfilled';
const before = (now: Date, hours: number) => new Date(now.getTime() - hours * 3_600_000).toISOString();

async function loadAnswers(orm: Orm, coming: readonly Coming[], now: Date, random: Random): Promise<void> {
  const filled = coming.filter(({ status }) => inside(status) || random.chance(DONE_SHARE));
  // The last one booked of tomorrow reports trouble: the day's red flag.
  const flagged = filled.filter(({ status }) => status === 'booked').at(-1);
  const answer = (value: string | number | boolean) => ({ value: [value], rev: 1 });
  await insertRows(
    orm,
    'form_response',
    filled.map((visit, i) => ({
      id: idOf(`response ${visit.id}`),
      appointment_id: visit.id,
      form_id: FORM_ID,
      answers: {
        breathing: answer(false),
        reaction: answer(i % 9 === 0),
        ...(i % 9 === 0 && { 'reaction-what': answer('The arm was swollen until the evening.') }),
        'beta-blocker': answer(visit === flagged),
        antihistamine: answer(false),
        'emergency-name': answer('Lou Fen'),
        'emergency-phone': answer('(312) 555-0177'),
      },
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
        appointment_id: flagged.id,
        form_response_id: idOf(`response ${flagged.id}`),
        link_id: 'beta-blocker',
        raised_at: new Date(now.getTime() - 6 * 60_000).toISOString(),
      },
    ]);
}

async function loadSignatures(orm: Orm, coming: readonly Coming[], now: Date, random: Random): Promise<void> {
  const rows = [];
  for (const visit of coming) {
    if (!inside(visit.status) && !random.chance(DONE_SHARE)) continue;
    const signedAt = new Date(now.getTime() - random.int(26, 60) * 3_600_000);
    const minor = Date.parse(visit.starts_at) - Date.parse(visit.birth_date) < 18 * 366 * 86_400_000;
    const signer = minor ? 'parent' : 'self';
    const signerName = minor ? `Ana ${visit.family_name}` : `${visit.given_name} ${visit.family_name}`;
    const id = idOf(`signed ${visit.id}`);
    const pdf = await consentToPdf({
      id,
      clinic: 'Brindlewood Allergy & Asthma',
      site: visit.site,
      timeZone: visit.time_zone,
      language: 'en',
      title: PRIVACY.title.en,
      body: PRIVACY.body.en,
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
      consent_id: CONSENT_ID,
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

async function loadEncounters(orm: Orm, coming: readonly Coming[]): Promise<void> {
  await insertRows(
    orm,
    'encounter',
    coming
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

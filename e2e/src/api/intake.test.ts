import { createHash } from 'node:crypto';
import { setStatus } from '@zaguan/contracts/booking';
import { daybookDay, unfoldDay } from '@zaguan/contracts/daybook';
import * as intake from '@zaguan/contracts/intake';
import { cancelByLink, confirmByLink } from '@zaguan/contracts/patientVisit';
import { patientRecord } from '@zaguan/contracts/patients';
import { claimWork, todaysWork } from '@zaguan/contracts/today';
import { undo } from '@zaguan/contracts/undo';
import { createPerson, linkPerson, listIdentityReview } from '@zaguan/contracts/identityReview';
import { PDFDocument } from 'pdf-lib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CONSENT_ID, FORM_ID } from '../../../demo/src/forms.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { linkOn } from '../fixtures/link.ts';
import { bookedVisit, MARTA } from '../fixtures/patient.ts';
import { startServer } from '../fixtures/server.ts';
import { makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

const { birthDate } = MARTA;
const WHO = { birthDate, language: 'en' as const };
const SELF = {
  ...WHO,
  agreed: true,
  signer: 'self' as const,
  signerName: 'Marta Ruiz',
  signature: { kind: 'typed' as const },
};
const ANSWERS = {
  breathing: false,
  reaction: false,
  'beta-blocker': false,
  antihistamine: false,
  'emergency-name': 'Luz Ruiz',
  'emergency-phone': '312 555 0143',
};
const changes = (answers: Record<string, string | boolean>, base = 0) =>
  Object.entries(answers).map(([linkId, value]) => ({ linkId, value: [value], base }));

describe('intake', () => {
  let world: World;
  let base: string;
  let desk: Client;
  let doctor: Client;
  let nth = 0;
  beforeAll(async () => {
    world = await makeWorld('intake');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
    doctor = await signedIn(base, 'provider');
  });
  afterAll(() => world.close());

  const nobody = () => new Client(base);
  const book = async (more: Partial<typeof MARTA> = {}) => {
    const n = nth++;
    const person = { ...MARTA, contact: `+1720555${String(120 + n).padStart(4, '0')}`, ...more };
    const { id } = await bookedVisit(base, n % 5, person);
    return { id, token: await linkOn(world, id) };
  };
  const save = (token: string, body: { changes: ReturnType<typeof changes>; complete?: boolean }, client = nobody()) =>
    client.call(intake.saveFormByLink, { token, formId: FORM_ID, complete: false, ...WHO, ...body });
  const readiness = async (id: string) => dataOf(await desk.call(intake.readiness, { id })).readiness;
  const known = async (id: string) => {
    const { waiting } = dataOf(await desk.call(listIdentityReview, {}));
    const row = waiting.find(({ appointmentId }) => appointmentId === id);
    dataOf(await desk.call(createPerson, { id, version: row?.version ?? 0 }));
  };

  it('shows the packet only with the date of birth, and fills nothing in for someone who is not known', async () => {
    const { token } = await book();
    expect(refusalOf(await nobody().call(intake.openPacket, { token, ...WHO, birthDate: '1987-03-05' })).tag).toBe(
      'WrongBirthDate',
    );
    const { packet } = dataOf(await nobody().call(intake.openPacket, { token, ...WHO }));
    expect(packet.documents.map(({ kind }) => kind)).toEqual(['form', 'consent']);
    expect(packet.documents[0]).toMatchObject({ answers: {}, prefill: {}, status: 'in-progress' });
  });

  it('fills in from the record once the person is sure, and keeps nothing of it before it is handed in', async () => {
    const { id, token } = await book();
    await known(id);
    const { packet } = dataOf(await nobody().call(intake.openPacket, { token, ...WHO }));
    expect(packet.documents[0]).toMatchObject({ answers: {}, prefill: { 'preferred-name': 'Marta' } });
  });

  it('saves as typed, goes on elsewhere, and is complete only when nothing is missing', async () => {
    const { id, token } = await book();
    const first = dataOf(await save(token, { changes: changes({ breathing: false, reaction: true }) }));
    expect(first).toMatchObject({ status: 'in-progress', answers: { reaction: { value: [true], rev: 1 } } });
    const early = dataOf(await save(token, { changes: [], complete: true }));
    expect(early.status).toBe('in-progress');
    expect(early.faults.map(({ linkId }) => linkId)).toEqual([
      'reaction-what',
      'beta-blocker',
      'antihistamine',
      'emergency-name',
      'emergency-phone',
    ]);
    // Another device opens the same link, with what was answered so far.
    const { packet } = dataOf(await nobody().call(intake.openPacket, { token, ...WHO }));
    expect(packet.documents[0]).toMatchObject({ answers: { reaction: { value: [true], rev: 1 } } });
    const { breathing: _, reaction: __, ...rest } = ANSWERS;
    const done = dataOf(
      await save(token, { changes: changes({ ...rest, 'reaction-what': 'A rash' }), complete: true }),
    );
    expect([done.status, done.faults]).toEqual(['completed', []]);
    expect((await readiness(id)).items.find(({ code }) => code === 'form')?.state).toBe('done');
  });

  it('joins two devices answer by answer, and names what both changed', async () => {
    const { token } = await book();
    await save(token, { changes: changes({ 'emergency-name': 'Luz' }) });
    const [one, two] = await Promise.all([
      save(token, { changes: changes({ 'emergency-name': 'Luz Ruiz' }, 1) }),
      save(token, {
        changes: [...changes({ 'emergency-phone': '312 555 0143' }), ...changes({ 'emergency-name': 'Lou' }, 1)],
      }),
    ]);
    const both = [dataOf(one), dataOf(two)];
    const conflicts = both.flatMap((each) => each.conflicts);
    expect(conflicts).toHaveLength(1);
    const { packet } = dataOf(await nobody().call(intake.openPacket, { token, ...WHO }));
    const form = packet.documents[0] as intake.FormDocument;
    expect(form.answers['emergency-phone'].value).toEqual(['312 555 0143']);
    // Neither name is lost: one stands, the other is handed back.
    expect([...form.answers['emergency-name'].value, ...conflicts[0].mine].sort()).toEqual(['Lou', 'Luz Ruiz']);
  });

  it('refuses an answer of the wrong kind whole, and keeps what stood', async () => {
    const { token } = await book();
    await save(token, { changes: changes({ 'emergency-name': 'Luz' }) });
    const refused = refusalOf(
      await save(token, { changes: [...changes({ 'emergency-phone': '1' }), ...changes({ breathing: 'maybe' })] }),
    );
    expect(refused).toMatchObject({ tag: 'InvalidInput', issues: [{ path: 'breathing', code: 'wrong-kind' }] });
    expect(JSON.stringify(refused)).not.toContain('maybe');
    const { packet } = dataOf(await nobody().call(intake.openPacket, { token, ...WHO }));
    expect(packet.documents[0]).toMatchObject({ answers: { 'emergency-name': { value: ['Luz'] } } });
    expect(
      refusalOf(
        await nobody().call(intake.saveFormByLink, { token, formId: CONSENT_ID, ...WHO, changes: [], complete: false }),
      ).tag,
    ).toBe('NotAsked');
  });

  it('keeps every saving that was answered, though the server is killed in between', async () => {
    const { token } = await book();
    const second = await startServer(world.url, { ZAGUAN_LIMIT_WRITES: '100000' });
    const client = new Client(second.url);
    let answered = 0;
    const typing = (async () => {
      for (let i = 0; i < 400; i++) {
        const answer = await client
          .call(intake.saveFormByLink, {
            token,
            formId: FORM_ID,
            complete: false,
            ...WHO,
            changes: changes({ 'emergency-name': `Luz ${i}` }, i),
          })
          .catch(() => null);
        if (!answer?.data) return;
        answered = i;
        if (i === 8) setTimeout(() => second.process.kill('SIGKILL'), 5);
      }
    })();
    await typing;
    const { packet } = dataOf(await nobody().call(intake.openPacket, { token, ...WHO }));
    const kept = (packet.documents[0] as intake.FormDocument).answers['emergency-name'].value[0];
    expect(answered).toBeGreaterThan(3);
    // The one under way may or may not stand; none that was answered is gone.
    expect([`Luz ${answered}`, `Luz ${answered + 1}`]).toContain(kept);
  });

  it('keeps a signed consent as a PDF with its hash, for ever', async () => {
    const { id, token } = await book();
    const incomplete = await nobody().call(intake.signByLink, {
      token,
      consentId: CONSENT_ID,
      ...SELF,
      agreed: false,
      signerName: ' ',
    });
    expect(refusalOf(incomplete)).toMatchObject({ tag: 'ConsentIncomplete', codes: ['not-agreed', 'name-empty'] });
    const strokes = [Array.from({ length: 20 }, (_, i): [number, number] => [i * 20, 100 + ((i * 37) % 60)])];
    const empty = await nobody().call(intake.signByLink, {
      token,
      consentId: CONSENT_ID,
      ...SELF,
      signature: { kind: 'drawn', strokes: [] },
    });
    expect(refusalOf(empty).codes).toEqual(['signature-empty']);
    const drawn = {
      token,
      consentId: CONSENT_ID,
      ...SELF,
      signerName: 'Marta Łucja 王 Ruiz',
      signature: { kind: 'drawn' as const, strokes },
    };
    expect(dataOf(await nobody().call(intake.signByLink, drawn)).signed.signerName).toBe('Marta Łucja 王 Ruiz');
    expect(refusalOf(await nobody().call(intake.signByLink, drawn)).tag).toBe('SignedAlready');
    const { rows } = await world.sql.query<{
      id: string;
      pdf: Buffer;
      pdf_sha256: Buffer;
      signer: string;
      language: string;
    }>('select id, pdf, pdf_sha256, signer, language from signed_consent where appointment_id = $1', [id]);
    expect(rows).toHaveLength(1);
    expect(createHash('sha256').update(rows[0].pdf).digest('hex')).toBe(rows[0].pdf_sha256.toString('hex'));
    expect((await PDFDocument.load(rows[0].pdf)).getTitle()).toBe('How we use what you tell us');
    expect(rows[0]).toMatchObject({ signer: 'self', language: 'en' });
    await expect(
      world.sql.query("update signed_consent set signer_name = 'x' where id = $1", [rows[0].id]),
    ).rejects.toThrow(/append-only/);
    await expect(world.sql.query("update consent_form set body_en = 'x' where id = $1", [CONSENT_ID])).rejects.toThrow(
      /never changes/,
    );
    const sent = await desk.send('get', '/signed-consents/:id/consent.pdf', { id: rows[0].id });
    expect(sent.headers.get('content-type')).toBe('application/pdf');
    expect(sent.text.startsWith('%PDF-')).toBe(true);
  });

  it('lets no minor sign alone', async () => {
    const { token } = await book({ birthDate: '2015-05-05' });
    const minor = { ...SELF, birthDate: '2015-05-05', token, consentId: CONSENT_ID };
    expect(refusalOf(await nobody().call(intake.signByLink, minor)).codes).toEqual(['minor-signs']);
    expect(
      (await nobody().call(intake.signByLink, { ...minor, signer: 'parent', signerName: 'Ana Ruiz' })).status,
    ).toBe(200);
  });

  it('raises a red flag at once, holds check-in, and lets only a clinician clear it', async () => {
    const { id, token } = await book();
    await known(id);
    // The form is not even finished.
    await save(token, { changes: changes({ breathing: true }) });
    const work = dataOf(await desk.call(todaysWork, {})).work;
    const flag = work.find((row) => row.kind === 'red-flag' && row.visit?.appointmentId === id);
    expect(flag).toMatchObject({ question: { en: expect.stringContaining('breathe') }, owner: null });
    expect(Date.parse(flag?.due ?? '') - Date.parse(flag?.since ?? '')).toBeLessThanOrEqual(10 * 60_000);
    const { version } = await readiness(id);
    const two = { id, version, identifiers: ['name' as const, 'birth-date' as const] };
    expect(refusalOf(await desk.call(intake.checkIn, two)).codes).toEqual(['too-early', 'red-flag', 'form', 'consent']);
    // It can't be let through, neither by the page nor past it.
    expect(
      refusalOf(await desk.call(intake.waive, { id, code: 'red-flag', documentId: null, reason: 'Fine' })).tag,
    ).toBe('NotAllowed');
    const account = (await world.sql.query<{ id: string }>("select id from account where role = 'coordinator'")).rows[0]
      .id;
    await expect(
      world.sql.query("insert into readiness_waiver values ($1, 'red-flag', 'x', $2, now())", [id, account]),
    ).rejects.toThrow(/check constraint/);
    expect(refusalOf(await desk.call(intake.clearFlag, { id: flag?.id ?? '', note: 'Fine' })).tag).toBe('NotAllowed');
    // Taking the answer back does not lower the flag by itself.
    await save(token, { changes: changes({ breathing: false }, 1) });
    expect((await readiness(id)).held).toBe(true);
    const cleared = dataOf(await doctor.call(intake.clearFlag, { id: flag?.id ?? '', note: 'Spoke to her; a slip.' }));
    expect((await readiness(id)).held).toBe(false);
    dataOf(await doctor.call(undo, { id: cleared.undo.id }));
    expect((await readiness(id)).held).toBe(true);
    await doctor.call(intake.clearFlag, { id: flag?.id ?? '', note: 'Spoke to her; a slip.' });
    // The same answer again is a new flag; who cleared the first one stays in sight.
    await save(token, { changes: changes({ breathing: true }, 2) });
    const { held, flags } = await readiness(id);
    expect([held, flags.map(({ cleared }) => cleared?.note ?? null)]).toEqual([true, ['Spoke to her; a slip.', null]]);
  });

  it('keeps a red flag in sight when its visit is cancelled, and each clearing with who cleared it', async () => {
    const { id, token } = await book({ contact: '+17205550196' });
    await save(token, { changes: changes({ 'beta-blocker': true }) });
    await save(token, { changes: changes({ breathing: true }) });
    dataOf(await nobody().call(cancelByLink, { token, ...WHO }));
    const flags = async () =>
      dataOf(await doctor.call(todaysWork, {})).work.flatMap((row) =>
        row.kind === 'red-flag' && row.visit?.appointmentId === id ? [row] : [],
      );
    const open = await flags();
    // The emergency comes first although it was answered last.
    expect(open).toMatchObject([
      {
        severity: 'emergency',
        answer: { en: 'Yes' },
        told: { en: expect.stringContaining('911') },
        phone: '+17205550196',
        visitStatus: 'cancelled',
      },
      { severity: 'urgent' },
    ]);
    for (const flag of open)
      dataOf(await doctor.call(intake.clearFlag, { id: flag.id, note: 'Called; sent to the ER.' }));
    expect(await flags()).toEqual([]);
    const { rows } = await world.sql.query<{ id: string; note: string }>(
      'select k.id, k.note from red_flag_clearing k join red_flag f on f.id = k.red_flag_id where f.appointment_id = $1',
      [id],
    );
    expect(rows.map(({ note }) => note)).toEqual(['Called; sent to the ER.', 'Called; sent to the ER.']);
    // Neither a flag nor a clearing can be forgotten or rewritten, by whoever.
    await expect(world.sql.query('delete from red_flag where appointment_id = $1', [id])).rejects.toThrow(
      /never deleted/,
    );
    await expect(world.sql.query('delete from red_flag_clearing where id = $1', [rows[0].id])).rejects.toThrow(
      /never deleted/,
    );
    await expect(
      world.sql.query("update red_flag_clearing set note = 'x' where id = $1", [rows[0].id]),
    ).rejects.toThrow(/never rewritten/);
  });

  it('never asks a known person again for what is still valid', async () => {
    const first = await book({ contact: '+17205550198' });
    await nobody().call(intake.signByLink, { token: first.token, consentId: CONSENT_ID, ...SELF });
    await known(first.id);
    const patientId = (
      await world.sql.query<{ patient_id: string }>('select patient_id from appointment where id = $1', [first.id])
    ).rows[0].patient_id;
    const second = await book({ contact: '+17205550197' });
    const kinds = async () =>
      dataOf(await nobody().call(intake.openPacket, { token: second.token, ...WHO })).packet.documents.map(
        ({ kind }) => kind,
      );
    // As long as nobody knows who it is, no page tells that something was signed before.
    expect(await kinds()).toEqual(['form', 'consent']);
    const { waiting } = dataOf(await desk.call(listIdentityReview, {}));
    const row = waiting.find(({ appointmentId }) => appointmentId === second.id);
    dataOf(await desk.call(linkPerson, { id: second.id, patientId, version: row?.version ?? 0 }));
    expect(await kinds()).toEqual(['form']);
    const { record } = dataOf(await desk.call(patientRecord, { id: patientId }));
    expect(record.consents).toMatchObject([{ signer: 'self', signerName: 'Marta Ruiz', version: 1 }]);
    expect(record.messages.length).toBeGreaterThan(2);
    expect(record.trail.map(({ command }) => command)).toContain('intake.sign');
  });

  it('shows readiness on the plate and on the board, and keeps a desk to its own site', async () => {
    const { id, token } = await book();
    dataOf(await nobody().call(confirmByLink, { token, ...WHO }));
    const { rows } = await world.sql.query<{ date: string }>(
      'select site_date::text as date from appointment where id = $1',
      [id],
    );
    const day = unfoldDay(dataOf(await desk.call(daybookDay, { date: rows[0].date })));
    const plate = day.sites
      .flatMap(({ lanes }) => lanes.flatMap(({ plates }) => plates))
      .find((each) => each.id === id);
    expect(plate?.readiness).toEqual({ done: 2, total: 5, ready: false, held: false });
    const frontDesk = await signedIn(base, 'front-desk');
    const own = dataOf(await frontDesk.call(intake.board, {}));
    expect(own.sites.map(({ name }) => name)).toEqual(['Canal Row']);
    expect(own.sites[0]).toMatchObject({ today: TEST_DAY });
    const all = dataOf(await desk.call(intake.board, {}));
    const mesa = all.sites.find(({ name }) => name === 'Mesa Court')?.visits[0];
    expect(refusalOf(await frontDesk.call(intake.readiness, { id: mesa?.id ?? '' })).tag).toBe('NotAllowed');
    const share = all.sites.flatMap(({ visits }) => visits).filter(({ readiness: { ready } }) => ready).length;
    expect(share / all.sites.flatMap(({ visits }) => visits).length).toBeGreaterThan(0.5);
  });

  it('gives work one owner at a time, and everyone sees who', async () => {
    const manager = await signedIn(base, 'manager');
    const { work } = dataOf(await desk.call(todaysWork, {}));
    const { id } = work.find(({ kind }) => kind === 'identity-review') ?? { id: '' };
    const taken = await Promise.all(
      [desk, manager].map((who) => who.call(claimWork, { kind: 'identity-review', id, take: true })),
    );
    expect(taken.map(({ status }) => status).sort()).toEqual([200, 409]);
    const winner = taken[0].data ? desk : manager;
    const loser = winner === desk ? manager : desk;
    expect(refusalOf(taken[winner === desk ? 1 : 0])).toMatchObject({
      tag: 'TakenBy',
      facts: { by: expect.any(String) },
    });
    // Giving back what is someone else's does nothing.
    await loser.call(claimWork, { kind: 'identity-review', id, take: false });
    const seen = dataOf(await loser.call(todaysWork, {})).work.find((row) => row.id === id);
    expect(seen?.owner).toMatchObject({ mine: false });
    await winner.call(claimWork, { kind: 'identity-review', id, take: false });
    expect((await loser.call(claimWork, { kind: 'identity-review', id, take: true })).status).toBe(200);
    expect(
      refusalOf(await desk.call(claimWork, { kind: 'inbox', id: '00000000-0000-4000-8000-000000000000', take: true }))
        .tag,
    ).toBe('NotFound');
  });

  it('checks in with two identifiers once nothing is missing, makes the encounter, and undoes it', async () => {
    const { id, token } = await book();
    const { rows: when } = await world.sql.query<{ starts_at: Date }>(
      'select starts_at from appointment where id = $1',
      [id],
    );
    await save(token, { changes: changes(ANSWERS), complete: true });
    let { version } = await readiness(id);
    const ask = (identifiers: ('name' | 'birth-date')[]) => desk.call(intake.checkIn, { id, version, identifiers });
    expect(refusalOf(await ask(['name', 'birth-date'])).codes).toEqual(['too-early', 'person', 'consent']);
    const { now } = dataOf(await desk.call(intake.board, {}));
    await passMinutes(world, Math.round((when[0].starts_at.getTime() - Date.parse(now)) / 60_000) - 15);
    expect(refusalOf(await ask(['name', 'birth-date'])).codes).toEqual(['person', 'consent']);
    await known(id);
    ({ version } = await readiness(id));
    const waived = dataOf(
      await desk.call(intake.waive, { id, code: 'consent', documentId: CONSENT_ID, reason: 'Signs on paper' }),
    );
    expect(refusalOf(await ask(['name'])).codes).toEqual(['identifiers']);
    dataOf(await desk.call(undo, { id: waived.undo.id }));
    expect(refusalOf(await ask(['name', 'birth-date'])).codes).toEqual(['consent']);
    expect(
      refusalOf(await desk.call(intake.waive, { id, code: 'consent', documentId: CONSENT_ID, reason: ' ' })).issues?.[0]
        .code,
    ).toBe('reason-empty');
    // Done here instead.
    const { birthDate: _, ...atDesk } = SELF;
    dataOf(await desk.call(intake.signAtDesk, { id, consentId: CONSENT_ID, ...atDesk }));
    const done = dataOf(await ask(['name', 'birth-date']));
    const { rows } = await world.sql.query<{ status: string; identifiers: string[] }>(
      'select status, identifiers from encounter where appointment_id = $1',
      [id],
    );
    expect(rows).toEqual([{ status: 'arrived', identifiers: ['name', 'birth-date'] }]);
    expect(refusalOf(await ask(['name', 'birth-date'])).tag).toBe('ChangedMeanwhile');
    dataOf(await desk.call(undo, { id: done.undo.id }));
    expect((await world.sql.query('select status from encounter where appointment_id = $1', [id])).rows[0].status).toBe(
      'cancelled',
    );
    expect(refusalOf(await desk.call(setStatus, { id, to: 'checked-in', version: version + 2 })).tag).toBe(
      'NeedsCheckIn',
    );
    version += 2;
    dataOf(await ask(['name', 'birth-date']));
    dataOf(await desk.call(setStatus, { id, to: 'fulfilled', version: version + 1 }));
    expect((await world.sql.query('select status from encounter where appointment_id = $1', [id])).rows[0].status).toBe(
      'finished',
    );
  });
});

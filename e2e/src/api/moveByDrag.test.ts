import { moveSnapshot, moveVisit } from '@zaguan/contracts/booking';
import { undo } from '@zaguan/contracts/undo';
import { addDays } from '@zaguan/core/time';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { makeRandom } from '../../../demo/src/random.ts';
import { MoveJudge, placeKey } from '../../../web/src/staff/features/daybook/drag/moveJudge.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

interface Row {
  id: string;
  version: number;
  siteId: string;
  providerId: string | null;
  start: string;
  lengthMin: number;
  patientId: string;
}

const TOMORROW = addDays(TEST_DAY, 1);

describe('moving a visit by dragging it', () => {
  let world: World;
  let base: string;
  let clerk: Client;
  beforeAll(async () => {
    world = await makeWorld('move_by_drag');
    base = world.servers[0].url;
    clerk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const visits = async (where = 'true') =>
    (
      await world.sql.query<Row>(
        `select id, version, site_id as "siteId", provider_id as "providerId", starts_at as start, patient_id as "patientId",
           (extract(epoch from ends_at - starts_at) / 60)::int as "lengthMin"
         from appointment where site_date = $1 and status = 'booked' and patient_id is not null and group_id is null and ${where} order by id`,
        [TOMORROW],
      )
    ).rows.map((row) => ({ ...row, start: new Date(row.start).toISOString() }));
  const read = (id: string, who = clerk, date = TOMORROW) => who.call(moveSnapshot, { id, date } as never);
  const wire = (minute: number) => new Date(minute * 60_000).toISOString();
  const move = (row: Row, to: object, who = clerk) =>
    who.call(moveVisit, {
      id: row.id,
      version: row.version,
      siteId: row.siteId,
      providerId: row.providerId,
      ...to,
    } as never);
  const rowNow = async (id: string) => (await visits(`id = '${id}'`))[0];

  it('lights just those places where the server puts it down, at every site', async () => {
    const random = makeRandom(7);
    const all = await visits('provider_id is not null');
    let done = 0;
    let refused = 0;
    for (let n = 0; n < 24; n++) {
      const row = random.pick(all);
      const basis = dataOf(await read(row.id));
      const judge = new MoveJudge(row.id, basis);
      const fits = judge.fits();
      const places = Object.entries(fits).filter(([, starts]) => starts.length);
      const now = await rowNow(row.id);
      // One place where it fits, and one anywhere.
      const [key, starts] = random.pick(places);
      const [siteId, providerId] = key.split(' ');
      const anywhere = Math.round(Date.parse(now.start) / 300_000) * 5 + 5 * random.int(-60, 60);
      for (const start of [random.pick([...starts]), anywhere]) {
        const to = { siteId, providerId, start };
        const before = await rowNow(row.id);
        const isLit = fits[placeKey(siteId, providerId)]?.includes(start) ?? false;
        const answer = await move(before, { ...to, start: wire(start) });
        const refusedBy = judge.judge({ ...to, lengthMin: null })?.refused.map(({ code }) => code);
        if (answer.data) {
          done++;
          expect(isLit).toBe(true);
          expect(refusedBy).toEqual([]);
          dataOf(await clerk.call(undo, { id: answer.data.undo.id }));
        } else {
          refused++;
          expect(isLit).toBe(false);
          expect(refusalOf(answer).codes).toEqual(refusedBy);
        }
      }
    }
    expect(done).toBeGreaterThanOrEqual(24);
    expect(refused).toBeGreaterThan(5);
  });

  it('gives a browser nobody’s name or reason, and no other patient', async () => {
    const [row] = await visits('provider_id is not null');
    const text = JSON.stringify(dataOf(await read(row.id)));
    const { rows } = await world.sql.query<{ id: string; familyName: string }>(
      'select id, family_name as "familyName" from patient',
    );
    expect(rows.filter(({ familyName }) => text.includes(familyName))).toEqual([]);
    expect(rows.filter(({ id }) => text.includes(id)).map(({ id }) => id)).toEqual([row.patientId]);
    expect(text).not.toMatch(/"(reason|note)":"[^"]/);
  });

  it('gives nothing to who may not move it, and nothing of a visit that is over', async () => {
    const [row] = await visits('provider_id is not null');
    expect(refusalOf(await read(row.id, await signedIn(base, 'read-only'))).tag).toBe('NotAllowed');
    const [elsewhere] = await visits(`site_id = '${SITES.mesa}'`);
    expect(refusalOf(await read(elsewhere.id, await signedIn(base, 'front-desk'))).tag).toBe('NotAllowed');
    expect(refusalOf(await read('00000000-0000-4000-8000-000000000000')).tag).toBe('NotFound');
    const over = await world.sql.query<{ id: string }>("select id from appointment where status = 'fulfilled' limit 1");
    expect(refusalOf(await read(over.rows[0].id)).tag).toBe('WrongStatus');
  });

  it('puts it down against rules with a reason, by who may, and takes that back', async () => {
    const all = await visits('provider_id is not null');
    const [row] = all;
    const other = all.find(({ providerId, start }) => providerId === row.providerId && start !== row.start);
    if (!other) throw new Error('Two visits of one provider.');
    const judge = new MoveJudge(row.id, dataOf(await read(row.id)));
    const at = Date.parse(other.start) / 60_000;
    const judged = judge.judge({ siteId: other.siteId, providerId: row.providerId, start: at, lengthMin: null });
    expect(judged?.byReason).toBe(true);
    const codes = judged?.refused.map(({ code }) => code);
    expect(codes).toContain('busy');
    const to = { siteId: other.siteId, start: other.start };
    expect(refusalOf(await move(row, to)).codes).toEqual(codes);
    const desk = await signedIn(base, 'front-desk');
    const waive = { codes, reason: 'Both at once, they are sisters' };
    expect(refusalOf(await move(row, { ...to, waive }, desk)).tag).toBe('NotAllowed');
    expect(refusalOf(await move(row, { ...to, waive: { codes, reason: ' ' } })).tag).toBe('InvalidInput');
    // What was not named is not set aside.
    expect(refusalOf(await move(row, { ...to, waive: { codes: ['time-off'], reason: 'Other' } })).tag).toBe(
      'NotOffered',
    );
    const past = { ...to, start: '2026-11-30T16:00:00.000Z', waive: { codes: ['past'], reason: 'Never' } };
    expect(refusalOf(await move(row, past))).toMatchObject({ tag: 'NotOffered' });
    const done = dataOf(await move(row, { ...to, waive }));
    const kept = await world.sql.query('select reason, rules from booking_override where appointment_id = $1', [
      row.id,
    ]);
    expect(kept.rows).toEqual([{ reason: waive.reason, rules: codes }]);
    dataOf(await clerk.call(undo, { id: done.undo.id }));
    expect(await rowNow(row.id)).toMatchObject({ start: row.start, siteId: row.siteId });
    const waived = await world.sql.query('select rules_waived as rules from appointment where id = $1', [row.id]);
    expect(waived.rows[0].rules).toBeNull();
  });

  it('makes it longer or shorter as a whole, in its place, and takes that back', async () => {
    for (const row of await visits('provider_id is not null and parts is null')) {
      const answer = await move(row, { start: row.start, lengthMin: row.lengthMin + 5 });
      // Most have somebody right behind them.
      if (!answer.data) continue;
      const done = answer.data;
      expect((await rowNow(row.id)).lengthMin).toBe(row.lengthMin + 5);
      const taken = await world.sql.query<{ max: string }>(
        'select max(upper(during)) as max from occupancy where appointment_id = $1',
        [row.id],
      );
      expect(Date.parse(String(taken.rows[0].max))).toBeGreaterThanOrEqual(
        Date.parse(row.start) + (row.lengthMin + 5) * 60_000,
      );
      // The start is as it was: nobody is told.
      const told = await world.sql.query("select 1 from message where appointment_id = $1 and kind = 'move'", [row.id]);
      expect(told.rowCount).toBe(0);
      dataOf(await clerk.call(undo, { id: done.undo.id }));
      const back = await world.sql.query('select parts from appointment where id = $1', [row.id]);
      expect([(await rowNow(row.id)).lengthMin, back.rows[0].parts]).toEqual([row.lengthMin, null]);
      return;
    }
    throw new Error('No visit has five minutes behind it.');
  });

  it('never becomes shorter than the parts around what it is about', async () => {
    const ofParts = 'select visit_type_id from visit_type_part group by visit_type_id having count(*) > 1';
    const [row] = await visits(`parts is null and visit_type_id in (${ofParts})`);
    expect(refusalOf(await move(row, { start: row.start, lengthMin: 5 }))).toMatchObject({
      tag: 'InvalidInput',
      issues: [{ path: 'lengthMin', code: 'too-small' }],
    });
  });

  it('is refused with what stands where another desk was quicker, and changes nothing', async () => {
    const [row] = await visits('provider_id is not null');
    const fits = new MoveJudge(row.id, dataOf(await read(row.id))).fits();
    const starts = fits[placeKey(row.siteId, row.providerId)];
    const [one, two] = [starts[0], starts[starts.length - 1]].map((start) => ({ start: wire(start) }));
    const answers = await Promise.all([move(row, one), move(row, two)]);
    const refused = answers.filter(({ data }) => !data);
    expect(refused.map((answer) => refusalOf(answer).tag)).toEqual(['ChangedMeanwhile']);
    const done = answers.find(({ data }) => data)?.data;
    expect([one.start, two.start]).toContain((await rowNow(row.id)).start);
    if (done) dataOf(await clerk.call(undo, { id: done.undo.id }));
  });
});

import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { makeRandom } from '@zaguan/demo/random';
import { findPatients } from '@zaguan/server/features/patientSearch/findPatients';
import { openOrm } from '@zaguan/server/platform/db/orm';
import { startPostgres } from '../../scripts/setup/postgres.mjs';
import { median, percentile, type Result, rounded } from './measure.ts';

const SCALE = join(import.meta.dirname, '../../.zaguan/scale/postgres');
const ROUNDS = 300;
const READER = { restricted: true, today: '2026-12-01' };

interface Known {
  readonly id: string;
  readonly familyName: string;
  readonly birthDate: string;
  readonly recordNumber: string;
}

/**
 * A search among as many patients as `npm run scale` made, over one connection: as a multiple of looking a patient up by
 * primary key through the same connection, in turn with it.
 */
export async function patientSearch(): Promise<Result> {
  if (!existsSync(SCALE)) throw new Error('First: npm run scale -- --patients 1000000');
  const scale = await startPostgres(SCALE, { durable: false });
  const orm = await openOrm({ url: scale.url, connections: 1 });
  try {
    const em = orm.em.fork();
    await em.execute('analyze patient_word, patient, name_word_gap');
    const [{ n }] = await em.execute<{ n: number }[]>('select count(*)::int as n from patient');
    const people = await em.execute<Known[]>(
      'select id, family_name as "familyName", birth_date::text as "birthDate", record_number as "recordNumber" from patient order by md5(id::text) limit 500',
    );
    const random = makeRandom(11);
    const texts: Record<string, (person: Known) => string> = {
      prefix: ({ familyName }) => familyName.slice(0, 3 + Math.floor((random.int(0, 999_999) / 1e6) * 3)),
      slip: ({ familyName }) => {
        const at = 1 + Math.floor((random.int(0, 999_999) / 1e6) * (familyName.length - 2));
        return familyName.slice(0, at) + familyName.slice(at + 1);
      },
      born: ({ birthDate }) => birthDate,
      record: ({ recordNumber }) => recordNumber,
    };
    const times: Record<string, number[]> = { key: [], prefix: [], slip: [], born: [], record: [] };
    const timed = async (what: string, work: () => Promise<unknown>, counts: boolean) => {
      const start = performance.now();
      await work();
      if (counts) times[what].push(performance.now() - start);
    };
    for (let round = -50; round < ROUNDS; round++) {
      const person = people[(round + 50) % people.length];
      await timed('key', () => em.execute('select * from patient where id = ?', [person.id]), round >= 0);
      for (const [what, text] of Object.entries(texts))
        await timed(what, () => findPatients(em, text(person), READER), round >= 0);
    }
    const key = median(times.key);
    const ratio = (value: number) => rounded(value / key);
    return {
      prefixMedian: ratio(median(times.prefix)),
      prefixP95: ratio(percentile(times.prefix, 0.95)),
      slipMedian: ratio(median(times.slip)),
      slipP95: ratio(percentile(times.slip, 0.95)),
      bornMedian: ratio(median(times.born)),
      recordMedian: ratio(median(times.record)),
      keyMs: rounded(key),
      unit: 'times as long',
      peer: 'PostgreSQL, one patient by primary key',
      n,
    };
  } finally {
    await orm.close(true);
    scale.stop();
  }
}

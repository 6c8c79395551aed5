import { placeHold } from '@zaguan/contracts/booking';
import { proofChallenge } from '@zaguan/contracts/proof';
import { sendCode } from '@zaguan/contracts/verification';
import { type Challenge, solveChallenge } from 'altcha-lib';
import { deriveKey } from 'altcha-lib/algorithms/pbkdf2';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, dataOf, refusalOf } from '../fixtures/client.ts';
import { freeTime, FOLLOW_UP, type RequestedTime } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const pack = (value: object) => Buffer.from(JSON.stringify(value)).toString('base64');

describe('the work before a hold', () => {
  let world: World;
  let base: string;
  const times: RequestedTime[] = [];
  beforeAll(async () => {
    world = await makeWorld('proof', { processes: 2, env: { ZAGUAN_PROOF: 'yes' } });
    base = world.servers[0].url;
    // Far enough apart that none overlaps another.
    for (let n = 0; n < 4; n++) times.push(await freeTime(base, FOLLOW_UP, n * 3));
  });
  afterAll(() => world.close());

  const solved = async (client: Client) => {
    const { challenge } = dataOf(await client.call(proofChallenge, {}));
    const solution = await solveChallenge({ challenge: challenge as unknown as Challenge, deriveKey });
    return { challenge, solution };
  };
  const hold = (client: Client, requested: RequestedTime, proof?: string) =>
    client.call(placeHold, { ...requested, proof });

  it('is asked of everyone, and opens one hold', async () => {
    const client = new Client(base);
    expect(refusalOf(await hold(client, times[0])).tag).toBe('ProofNeeded');
    const proof = pack(await solved(client));
    expect((await hold(client, times[0], proof)).status).toBe(200);
    // Not a second one, neither here nor at another process, not even for the same browser.
    expect(refusalOf(await hold(client, times[1], proof)).tag).toBe('ProofNeeded');
    expect((await hold(client, times[1], pack(await solved(client)))).status).toBe(200);
  });

  it('is not used up by a time that someone else has just taken', async () => {
    const first = new Client(base);
    expect((await hold(first, times[2], pack(await solved(first)))).status).toBe(200);
    const second = new Client(base);
    const proof = pack(await solved(second));
    expect(refusalOf(await hold(second, times[2], proof)).tag).toBe('TimeTaken');
    expect((await hold(second, times[3], proof)).status).toBe(200);
  });

  it('done in one browser opens nothing in another', async () => {
    const [worker, other] = [new Client(base), new Client(base)];
    // The other has a cookie of its own.
    dataOf(await other.call(proofChallenge, {}));
    expect(refusalOf(await hold(other, times[0], pack(await solved(worker)))).tag).toBe('ProofNeeded');
  });

  it.each([
    ['nothing', () => ''],
    ['no base64', () => '%%%'],
    ['something else', () => pack({ challenge: {}, solution: 1 })],
  ])('is not replaced by %s', async (_, made) => {
    expect(refusalOf(await hold(new Client(base), times[0], made())).tag).toBe('ProofNeeded');
  });

  it('made cheaper, longer-lived or without being solved is no proof', async () => {
    const client = new Client(base);
    const { challenge, solution } = await solved(client);
    const altered = (parameters: object) =>
      pack({ challenge: { ...challenge, parameters: { ...challenge.parameters, ...parameters } }, solution });
    for (const proof of [
      altered({ cost: 1 }),
      altered({ expiresAt: 99_999_999_999 }),
      altered({ keyPrefix: '' }),
      pack({ challenge, solution: { ...solution, counter: (solution?.counter ?? 0) + 1 } }),
      pack({ challenge, solution: { ...solution, derivedKey: '00'.repeat(32) } }),
    ])
      expect(refusalOf(await hold(client, times[0], proof)).tag).toBe('ProofNeeded');
    expect((await hold(client, times[0], pack({ challenge, solution }))).status).not.toBe(403);
  });

  describe('from an address that keeps times already', () => {
    const costOf = async (client: Client) => {
      const { challenge } = dataOf(await client.call(proofChallenge, {}));
      return (challenge as unknown as { parameters: { cost: number } }).parameters.cost;
    };
    beforeAll(async () => {
      await world.sql.query('delete from hold');
    });

    it('asks twice the work for each, and work gathered while it was cheap opens nothing', async () => {
      const early = new Client(base);
      const cheap = await solved(early);
      const plain = await costOf(new Client(base));
      const first = new Client(base);
      expect((await hold(first, times[0], pack(await solved(first)))).status).toBe(200);
      expect(await costOf(new Client(base))).toBe(2 * plain);
      // Another choice of the same browser costs what its first one did: it gives that one back.
      expect(await costOf(first)).toBe(plain);
      expect(refusalOf(await hold(early, times[1], pack(cheap))).tag).toBe('ProofNeeded');
      expect((await hold(early, times[1], pack(await solved(early)))).status).toBe(200);
      expect(await costOf(new Client(base))).toBe(4 * plain);
    });

    it('asks for more work before a third number of one browser gets a code', async () => {
      await world.sql.query('delete from hold');
      const client = new Client(base);
      expect((await hold(client, times[2], pack(await solved(client)))).status).toBe(200);
      const ask = (n: number, proof?: string) =>
        client.call(sendCode, { contact: `(312) 555-018${n}`, language: 'en', proof });
      expect((await ask(0)).status).toBe(200);
      // One was mistyped.
      expect((await ask(1)).status).toBe(200);
      expect(refusalOf(await ask(2)).tag).toBe('ProofNeeded');
      expect((await ask(2, pack(await solved(client)))).status).toBe(200);
      expect(refusalOf(await ask(3)).tag).toBe('ProofNeeded');
      // The first two may be asked again without any.
      expect((await ask(0)).status).toBe(200);
    });
  });
});

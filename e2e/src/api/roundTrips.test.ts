import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bookHeld, placeHold } from '@zaguan/contracts/booking';
import { Client, dataOf } from '../fixtures/client.ts';
import { freeTime, MARTA, verify } from '../fixtures/patient.ts';
import { type RunningServer, startServer } from '../fixtures/server.ts';
import { countedWire, tripsOf, type Wire } from '../fixtures/wire.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** Common practice: what a call costs on a database that is not on the same machine is how often it waits for it. */
const MAX_TRIPS = { hold: 12, booking: 20 };

describe('round trips to the database', () => {
  let world: World;
  let wire: Wire;
  let server: RunningServer;
  beforeAll(async () => {
    world = await makeWorld('round_trips', { processes: 0 });
    wire = await countedWire(world.url);
    server = await startServer(wire.url, { ZAGUAN_PROOF: 'no' });
  });
  afterAll(async () => {
    await server.stop();
    await wire.close();
    await world.close();
  });

  it('stay few for a hold and a booking, BEGIN and COMMIT counted', async () => {
    const client = new Client(server.url);
    const requested = await freeTime(server.url);
    wire.taken();
    const { hold } = dataOf(await client.call(placeHold, requested));
    const held = tripsOf(wire.taken(), /insert into "?hold/);
    await verify(client, MARTA.contact, world.sql);
    wire.taken();
    dataOf(
      await client.call(bookHeld, {
        holdId: hold.id,
        requested,
        person: {
          givenName: MARTA.givenName,
          familyName: MARTA.familyName,
          birthDate: MARTA.birthDate,
          contact: MARTA.contact,
          reason: MARTA.reason,
        },
        language: 'en',
      }),
    );
    const booked = tripsOf(wire.taken(), /insert into "?appointment/);
    const texts = (trips: readonly { text: string }[]) =>
      trips.map(({ text }) => text.replace(/\s+/g, ' ').slice(0, 160)).join('\n');
    expect(held.length, texts(held)).toBeGreaterThan(4);
    expect(held.length, texts(held)).toBeLessThanOrEqual(MAX_TRIPS.hold);
    expect(booked.length, texts(booked)).toBeGreaterThan(8);
    expect(booked.length, texts(booked)).toBeLessThanOrEqual(MAX_TRIPS.booking);
  });
});

import { expect, it } from 'vitest';
import { Poller } from './poller.ts';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

it('looks one time after the other, and once for all who ask meanwhile', async () => {
  let [now, most, looks] = [0, 0, 0];
  const poller = new Poller(5, async () => {
    most = Math.max(most, ++now);
    looks++;
    await pause(40);
    now--;
  });
  poller.start();
  await pause(30);
  for (let i = 0; i < 50; i++) poller.kick();
  await poller.stop();
  expect(most).toBe(1);
  // The one under way, and the one that all of them wait for.
  expect(looks).toBe(2);
});

it('waits for the look under way when it stops, and looks no more', async () => {
  let done = 0;
  const poller = new Poller(5, async () => {
    await pause(30);
    done++;
  });
  poller.kick();
  await pause(1);
  await poller.stop();
  expect(done).toBe(1);
  poller.kick();
  await pause(50);
  expect(done).toBe(1);
});

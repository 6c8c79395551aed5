import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { contractQuery, retryPauseMs } from './contractApi.ts';

const CALL = { endpoint: { method: 'get', path: '/clinic' }, input: {} } as const;
const answer = (status: number, body: object) =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
const away = () => answer(503, { error: { tag: 'DatabaseAway', requestId: 'r', facts: {} } });
const api = () => ({ signal: new AbortController().signal }) as never;

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it('tries again with growing pauses while the database is away, and tells the watch', async () => {
  const fetched = vi
    .fn()
    .mockImplementationOnce(async () => away())
    .mockRejectedValueOnce(new TypeError('no network'));
  fetched.mockImplementation(async () => answer(200, { ok: 1 }));
  vi.stubGlobal('fetch', fetched);
  const watch = { away: vi.fn(), back: vi.fn() };
  const result = contractQuery(() => '', watch)(CALL, api(), {});
  await vi.advanceTimersByTimeAsync(retryPauseMs(1) + retryPauseMs(2) + 50);
  expect(await result).toEqual({ data: { ok: 1 } });
  expect(fetched).toHaveBeenCalledTimes(3);
  expect([watch.away.mock.calls.length, watch.back.mock.calls.length]).toEqual([2, 1]);
  expect(retryPauseMs(2)).toBeGreaterThan(retryPauseMs(1));
  expect(retryPauseMs(50)).toBe(4000);
});

it('gives up after about a minute, and asks nothing twice that was refused', async () => {
  const fetched = vi.fn(async () => away());
  vi.stubGlobal('fetch', fetched);
  const result = contractQuery(() => '', { away: vi.fn(), back: vi.fn() })(CALL, api(), {});
  await vi.advanceTimersByTimeAsync(90_000);
  expect(await result).toMatchObject({ error: { tag: 'DatabaseAway' } });
  expect(fetched.mock.calls.length).toBe(20);
  const refused = vi.fn(async () => answer(404, { error: { tag: 'NotFound', requestId: 'r', facts: {} } }));
  vi.stubGlobal('fetch', refused);
  expect(await contractQuery(() => '', { away: vi.fn(), back: vi.fn() })(CALL, api(), {})).toMatchObject({
    error: { tag: 'NotFound' },
  });
  expect(refused).toHaveBeenCalledTimes(1);
});

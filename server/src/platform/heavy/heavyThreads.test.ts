import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type HeavyTask, isRefusal } from './heavyTask.ts';
import { HeavyThreads } from './heavyThreads.ts';

/** A thread's program: spins as long as it is told to, politely or not. */
const PROGRAM = `
export default function run({ task, input, shared }) {
  const flags = new Int32Array(shared);
  Atomics.store(flags, 2, 1);
  Atomics.store(flags, 1, 7);
  const until = Date.now() + input;
  if (task === 'polite') while (Date.now() < until && Atomics.load(flags, 0) === 0);
  if (task === 'rude') while (Date.now() < until);
  if (task === 'greedy') { const all = []; for (;;) all.push(new Array(100000).fill(String(Math.random()))); }
  if (task === 'broken') throw new Error('broken');
  return Date.now() < until ? 'stopped' : 'done';
}`;

describe('threads for heavy work', () => {
  const folder = mkdtempSync(join(tmpdir(), 'zaguan-threads-'));
  let threads: HeavyThreads;
  beforeAll(() => {
    writeFileSync(join(folder, 'program.mjs'), PROGRAM);
    threads = new HeavyThreads(join(folder, 'program.mjs'), {});
  });
  afterAll(async () => {
    await threads.stop();
    rmSync(folder, { recursive: true });
  });
  const task = (name: string, more: Partial<HeavyTask<number, string>> = {}): HeavyTask<number, string> => ({
    ...{ name, threads: 'search', deadlineMs: 10_000, run: () => '' },
    ...more,
  });
  const nobodyLeaves = new AbortController().signal;

  it('answers what is done in time, and hands on what is thrown', async () => {
    expect(await threads.run(task('polite'), 1, nobodyLeaves)).toBe('done');
    await expect(threads.run(task('broken'), 1, nobodyLeaves)).rejects.toThrow('broken');
  });

  it('asks a task to stop at its deadline, and when its caller leaves, which frees the thread at once', async () => {
    expect(await threads.run(task('polite', { deadlineMs: 100 }), 60_000, nobodyLeaves)).toBe('stopped');
    const left = new AbortController();
    setTimeout(() => left.abort(), 50);
    const from = performance.now();
    expect(await threads.run(task('polite'), 60_000, left.signal)).toBe('stopped');
    expect(await threads.run(task('polite'), 1, nobodyLeaves)).toBe('done');
    expect(performance.now() - from).toBeLessThan(2_000);
  });

  it('counts a file’s time from the moment at which its thread begins, however long that takes', async () => {
    const slow = join(folder, 'slow.mjs');
    writeFileSync(slow, `const from = Date.now(); while (Date.now() - from < 700);\n${PROGRAM}`);
    const late = new HeavyThreads(slow, {});
    const from = performance.now();
    expect(await late.run(task('polite', { threads: 'files', deadlineMs: 300 }), 1, nobodyLeaves)).toBe('done');
    expect(performance.now() - from).toBeGreaterThan(600);
    // What held it up is counted without the wait, so that several runs can share one limit.
    const rude = await late.run(task('rude', { threads: 'files', deadlineMs: 200 }), 60_000, nobodyLeaves);
    expect(isRefusal(rude) && rude.tookMs < 600).toBe(true);
    const counted = { deadlineMs: 200, waitingCounts: true };
    const never = await late.run(task('polite', { threads: 'files' }), 1, nobodyLeaves, counted);
    expect(never).toMatchObject({ refused: 'too-long', progress: 0 });
    await late.stop();
  });

  it('ends a thread that does not stop, one that makes no progress, and one that takes all memory; the next works', async () => {
    const file = { threads: 'files' as const };
    expect(await threads.run(task('polite', file), 1, nobodyLeaves)).toBe('done');
    expect(await threads.run(task('rude', { ...file, deadlineMs: 200 }), 60_000, nobodyLeaves)).toMatchObject({
      refused: 'too-long',
      progress: 7,
    });
    expect(await threads.run(task('rude', { ...file, stalledMs: 100 }), 60_000, nobodyLeaves)).toMatchObject({
      refused: 'too-long',
      progress: 7,
    });
    expect(await threads.run(task('greedy', file), 1, nobodyLeaves)).toMatchObject({
      refused: 'too-much-memory',
      progress: 7,
    });
    expect(await threads.run(task('polite', file), 1, nobodyLeaves)).toBe('done');
  });
});

import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { inBatches } from './batch.ts';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

it('hands on together what comes within the time, counted from the first', () => {
  const handOn = vi.fn<(batch: readonly number[]) => void>();
  const { add } = inBatches<number>(300, handOn);
  add(1);
  vi.advanceTimersByTime(200);
  add(2);
  vi.advanceTimersByTime(99);
  expect(handOn).not.toHaveBeenCalled();
  vi.advanceTimersByTime(1);
  expect(handOn.mock.calls).toEqual([[[1, 2]]]);
  add(3);
  vi.advanceTimersByTime(300);
  expect(handOn.mock.calls).toEqual([[[1, 2]], [[3]]]);
});

it('hands on nothing any more once it is stopped', () => {
  const handOn = vi.fn<(batch: readonly number[]) => void>();
  const { add, stop } = inBatches<number>(300, handOn);
  add(1);
  stop();
  vi.advanceTimersByTime(1_000);
  expect(handOn).not.toHaveBeenCalled();
});

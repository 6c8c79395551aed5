import { describe, expect, it } from 'vitest';
import { wallToEpoch } from '../time/index.ts';
import { afterQuiet, type HandOverFacts, judgeHandOver } from './handOver.ts';
import { isQuiet, USUAL_QUIET } from './plan.ts';

const CHICAGO = 'America/Chicago';
const at = (minute: number, date = '2026-12-01') => wallToEpoch(CHICAGO, date, minute);
const NIGHT = at(23 * 60 + 11);
const facts = (more: Partial<HandOverFacts> = {}): HandOverFacts => ({
  kind: 'reminder',
  answersPatient: false,
  now: NIGHT,
  notAfter: at(600, '2026-12-03'),
  comesAt: at(600, '2026-12-03'),
  zones: [CHICAGO],
  quiet: USUAL_QUIET,
  laterStepDue: false,
  urgentAtNight: 'send',
  ...more,
});

describe('a message that is due', () => {
  it('waits for the morning if it was late and it is quiet: 8 am, the end of quiet hours (47 CFR 64.1200(c)(1))', () => {
    expect(judgeHandOver(facts())).toEqual({ act: 'hold', until: at(480, '2026-12-02'), code: 'quiet-hours' });
    expect(judgeHandOver(facts({ now: at(480) - 1 }))).toMatchObject({ act: 'hold', until: at(480) });
    expect(judgeHandOver(facts({ now: at(480) }))).toEqual({ act: 'send' });
    expect(judgeHandOver(facts({ now: at(21 * 60 - 1) }))).toEqual({ act: 'send' });
    expect(judgeHandOver(facts({ now: at(21 * 60) }))).toMatchObject({ act: 'hold' });
  });

  it('obeys the stricter of two zones', () => {
    const zones = [CHICAGO, 'America/Denver'];
    expect(judgeHandOver(facts({ now: at(480, '2026-12-02'), zones }))).toMatchObject({
      act: 'hold',
      until: at(540, '2026-12-02'),
    });
  });

  it('is dropped, with the rule, where the morning is too late for it', () => {
    const comesAt = (minute: number) => ({ comesAt: at(minute, '2026-12-02'), notAfter: at(minute, '2026-12-02') });
    // An hour before the visit the patient is on the way.
    expect(judgeHandOver(facts(comesAt(539)))).toEqual({ act: 'drop', code: 'quiet-hours' });
    expect(judgeHandOver(facts(comesAt(540)))).toMatchObject({ act: 'hold' });
    expect(judgeHandOver(facts({ notAfter: NIGHT - 1 }))).toEqual({ act: 'drop', code: 'too-late' });
    expect(judgeHandOver(facts({ notAfter: NIGHT }))).toEqual({ act: 'drop', code: 'quiet-hours' });
  });

  it('gives way to a later reminder of the same visit that is due too', () => {
    expect(judgeHandOver(facts({ laterStepDue: true, now: at(600) }))).toEqual({ act: 'drop', code: 'superseded' });
    expect(judgeHandOver(facts({ laterStepDue: true, now: at(600), kind: 'moved' }))).toEqual({ act: 'send' });
  });

  it('goes out at night if the patient has just asked for it', () => {
    for (const kind of ['reply', 'code', 'confirmation'] as const)
      expect(judgeHandOver(facts({ kind }))).toEqual({ act: 'send' });
    expect(judgeHandOver(facts({ kind: 'cancellation', answersPatient: true }))).toEqual({ act: 'send' });
    expect(judgeHandOver(facts({ kind: 'restored' }))).toMatchObject({ act: 'hold' });
  });

  for (const kind of ['cancellation', 'moved', 'displaced'] as const)
    it(`is not held if somebody would come for nothing within twelve hours (${kind})`, () => {
      const soon = (minutes: number, urgentAtNight: 'send' | 'call' = 'send') =>
        judgeHandOver(facts({ kind, comesAt: NIGHT + minutes, notAfter: NIGHT + 2_000, urgentAtNight }));
      expect(soon(720)).toEqual({ act: 'send' });
      expect(soon(721)).toMatchObject({ act: 'hold' });
      // Where a rule of the state forbids the text, somebody calls.
      expect(soon(720, 'call')).toEqual({ act: 'call', code: 'quiet-hours' });
      expect(soon(721, 'call')).toMatchObject({ act: 'hold' });
      expect(judgeHandOver(facts({ kind, comesAt: NIGHT + 60, now: at(600), urgentAtNight: 'call' }))).toEqual({
        act: 'send',
      });
    });

  it('never goes out in quiet hours unless exempt or urgent, whatever the hour', () => {
    for (let now = at(0); now < at(0, '2026-12-02'); now += 7) {
      const judged = judgeHandOver(facts({ now }));
      expect(judged.act === 'send').toBe(!isQuiet(now, [CHICAGO], USUAL_QUIET));
      if (judged.act === 'hold') expect(judged.until).toBe(afterQuiet(now, [CHICAGO], USUAL_QUIET));
    }
  });
});

import { describe, expect, it } from 'vitest';
import { wallToEpoch } from '../time/index.ts';
import { afterQuiet, type HandOverFacts, decideHandOver } from './handOver.ts';
import { isQuiet, DEFAULT_QUIET_HOURS } from './plan.ts';

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
  quiet: DEFAULT_QUIET_HOURS,
  laterStepDue: false,
  urgentAtNight: 'send',
  ...more,
});

describe('a message that is due', () => {
  it('waits for the morning if it was late and it is quiet: 8 am, the end of quiet hours (47 CFR 64.1200(c)(1))', () => {
    expect(decideHandOver(facts())).toEqual({ decision: 'hold', until: at(480, '2026-12-02'), code: 'quiet-hours' });
    expect(decideHandOver(facts({ now: at(480) - 1 }))).toMatchObject({ decision: 'hold', until: at(480) });
    expect(decideHandOver(facts({ now: at(480) }))).toEqual({ decision: 'send' });
    expect(decideHandOver(facts({ now: at(21 * 60 - 1) }))).toEqual({ decision: 'send' });
    expect(decideHandOver(facts({ now: at(21 * 60) }))).toMatchObject({ decision: 'hold' });
  });

  it('obeys the stricter of two zones', () => {
    const zones = [CHICAGO, 'America/Denver'];
    expect(decideHandOver(facts({ now: at(480, '2026-12-02'), zones }))).toMatchObject({
      decision: 'hold',
      until: at(540, '2026-12-02'),
    });
  });

  it('is dropped, with the rule, where the morning is too late for it', () => {
    const comesAt = (minute: number) => ({ comesAt: at(minute, '2026-12-02'), notAfter: at(minute, '2026-12-02') });
    // An hour before the visit the patient is on the way.
    expect(decideHandOver(facts(comesAt(539)))).toEqual({ decision: 'drop', code: 'quiet-hours' });
    expect(decideHandOver(facts(comesAt(540)))).toMatchObject({ decision: 'hold' });
    expect(decideHandOver(facts({ notAfter: NIGHT - 1 }))).toEqual({ decision: 'drop', code: 'too-late' });
    expect(decideHandOver(facts({ notAfter: NIGHT }))).toEqual({ decision: 'drop', code: 'quiet-hours' });
  });

  it('gives way to a later reminder of the same visit that is due too', () => {
    expect(decideHandOver(facts({ laterStepDue: true, now: at(600) }))).toEqual({
      decision: 'drop',
      code: 'superseded',
    });
    expect(decideHandOver(facts({ laterStepDue: true, now: at(600), kind: 'moved' }))).toEqual({ decision: 'send' });
  });

  it('goes out at night if the patient has just asked for it', () => {
    for (const kind of ['reply', 'code', 'confirmation'] as const)
      expect(decideHandOver(facts({ kind }))).toEqual({ decision: 'send' });
    expect(decideHandOver(facts({ kind: 'cancellation', answersPatient: true }))).toEqual({ decision: 'send' });
    expect(decideHandOver(facts({ kind: 'restored' }))).toMatchObject({ decision: 'hold' });
  });

  for (const kind of ['cancellation', 'moved', 'must-move'] as const)
    it(`is not held if somebody would come for nothing within twelve hours (${kind})`, () => {
      const soon = (minutes: number, urgentAtNight: 'send' | 'call' = 'send') =>
        decideHandOver(facts({ kind, comesAt: NIGHT + minutes, notAfter: NIGHT + 2_000, urgentAtNight }));
      expect(soon(720)).toEqual({ decision: 'send' });
      expect(soon(721)).toMatchObject({ decision: 'hold' });
      // Where a rule of the state forbids the text, somebody calls.
      expect(soon(720, 'call')).toEqual({ decision: 'call', code: 'quiet-hours' });
      expect(soon(721, 'call')).toMatchObject({ decision: 'hold' });
      expect(decideHandOver(facts({ kind, comesAt: NIGHT + 60, now: at(600), urgentAtNight: 'call' }))).toEqual({
        decision: 'send',
      });
    });

  it('never goes out in quiet hours unless exempt or urgent, whatever the hour', () => {
    for (let now = at(0); now < at(0, '2026-12-02'); now += 7) {
      const judged = decideHandOver(facts({ now }));
      expect(judged.decision === 'send').toBe(!isQuiet(now, [CHICAGO], DEFAULT_QUIET_HOURS));
      if (judged.decision === 'hold') expect(judged.until).toBe(afterQuiet(now, [CHICAGO], DEFAULT_QUIET_HOURS));
    }
  });
});

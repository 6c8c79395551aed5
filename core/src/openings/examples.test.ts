import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readExamples } from '../../tests/examples.ts';
import { ClinicIndex, CODES, searchOpenings, whyNot } from './index.ts';

const HANDBOOK = readFileSync(new URL('../../../docs/help/availability.md', import.meta.url), 'utf8');
const EXAMPLES = readExamples(HANDBOOK);

describe('the handbook’s examples', () => {
  it.each(EXAMPLES)('$rule: $text → $answer', ({ clinic, criteria, start, now, answer }) => {
    const index = new ClinicIndex(clinic, now);
    const { offered, answers } = whyNot(index, criteria, 'site', 'doctor', start);
    expect(answers.filter(({ passed }) => !passed).map(({ code }) => code)).toEqual(answer === 'shown' ? [] : [answer]);
    expect(offered).toBe(answer === 'shown');
    // The search says the same as the explanation.
    const { date } = index.day('site', '2026-06-10');
    const found = [
      ...searchOpenings(index, criteria, { siteIds: ['site'], providerIds: ['doctor'], from: date, until: date }),
    ];
    expect(found.some((opening) => opening.start === start)).toBe(offered);
  });

  it('show every rule hiding a time, and nearly every rule letting one through', () => {
    const hidden = new Set(EXAMPLES.filter(({ answer }) => answer !== 'shown').map(({ answer }) => answer));
    expect([...hidden].sort()).toEqual([...CODES].sort());
    const shown = new Set(EXAMPLES.filter(({ answer }) => answer === 'shown').map(({ rule }) => rule));
    expect(shown.size).toBeGreaterThanOrEqual(CODES.length - 3);
  });

  it('refuse a sentence they do not know', () => {
    expect(() => readExamples('### `past`: x\n\n```example\ngiven pigs fly\n→ shown\n```\n')).toThrow('pigs fly');
  });
});

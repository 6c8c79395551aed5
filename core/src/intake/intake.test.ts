import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type AnswerChange,
  answersThatCount,
  conditionHolds,
  consentFaults,
  type EnableOperator,
  faultOfAnswer,
  faultsOf,
  type FormItem,
  formFaults,
  mergeChanges,
  packetFor,
  plainAnswers,
  raisedFlags,
  readinessOf,
  shownItems,
  type StoredAnswers,
} from './index.ts';

const words = (text: string) => ({ en: text, es: text });
const question = (linkId: string, more: Partial<FormItem> = {}): FormItem => ({
  linkId,
  type: 'boolean',
  text: words(linkId),
  ...more,
});
const form = (...items: FormItem[]) => ({ title: words('Form'), items });

/** HL7 FHIR R4 4.0.1, value set questionnaire-enable-operator (definitions from memory). */
describe('a condition (enableWhen)', () => {
  type Row = [EnableOperator, unknown[], unknown, boolean];
  const rows: Row[] = [
    ['exists', [], true, false],
    ['exists', [], false, true],
    ['exists', ['a'], true, true],
    ['exists', ['a'], false, false],
    ['=', [], 'a', false],
    ['=', ['a'], 'a', true],
    ['=', ['b'], 'a', false],
    ['=', ['b', 'a'], 'a', true],
    ['=', [false], false, true],
    ['=', ['1'], 1, false],
    ['!=', [], 'a', true],
    ['!=', ['a'], 'a', false],
    ['!=', ['b'], 'a', true],
    ['!=', ['b', 'a'], 'a', false],
    ['>', [], 5, false],
    ['>', [5], 5, false],
    ['>', [6], 5, true],
    ['>=', [5], 5, true],
    ['>=', [4], 5, false],
    ['<', [4], 5, true],
    ['<', [5], 5, false],
    ['<=', [5], 5, true],
    ['<=', [6], 5, false],
    ['>', [1, 9], 5, true],
    ['>', ['2026-02-01'], '2026-01-31', true],
    ['<', ['2026-02-01'], '2026-01-31', false],
    ['>', [true], false, false],
    ['>', ['9'], 5, false],
  ];
  it.each(rows)('%s of %j against %j is %s', (operator, given, answer, holds) => {
    expect(conditionHolds({ question: 'q', operator, answer: answer as never }, given as never)).toBe(holds);
  });

  const two = (enableBehavior: 'all' | 'any' | undefined) =>
    form(
      question('a'),
      question('b'),
      question('c', {
        enableBehavior,
        enableWhen: [
          { question: 'a', operator: '=', answer: true },
          { question: 'b', operator: '=', answer: true },
        ],
      }),
    );
  it.each([
    ['all', true, true, true],
    ['all', true, false, false],
    ['all', false, false, false],
    ['any', true, false, true],
    ['any', false, true, true],
    ['any', false, false, false],
    [undefined, true, false, false],
    [undefined, true, true, true],
  ] as const)('joined by %s: %s and %s shows %s', (behavior, a, b, shown) => {
    expect(shownItems(two(behavior), { a: [a], b: [b] }).has('c')).toBe(shown);
  });

  it('hides what stands in a hidden group, and forgets answers of hidden questions', () => {
    const nested = form(
      question('a'),
      {
        linkId: 'g',
        type: 'group',
        text: words('g'),
        enableWhen: [{ question: 'a', operator: '=', answer: true }],
        items: [question('b', { required: true })],
      },
      question('c', { required: true, enableWhen: [{ question: 'b', operator: '=', answer: true }] }),
    );
    expect([...shownItems(nested, { a: [true], b: [true] })]).toEqual(['a', 'g', 'b', 'c']);
    // b was answered, then a was changed: b no longer counts, so c is hidden too and asks for nothing.
    expect([...shownItems(nested, { a: [false], b: [true] })]).toEqual(['a']);
    expect(faultsOf(nested, { a: [false], b: [true] })).toEqual([]);
    expect(answersThatCount(nested, { a: [false], b: [true] })).toEqual({ a: [false] });
  });

  it('takes blank text for no answer, in conditions as everywhere', () => {
    // FHIR R4, questionnaire-enable-operator (from memory): `exists` asks whether there is an answer.
    const asked = form(
      question('a', { type: 'string' }),
      question('b', { enableWhen: [{ question: 'a', operator: 'exists', answer: true }] }),
      question('c', { enableWhen: [{ question: 'a', operator: 'exists', answer: false }] }),
    );
    expect([...shownItems(asked, { a: ['  '] })]).toEqual(['a', 'c']);
    expect([...shownItems(asked, { a: [' x'] })]).toEqual(['a', 'b']);
    expect(answersThatCount(asked, { a: [' '], b: [true] })).toEqual({});
  });

  const CHOICE = { type: 'choice', options: [{ code: 'x', text: words('x') }] } as const;
  const COUNT = { type: 'integer', min: 0, max: 20 } as const;
  it.each([
    [{}, '>', true, true],
    [{}, '=', 'yes', true],
    [{}, 'exists', 'true', true],
    [{}, '=', false, false],
    [{}, 'exists', false, false],
    [CHOICE, '=', 'y', true],
    [CHOICE, '=', 'x', false],
    [CHOICE, '!=', 'y', false],
    [CHOICE, '>', 'x', true],
    [COUNT, '>', '3', true],
    [COUNT, '>', 20, true],
    [COUNT, '>=', 20, false],
    [COUNT, '<', 0, true],
    [COUNT, '<=', 0, false],
    [COUNT, '=', 21, true],
    [{ type: 'date' }, '>', '2026-02-30', true],
    [{ type: 'date' }, '>', '2026-02-28', false],
    [{ type: 'string' }, '=', ' ', true],
  ] as const)('names a condition that can never hold: %j %s %j', (kind, operator, answer, named) => {
    const asked = form(question('a', kind), question('b', { enableWhen: [{ question: 'a', operator, answer }] }));
    expect(formFaults(asked)).toEqual(named ? [{ linkId: 'b', fault: 'never-holds' }] : []);
  });

  it('names a red flag that no answer would raise', () => {
    const advice = words('Call 911.');
    const flagged = form(
      question('a', { redFlag: { answer: 'true', advice } }),
      question('b', { ...CHOICE, redFlag: { answer: 'y', advice } }),
      question('c', { redFlag: { answer: true, advice } }),
    );
    expect(formFaults(flagged)).toEqual([
      { linkId: 'a', fault: 'never-raised' },
      { linkId: 'b', fault: 'never-raised' },
    ]);
  });

  it('finds what makes a form unusable', () => {
    const bad = form(
      question('a', { enableWhen: [{ question: 'b', operator: '=', answer: true }] }),
      question('b', { enableWhen: [{ question: 'a', operator: '=', answer: true }] }),
      question('e'),
      question('e', { type: 'choice' }),
      question('d', { enableWhen: [{ question: 'nowhere', operator: 'exists', answer: true }] }),
    );
    expect(formFaults(bad).map(({ linkId, fault }) => `${linkId} ${fault}`)).toEqual([
      'a circle',
      'b circle',
      'e twice',
      'e no-options',
      'd unknown-question',
    ]);
    expect(shownItems(bad, { a: [true], b: [true] }).has('a')).toBe(false);
  });
});

describe('an answer', () => {
  const one = form(
    question('yes'),
    question('count', { type: 'integer', min: 0, max: 20 }),
    question('day', { type: 'date' }),
    question('name', { type: 'string', required: true }),
    question('pick', { type: 'choice', options: [{ code: 'x', text: words('x') }] }),
    question('many', {
      type: 'choice',
      repeats: true,
      options: ['x', 'y'].map((code) => ({ code, text: words(code) })),
    }),
  );
  it.each([
    ['yes', [true], null],
    ['yes', ['true'], 'wrong-kind'],
    ['count', [20], null],
    ['count', [21], 'out-of-range'],
    ['count', [0], null],
    ['count', [-1], 'out-of-range'],
    ['count', [1.5], 'not-a-whole-number'],
    ['day', ['2028-02-29'], null],
    ['day', ['2026-02-29'], 'not-a-date'],
    ['name', ['x'.repeat(120)], null],
    ['name', ['x'.repeat(121)], 'too-long'],
    ['pick', ['x'], null],
    ['pick', ['z'], 'not-an-option'],
    ['pick', ['x', 'x'], 'only-one'],
    ['many', ['x', 'y'], null],
    ['many', ['x', 'z'], 'not-an-option'],
    ['nothing', [1], 'no-such-question'],
  ] as const)('%s of %j: %s', (linkId, value, fault) => {
    expect(faultOfAnswer(one, linkId, value as never)).toBe(fault);
  });
  it('that is blank is none', () => {
    expect(faultsOf(one, { name: ['  '] })).toEqual([{ linkId: 'name', fault: 'needed' }]);
    expect(faultsOf(one, { name: ['Ana'] })).toEqual([]);
  });
  it('raises a red flag only where its question is shown', () => {
    const flagged = form(
      question('a'),
      question('b', {
        enableWhen: [{ question: 'a', operator: '=', answer: true }],
        redFlag: { answer: true, advice: words('Call') },
      }),
    );
    expect(raisedFlags(flagged, { a: [true], b: [true] }).map(({ linkId }) => linkId)).toEqual(['b']);
    expect(raisedFlags(flagged, { a: [false], b: [true] })).toEqual([]);
    expect(raisedFlags(flagged, { a: [true], b: [false] })).toEqual([]);
  });
});

describe('a form filled on two devices', () => {
  const stored: StoredAnswers = { a: { value: ['old'], rev: 3 } };
  it('keeps both where they changed different answers', () => {
    const first = mergeChanges(stored, [{ linkId: 'a', value: ['mine'], base: 3 }], 4);
    const second = mergeChanges(first.answers, [{ linkId: 'b', value: ['theirs'], base: 0 }], 5);
    expect([plainAnswers(second.answers), second.conflicts]).toEqual([{ a: ['mine'], b: ['theirs'] }, []]);
  });
  it('keeps what stands and names the conflict where they changed the same one', () => {
    const first = mergeChanges(stored, [{ linkId: 'a', value: ['mine'], base: 3 }], 4);
    const second = mergeChanges(first.answers, [{ linkId: 'a', value: ['theirs'], base: 3 }], 5);
    expect(second).toEqual({ answers: first.answers, changed: [], conflicts: [{ linkId: 'a', mine: ['theirs'] }] });
  });
  it('takes the same saving twice, as after a lost answer, without a conflict', () => {
    const change = [{ linkId: 'a', value: ['mine'], base: 3 }];
    const once = mergeChanges(stored, change, 4);
    expect(mergeChanges(once.answers, change, 5)).toEqual({ answers: once.answers, changed: [], conflicts: [] });
  });
  it('loses no answer, whatever two devices do: each change stands or is named', () => {
    const change = fc.record({
      linkId: fc.constantFrom('a', 'b', 'c'),
      value: fc.array(fc.constantFrom('x', 'y', 'z'), { maxLength: 1 }),
      base: fc.integer({ min: 0, max: 6 }),
    });
    fc.assert(
      fc.property(fc.array(change, { maxLength: 12 }), (changes: AnswerChange[]) => {
        let now: StoredAnswers = {};
        changes.forEach((each, i) => {
          const merged = mergeChanges(now, [each], i + 1);
          const stands = (merged.answers[each.linkId]?.value ?? []).join() === each.value.join();
          expect(stands || merged.conflicts.some(({ linkId }) => linkId === each.linkId)).toBe(true);
          for (const [linkId, { rev }] of Object.entries(now))
            expect(merged.answers[linkId].rev).toBeGreaterThanOrEqual(rev);
          now = merged.answers;
        });
      }),
    );
  });
});

describe('the packet of a visit', () => {
  const facts = { visitTypeId: 't', kind: 'new' as const, visitDate: '2026-12-01', signed: [] };
  const rule = { documentId: 'd', visitTypeIds: null, kinds: null, validMonths: 12 };
  it.each([
    [{}, {}, 'asked'],
    [{ visitTypeIds: ['other'] }, {}, 'other-visit-type'],
    [{ kinds: ['established' as const] }, {}, 'other-kind'],
    [{}, { signed: [{ documentId: 'd', on: '2025-12-01' }] }, 'still-valid'],
    [{}, { signed: [{ documentId: 'd', on: '2025-11-30' }] }, 'asked'],
    [{}, { signed: [{ documentId: 'other', on: '2026-11-30' }] }, 'asked'],
    [{ validMonths: null }, { signed: [{ documentId: 'd', on: '2026-11-30' }] }, 'asked'],
  ])('case %#', (rules, more, reason) => {
    expect(packetFor([{ ...rule, ...rules }], { ...facts, ...more })[0].reason).toBe(reason);
  });
});

describe('a consent', () => {
  const act = { agreed: true, signer: 'self' as const, signerName: 'Ana Ruiz', signature: { kind: 'typed' as const } };
  it.each([
    [{}, '1990-01-01', []],
    [{ agreed: false }, '1990-01-01', ['not-agreed']],
    [{ signerName: ' . ' }, '1990-01-01', ['name-empty']],
    [{ signature: { kind: 'drawn' as const, strokes: [] } }, '1990-01-01', ['signature-empty']],
    [{ signature: { kind: 'drawn' as const, strokes: [Array(7).fill([1, 1])] } }, '1990-01-01', ['signature-empty']],
    [{ signature: { kind: 'drawn' as const, strokes: [Array(8).fill([1, 1])] } }, '1990-01-01', []],
    [{}, '2008-12-02', ['minor-signs']],
    [{}, '2008-12-01', []],
    [{ signer: 'parent' as const }, '2020-12-01', []],
  ])('case %#', (more, birthDate, faults) => {
    expect(consentFaults({ ...act, ...more }, birthDate, '2026-12-01')).toEqual(faults);
  });
});

describe('readiness', () => {
  const facts = {
    personKnown: true,
    openFlags: 0,
    clearedFlags: 0,
    documents: [
      { id: 'f', kind: 'form' as const, done: true },
      { id: 'c', kind: 'consent' as const, done: true },
    ],
    contactGood: true,
    confirmed: true,
    waived: [],
  };
  it.each([
    [{}, true, 5, 5],
    [{ confirmed: false, contactGood: false }, true, 3, 5],
    [{ personKnown: false }, false, 4, 5],
    [{ personKnown: false, waived: ['person'] }, false, 4, 5],
    [{ openFlags: 1 }, false, 5, 6],
    [{ openFlags: 1, waived: ['red-flag'] }, false, 5, 6],
    [{ clearedFlags: 1 }, true, 6, 6],
    [{ documents: [{ id: 'f', kind: 'form' as const, done: false }] }, false, 3, 4],
    [{ documents: [{ id: 'f', kind: 'form' as const, done: false }], waived: ['form:f'] }, true, 4, 4],
    [{ documents: [{ id: 'f', kind: 'form' as const, done: false }], waived: ['form:other'] }, false, 3, 4],
  ])('case %#', (more, ready, done, total) => {
    const result = readinessOf({ ...facts, ...more });
    expect([result.ready, result.done, result.total]).toEqual([ready, done, total]);
  });
});

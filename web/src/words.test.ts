import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Endpoint } from '@zaguan/contracts';
import { SETUP_KINDS } from '@zaguan/contracts/setup';
import { describe, expect, it } from 'vitest';
import { INVITATION_EN, INVITATION_ES } from './patient/features/invitation/words.invitation.ts';
import { en as patientEn } from './patient/words.en.ts';
import { es as patientEs } from './patient/words.es.ts';
import { ERRORS_EN } from './shared/i18n/errors.ts';
import { INTAKE_EN, INTAKE_ES } from './shared/i18n/intake.ts';
import { faultWords } from './staff/words.faults.en.ts';
import { en as staffEn } from './staff/words.en.ts';

const HERE = import.meta.dirname;

/** The code of a folder, without its words and tests. */
function codeOf(...folders: string[]): string[] {
  return folders.flatMap((folder) =>
    readdirSync(join(HERE, folder), { recursive: true, encoding: 'utf8' })
      .filter((file) => /\.tsx?$/.test(file) && !/\.test\.|words\.|\/i18n\/(?!codeWords)/.test(file))
      .map((file) => readFileSync(join(HERE, folder, file), 'utf8')),
  );
}

/** Every key down to its words: "daybook.title". The forms for one and for many are one key. */
function keysOf(words: object, before = ''): string[] {
  return Object.entries(words).flatMap(([name, value]) =>
    typeof value === 'string'
      ? `${before}${name.replace(/_(zero|one|other)$/, '')}`
      : keysOf(value, `${before}${name}.`),
  );
}

/** What code names: keys as they are, and patterns for keys that are put together. */
function namedIn(files: readonly string[]): { keys: Set<string>; patterns: RegExp[] } {
  const keys = new Set<string>();
  const patterns: RegExp[] = [];
  for (const text of files) {
    for (const [, key] of text.matchAll(/['"]([a-zA-Z][\w-]*(?:\.[\w-]+)*)['"]/g)) keys.add(key);
    for (const [, template] of text.matchAll(/`([a-zA-Z][\w.-]*(?:\.\$\{[^`]*?\}|\$\{[^`]*?\}\.)[^`]*)`/g))
      patterns.push(
        new RegExp(
          `^${template
            .split(/\$\{.*?\}/)
            .map((part) => part.replace(/[.*+?^$()|[\]\\{}]/g, '\\$&'))
            .join('[^.]+')}$`,
        ),
      );
    // A group whose codes come over the wire.
    for (const [, group] of text.matchAll(/codeWords\(\s*t,\s*['"`]([\w.-]+)/g))
      patterns.push(new RegExp(`^${group}\\b`));
  }
  return { keys, patterns };
}

function unused(words: object, files: readonly string[], besides: readonly RegExp[] = []): string[] {
  const { keys, patterns } = namedIn(files);
  const all = [...patterns, ...besides];
  return [...new Set(keysOf(words))].filter((key) => !keys.has(key) && !all.some((pattern) => pattern.test(key)));
}

describe('words', () => {
  it('are all used by the staff’s pages', () => {
    // The labels of setup's fields are named by the fields themselves (fieldWords).
    const fields = new RegExp(`^setup\\.(${SETUP_KINDS.join('|')})\\.`);
    // What is in the trail is the name of a contract, which has a dot of its own; a later test looks at those. Which group says
    // a code of the trail is chosen when it is drawn (Trail.tsx).
    expect(unused(staffEn, codeOf('staff', 'shared'), [fields, /^patient\.command\./, /^patient\.approval\./])).toEqual(
      [],
    );
  });

  it('are all used by the patients’ pages, in both languages', () => {
    expect(unused(patientEn, codeOf('patient', 'shared'))).toEqual([]);
    expect(keysOf(patientEs).sort()).toEqual(keysOf(patientEn).sort());
    expect(keysOf(INTAKE_ES).sort()).toEqual(keysOf(INTAKE_EN).sort());
    expect(unused({ invitation: INVITATION_EN }, codeOf('patient'))).toEqual([]);
    expect(keysOf(INVITATION_ES).sort()).toEqual(keysOf(INVITATION_EN).sort());
    expect(unused({ intake: INTAKE_EN }, codeOf('patient', 'staff', 'shared'))).toEqual([]);
  });

  it('are there for everything that a contract can find wrong', () => {
    const contracts = join(HERE, '../../contracts/src');
    const codes = readdirSync(contracts, { recursive: true, encoding: 'utf8' })
      .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts') && !file.startsWith('fhir'))
      .flatMap((file) => [
        ...readFileSync(join(contracts, file), 'utf8').matchAll(/(?:error|message): '([a-z][a-z-]*)'/g),
      ])
      .map(([, code]) => code);
    expect(codes.length).toBeGreaterThan(30);
    const known = new Set([...Object.keys(faultWords.fault), ...Object.keys(patientEn.fault)]);
    expect([...new Set(codes)].filter((code) => !known.has(code))).toEqual([]);
  });

  it('have no English beside them in code: what is shown comes from the word files', () => {
    // A text node of letters, or a label, title or placeholder that is a sentence.
    const inCode = /(?:>\s*[A-Z][a-z]+(?: [a-z]+)+[.…?!]?\s*<)|(?:(?:aria-label|title|placeholder)="[A-Z][a-z]+)/;
    const found = codeOf('staff', 'patient', 'shared').flatMap((text) =>
      text.split('\n').filter((line) => inCode.test(line) && !line.trimStart().startsWith('*')),
    );
    expect(found).toEqual([]);
  });

  it('tell each refusal to staff', () => {
    for (const words of Object.values(ERRORS_EN)) expect(words.length).toBeGreaterThan(10);
  });
});

describe('the trail of a record', () => {
  it('names everything that is read of a patient, and everything done to a record or a visit', async () => {
    const folders = ['booking', 'patientVisit', 'intake', 'identityReview', 'coverage', 'patients', 'daybook', 'today'];
    const modules = await Promise.all(
      [...folders, 'availability', 'fhir', 'messages'].map(async (folder) => ({
        folder,
        contracts: Object.values(
          (await import(join(HERE, `../../contracts/src/${folder}/index.ts`))) as Record<string, Partial<Endpoint>>,
        ).filter((each) => typeof each?.name === 'string' && each.access),
      })),
    );
    const traced = modules.flatMap(({ folder, contracts }) =>
      contracts.filter((each) => each.readsPatients || (each.method !== 'get' && folders.includes(folder))),
    );
    expect(traced.length).toBeGreaterThan(25);
    // A saved list is about nobody.
    const missing = traced
      .map(({ name = '' }) => name)
      .filter((name) => !(name in staffEn.patient.command) && !name.startsWith('patientLists.'));
    expect(missing).toEqual([]);
  });
});

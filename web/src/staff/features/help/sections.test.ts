import { describe, expect, it } from 'vitest';
import { helpFor } from '../../shell/helpFor.ts';
import { PAGES } from './pages.ts';
import { helpSearch, sectionsOf, slugOf } from './sections.ts';

const SECTIONS = new Set(PAGES.flatMap(sectionsOf).map(({ id }) => id));
const SCREENS = [
  '/today',
  '/daybook',
  '/daybook/2026-12-01',
  '/identity-review',
  '/intake',
  '/availability',
  '/patients',
  '/patients/new',
  '/patients/x',
  '/simulated-carriers',
  ...['guide', 'clinic', 'person', 'account', 'site', 'place', 'pool', 'visit-type', 'online', 'payer', 'field'].map(
    (place) => `/setup/${place}`,
  ),
  '/setup/roles',
];

describe('the help inside', () => {
  it.each(SCREENS)('knows where it speaks of %s', (screen) => {
    const target = helpFor(screen).replace(/^\/help\//, '');
    expect(target).not.toBe('/help');
    expect(SECTIONS).toContain(target.includes('#') ? target : `${target}#`);
  });

  it('leads to its first page from where it says nothing', () => {
    expect(helpFor('/nowhere')).toBe('/help');
    expect(helpFor('/setupish')).toBe('/help');
  });

  it('speaks to its users: no source files, no code', () => {
    for (const { id, text } of PAGES) {
      const words = text.replace(/```example[\s\S]*?```/g, '');
      expect([
        id,
        words.match(/[\w/]*\/src\/[\w./]*|\w+\.(?:ts|tsx|sql|mjs)\b|`[a-z]+_[a-z_]+`|[A-Z]+_[A-Z_]+/g),
      ]).toEqual([id, null]);
    }
  });

  it('names each section once', () => {
    const all = PAGES.flatMap(sectionsOf).map(({ id }) => id);
    expect(new Set(all).size).toBe(all.length);
    expect(all.length).toBeGreaterThan(50);
  });

  it('reads a rule’s words where it is found, not its code', () => {
    const rule = sectionsOf(PAGES.find(({ id }) => id === 'availability') as (typeof PAGES)[number]).find(
      ({ slug }) => slug === 'site-closed',
    );
    expect(rule?.heading).toBe('the site is closed');
  });

  it('makes anchors as the page does, a rule’s by its code', () => {
    expect(slugOf('A patient’s page')).toBe('a-patients-page');
    expect(slugOf('Fields and questions')).toBe('fields-and-questions');
    expect(slugOf('`too-soon`: less notice than asked')).toBe('too-soon');
  });

  it.each([
    ['closure', 'site-closed'],
    ['check digit', 'people'],
    ['vestibul', 'vestibule'],
    ['calender file', 'sites'],
    ['majority custody', 'a-patients-page'],
  ])('finds “%s” near the top', (words, slug) => {
    const found = helpSearch(PAGES)(words).slice(0, 4);
    expect(found.map((section) => section.slug)).toContain(slug);
  });

  it('finds nothing where a word is not there, and nothing for nothing', () => {
    expect(helpSearch(PAGES)('zzyzx closure')).toEqual([]);
    expect(helpSearch(PAGES)('')).toEqual([]);
  });
});

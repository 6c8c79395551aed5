import type { AnswerValue, FormItem, Words } from './types.ts';

const YES: Words = { en: 'Yes', es: 'Sí' };
const NO: Words = { en: 'No', es: 'No' };

/** One answer as people read it: yes or no, the option's own words, or what was typed. */
export function answerText(item: FormItem | undefined, value: AnswerValue): Words {
  if (typeof value === 'boolean') return value ? YES : NO;
  const option = item?.options?.find(({ code }) => code === value);
  return option ? option.text : { en: String(value), es: String(value) };
}

import type { SetupKind } from '@zaguan/contracts/setup';
import type { TFunction } from 'i18next';
import type { en } from '../../words.en.ts';

type SetupWords = (typeof en)['setup'];

/** The fields of a kind of record that have words. */
export type FieldOf<K extends SetupKind> = Extract<keyof SetupWords[K], string>;

/** A field's label. The kind may be known only when it is drawn, which the words' own types can't follow. */
export function fieldWords<K extends SetupKind>(t: TFunction, kind: K, field: FieldOf<K>): string {
  return t(`setup.${kind}.${field}` as 'setup.site.name');
}

/** The same for a name that came from a file or a refusal: as it is, where it has no words. */
export function fieldWordsOr(t: TFunction, kind: SetupKind, field: string): string {
  return t(`setup.${kind}.${field}` as 'setup.site.name', { defaultValue: field });
}

import { useTranslation } from 'react-i18next';
import type { Language } from '../../../../shared/time/format.ts';

/** The page's language as the contracts name it. */
export function useLanguage(): Language {
  const { i18n } = useTranslation();
  return i18n.language.startsWith('es') ? 'es' : 'en';
}

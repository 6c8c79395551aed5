import 'i18next';
import type { ERRORS_EN } from '../shared/i18n/errors.ts';
import type { INTAKE_EN } from '../shared/i18n/intake.ts';
import type { en } from './words.en.ts';

declare module 'i18next' {
  /** A key without words does not compile. */
  interface CustomTypeOptions {
    defaultNS: 'translation';
    resources: { translation: typeof en & { intake: typeof INTAKE_EN; error: typeof ERRORS_EN } };
  }
}

import 'i18next';
import type { ERRORS_EN } from '../shared/i18n/errors.ts';
import type { INTAKE_EN } from '../shared/i18n/intake.ts';
import type { INVITATION_EN } from './features/invitation/words.invitation.ts';
import type { en } from './words.en.ts';

declare module 'i18next' {
  /** A key without words does not compile. */
  interface CustomTypeOptions {
    defaultNS: 'translation';
    resources: {
      translation: typeof en & { invitation: typeof INVITATION_EN; intake: typeof INTAKE_EN; error: typeof ERRORS_EN };
    };
  }
}

import i18next from 'i18next';
import { INVITATION_EN, INVITATION_ES } from './words.invitation.ts';

i18next.addResourceBundle('en', 'translation', { invitation: INVITATION_EN }, true);
i18next.addResourceBundle('es', 'translation', { invitation: INVITATION_ES }, true);

export { InvitationPage } from './InvitationPage.tsx';

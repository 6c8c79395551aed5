export { FunnelPage } from './follow/FunnelPage.tsx';
export { InviteLink } from './InviteLink.tsx';
export { InvitePanel } from './InvitePanel.tsx';
export { PatientInvitations } from './PatientInvitations.tsx';
export { TemplatesPage } from './pages/TemplatesPage.tsx';
export { useMayInvite } from './useMayInvite.ts';

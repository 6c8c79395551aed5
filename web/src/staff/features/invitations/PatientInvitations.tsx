import { useTranslation } from 'react-i18next';
import { Followed } from './Followed.tsx';
import { invitationsApi } from './invitations.api.ts';

/** A patient's invitations on their page; nothing where there never was one. */
export function PatientInvitations({ patientId }: { patientId: string }) {
  const { t } = useTranslation();
  const { currentData } = invitationsApi.useInvitationsOfPatientQuery({ patientId });
  if (!currentData?.invitations.length) return null;
  return (
    <section aria-label={t('invite.ofPatient')}>
      <h2 className="mb-1 font-bold">{t('invite.ofPatient')}</h2>
      <ul>
        {currentData.invitations.map((each) => (
          <Followed key={each.id} of={each} withName={false} />
        ))}
      </ul>
    </section>
  );
}

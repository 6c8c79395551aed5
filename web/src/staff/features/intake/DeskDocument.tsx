import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ConsentSigner } from '../../../shared/intake/ConsentSigner.tsx';
import { FormFiller } from '../../../shared/intake/FormFiller.tsx';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { api } from '../../api.ts';
import { useAppDispatch } from '../../store.ts';
import { intakeApi } from './intake.api.ts';

/** A form or consent filled in together with the patient, on the desk's screen. */
export function DeskDocument({
  visitId,
  documentId,
  onLeave,
}: {
  visitId: string;
  documentId: string;
  onLeave: () => void;
}) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const { data, error } = intakeApi.usePacketQuery({ id: visitId }, { refetchOnMountOrArgChange: true });
  const [saveForm, saving] = intakeApi.useSaveFormMutation();
  const [sign, signing] = intakeApi.useSignMutation();
  const refused = apiError(error) ?? apiError(saving.error) ?? apiError(signing.error);
  const document = data?.packet.documents.find((each) => each.id === documentId);
  const leave = () => {
    dispatch(api.util.invalidateTags(['Intake', 'Day', 'Today']));
    onLeave();
  };
  return (
    <section className="flex flex-col gap-3">
      <Button look="plain" className="self-start" onClick={leave}>
        ‹ {t('readiness.backToList')}
      </Button>
      {document && <h3 className="text-lg leading-tight font-bold">{document.title.en}</h3>}
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
        </Notice>
      )}
      {document?.kind === 'form' && (
        <FormFiller
          document={document}
          language="en"
          save={async (changes, complete) =>
            (await saveForm({ id: visitId, formId: documentId, language: 'en', changes, complete })).data ?? null
          }
          onDone={leave}
        />
      )}
      {document?.kind === 'consent' && data && (
        <ConsentSigner
          document={document}
          language="en"
          birthDate={data.packet.birthDate}
          today={data.packet.today}
          busy={signing.isLoading}
          onSign={async (act) => {
            const result = await sign({ id: visitId, consentId: documentId, ...act });
            if (result.data) leave();
          }}
        />
      )}
    </section>
  );
}

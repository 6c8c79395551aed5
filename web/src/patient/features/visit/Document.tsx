import type { Packet } from '@zaguan/contracts/intake';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ConsentSigner } from '../../../shared/intake/ConsentSigner.tsx';
import { FormFiller } from '../../../shared/intake/FormFiller.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { Step, useLanguage } from '../booking/index.ts';
import { visitApi } from './visit.api.ts';

interface Props {
  readonly packet: Packet;
  readonly documentId: string;
  readonly token: string;
  readonly birthDate: string;
  /** Done or left: the list shows what is left to do. */
  readonly onLeave: () => void;
}

/** One form or consent of the packet, opened from the visit. */
export function Document({ packet, documentId, token, birthDate, onLeave }: Props) {
  const { t } = useTranslation();
  const language = useLanguage();
  const [saveForm, saving] = visitApi.useSaveFormMutation();
  const [sign, signing] = visitApi.useSignMutation();
  const document = packet.documents.find((each) => each.id === documentId);
  const refused = apiError(saving.error) ?? apiError(signing.error);
  if (!document) return null;
  return (
    <Step question={document.title[language]} trail={t('visit.toVisit')} onBack={onLeave}>
      {refused && (
        <div className="mb-4">
          <Notice tone="danger" live="assertive">
            {t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
          </Notice>
        </div>
      )}
      {document.kind === 'form' ? (
        <FormFiller
          document={document}
          language={language}
          save={async (changes, complete) =>
            (await saveForm({ token, formId: document.id, birthDate, language, changes, complete })).data ?? null
          }
          onDone={onLeave}
        />
      ) : (
        <ConsentSigner
          document={document}
          language={language}
          birthDate={packet.birthDate}
          today={packet.today}
          busy={signing.isLoading}
          onSign={async (act) => {
            const result = await sign({ token, consentId: document.id, birthDate, ...act });
            if (result.data || apiError(result.error)?.tag === 'SignedAlready') onLeave();
          }}
        />
      )}
    </Step>
  );
}

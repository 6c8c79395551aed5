import { type ClinicDoc, CLINIC_ID, type SetupRecord } from '@zaguan/contracts/setup';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { RecordPanel } from '../components/RecordPanel.tsx';
import { NEW_DOC } from '../docs.ts';
import { ClinicEditor } from '../editors/OtherEditors.tsx';
import { setupApi } from '../setup.api.ts';
import { SetupFrame } from './SetupFrame.tsx';

/** The clinic as a whole: its name, the number patients call, how fine the Daybook is. */
export function ClinicPage() {
  const { t } = useTranslation();
  const [params, setParams] = useSearchParams();
  const query = setupApi.useRecordsQuery('clinic');
  const record = query.data?.records.find(({ id }) => id === CLINIC_ID) as SetupRecord<ClinicDoc> | undefined;
  return (
    <SetupFrame title={t('setup.place.clinic')} query={query}>
      {record && (
        <RecordPanel
          // Opened anew after each save, as it then stands.
          key={record.version}
          kind="clinic"
          title={record.doc.name}
          record={record}
          blank={NEW_DOC.clinic()}
          mayEdit={query.data?.mayEdit ?? false}
          field={params.get('field')}
          onClose={() => setParams({})}
        >
          <ClinicEditor />
        </RecordPanel>
      )}
    </SetupFrame>
  );
}

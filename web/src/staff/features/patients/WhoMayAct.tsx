import { addRelationship, type PatientRecord, RELATIONSHIP_KINDS } from '@zaguan/contracts/patients';
import { RIGHTS } from '@zaguan/core/patients';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { dateAt, shortDate } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import {
  ContractForm,
  FormActions,
  DateField,
  ManyField,
  SelectField,
  TextField,
  useContractForm,
} from '../../forms/index.ts';
import { accountsApi } from '../accounts/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { patientsApi } from './patients.api.ts';

/** Who may act for the patient: since when, until when, what they may do, and what that comes to today. */
export function WhoMayAct({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const today = dateAt(clinic?.now ?? new Date().toISOString(), clinic?.sites[0]?.timeZone ?? 'UTC');
  const [adding, setAdding] = useState(false);
  const [end] = patientsApi.useEndRelationshipMutation();
  const onEnd = async (relationshipId: string) => {
    const result = await end({ id: record.id, relationshipId, untilDate: today });
    const refused = apiError(result.error);
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
    else if (result.data) undo(t('patient.relationshipEnded'), result.data.undo.id);
  };
  return (
    <section aria-label={t('patient.whoMayAct')}>
      <h2 className="mb-1 font-bold">{t('patient.whoMayAct')}</h2>
      {record.relationships.length === 0 && <p className="text-muted">{t('patient.nobodyMayAct')}</p>}
      <ul>
        {record.relationships.map((row) => (
          <li key={row.id} data-relationship={row.id} className="flex items-baseline gap-3 border-b border-line py-1">
            <span className="w-56">
              <b>{row.name}</b>, {t(`patient.kin.${row.kind}`, { defaultValue: row.kind })}
            </span>
            <span className="w-60 text-muted">
              {t('patient.since', { date: shortDate(row.fromDate, 'en', today) })}
              {row.untilDate && `, ${t('patient.until', { date: shortDate(row.untilDate, 'en', today) })}`}
            </span>
            <span className="flex-1">
              {row.rightsToday.length
                ? t('patient.mayToday', {
                    what: row.rightsToday.map((right) => t(`patient.right.${right}`)).join(', '),
                  })
                : t('patient.mayNothing')}
              {row.limits && <b className="block text-danger">{t('patient.limited', { limits: row.limits })}</b>}
            </span>
            {record.mayEdit && row.rightsToday.length > 0 && (
              <Button look="plain" onClick={() => void onEnd(row.id)}>
                {t('patient.endToday')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {record.mayEdit && !adding && (
        <Button className="mt-2" onClick={() => setAdding(true)}>
          {t('patient.addRelationship')}
        </Button>
      )}
      {adding && <AddForm record={record} today={today} onDone={() => setAdding(false)} />}
    </section>
  );
}

function AddForm({ record, today, onDone }: { record: PatientRecord; today: string; onDone: () => void }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [add] = patientsApi.useAddRelationshipMutation();
  const form = useContractForm(addRelationship, {
    values: {
      name: '',
      kind: 'parent',
      rights: ['book', 'receive', 'see'],
      fromDate: today,
      untilDate: null,
      limits: '',
    },
    fixed: { id: record.id },
    send: add,
    onDone: (answer) => {
      undo(t('patient.relationshipAdded'), answer.undo.id);
      onDone();
    },
    keepAs: `relationship.${record.id}`,
  });
  return (
    <ContractForm
      of={form}
      className="mt-2 flex max-w-xl flex-col gap-3 rounded-md border border-line-strong bg-panel p-3"
      actions={<FormActions of={form} send={t('save')} leave={t('setup.giveUp')} onLeave={onDone} forgets />}
    >
      <div className="grid grid-cols-2 gap-3">
        <TextField name="name" label={t('patient.theirName')} />
        <SelectField
          name="kind"
          label={t('patient.kinship')}
          required={false}
          options={RELATIONSHIP_KINDS.map((kind) => ({ value: kind, label: t(`patient.kin.${kind}`) }))}
        />
        <DateField name="fromDate" label={t('patient.fromDate')} />
        <DateField name="untilDate" orNull label={t('patient.untilDate')} hint={t('patient.untilHint')} />
      </div>
      <ManyField
        name="rights"
        label={t('patient.may')}
        options={RIGHTS.map((right) => ({ value: right, label: t(`patient.right.${right}`) }))}
      />
      <TextField name="limits" label={t('patient.limits')} hint={t('patient.limitsHint')} />
    </ContractForm>
  );
}

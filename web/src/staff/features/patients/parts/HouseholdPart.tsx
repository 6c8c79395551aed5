import { joinHousehold, type PatientRecord } from '@zaguan/contracts/patients';
import { useState } from 'react';
import { useController } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { shortDate } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CheckField, ContractForm, FormActions, useContractForm, useFault } from '../../../forms/index.ts';
import { useClinicTime } from '../../accounts/index.ts';
import { PatientPicker } from '../../finder/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { patientsApi } from '../patients.api.ts';

/** Who lives with them, and when each comes. It gives nobody a right. */
export function HouseholdPart({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const [isJoining, setJoining] = useState(false);
  const undo = useUndoToast();
  const [leave] = patientsApi.useLeaveHouseholdMutation();
  const onLeave = async () => {
    const result = await leave({ id: record.id });
    const refused = apiError(result.error);
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
    else if (result.data) undo(t('household.left'), result.data.undo.id);
  };
  return (
    <section aria-label={t('edit.part.household')} data-part="household">
      <h2 className="mb-1 font-bold">{t('edit.part.household')}</h2>
      {record.household ? <Members of={record.household} /> : <p className="text-muted">{t('household.none')}</p>}
      {record.mayEdit && !isJoining && (
        <div className="mt-2 flex flex-wrap gap-2">
          <Button onClick={() => setJoining(true)}>{t('household.join')}</Button>
          {record.household && <Button onClick={() => void onLeave()}>{t('household.leave')}</Button>}
        </div>
      )}
      {isJoining && <JoinForm record={record} close={() => setJoining(false)} />}
    </section>
  );
}

function Members({ of: { members } }: { of: NonNullable<PatientRecord['household']> }) {
  const { t } = useTranslation();
  const { today } = useClinicTime();
  if (!members.length) return <p className="text-muted">{t('household.none')}</p>;
  return (
    <ul>
      {members.map(({ id, name, age, status, nextVisit, lastVisit }) => (
        <li key={id ?? name} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1">
          <span className="w-56 font-semibold">
            {id ? (
              <Link className="underline" to={`/patients/${id}`}>
                {name}
              </Link>
            ) : (
              name
            )}
          </span>
          <span className="w-20 text-muted">{age !== null && t('household.age', { count: age })}</span>
          <span className="flex-1">
            {nextVisit ? (
              <Link className="underline" to={`/daybook/${nextVisit.date}?visit=${nextVisit.id}`}>
                {t('household.nextVisit', { date: shortDate(nextVisit.date, 'en', today) })}
              </Link>
            ) : (
              id && status !== 'deceased' && <span className="text-muted">{t('household.nothingBooked')}</span>
            )}
            {lastVisit && (
              <span className="text-muted">
                {' '}
                · {t('household.lastVisit', { date: shortDate(lastVisit, 'en', today) })}
              </span>
            )}
            {status !== 'active' && status !== 'new' && (
              <b className="text-warning"> · {t(`patient.status.${status}`)}</b>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}

function JoinForm({ record, close }: { record: PatientRecord; close: () => void }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [join] = patientsApi.useJoinHouseholdMutation();
  const form = useContractForm(joinHousehold, {
    values: { withPatientId: '', copyAddress: true, copyContacts: true },
    fixed: { id: record.id },
    send: join,
    onDone: ({ undo: way }) => {
      undo(t('household.joined'), way.id);
      close();
    },
  });
  return (
    <ContractForm
      of={form}
      label={t('household.join')}
      className="mt-2 flex max-w-xl flex-col gap-3 rounded-md border border-line-strong bg-panel p-3"
      actions={<FormActions of={form} send={t('household.doJoin')} leave={t('setup.giveUp')} onLeave={close} forgets />}
    >
      <p className="text-muted">{t('household.note')}</p>
      <WithWhom />
      <CheckField name="copyAddress" label={t('household.copyAddress')} />
      <CheckField name="copyContacts" label={t('household.copyContacts')} />
    </ContractForm>
  );
}

function WithWhom() {
  const { t } = useTranslation();
  const { field } = useController({ name: 'withPatientId' });
  const fault = useFault('withPatientId');
  return (
    <PatientPicker label={t('household.with')} error={fault} onPick={(patient) => field.onChange(patient?.id ?? '')} />
  );
}

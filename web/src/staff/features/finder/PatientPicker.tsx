import type { FoundPatient } from '@zaguan/contracts/patients';
import { Command } from 'cmdk';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL } from '../../../shared/ui/Field.tsx';
import { accountsApi } from '../accounts/index.ts';
import { PatientHit } from './PatientHit.tsx';
import { usePatientHits } from './usePatientHits.ts';

interface Props {
  readonly label: string;
  readonly error?: string;
  /** `null`: nobody is chosen any more. */
  readonly onPick: (patient: FoundPatient | null) => void;
}

/** Chooses one patient by the same search as the box at the top of every page. */
export function PatientPicker({ label, error, onPick }: Props) {
  const { t } = useTranslation();
  const { data } = accountsApi.useWhoAmIQuery({});
  const [text, setText] = useState('');
  const [picked, setPicked] = useState<FoundPatient | null>(null);
  const { patients, say, refused } = usePatientHits(data?.me ?? null, text.trim());
  const pick = (patient: FoundPatient | null) => {
    setPicked(patient);
    onPick(patient);
  };
  return (
    <fieldset aria-label={label} className="flex flex-col gap-1">
      <span aria-hidden="true" className="font-semibold">
        {label}
      </span>
      {picked ? (
        <div className="flex flex-wrap items-center gap-2" data-picked={picked.id}>
          <PatientHit patient={picked} />
          <Button onClick={() => pick(null)}>{t('pick.change')}</Button>
        </div>
      ) : (
        <Command shouldFilter={false} label={label}>
          <Command.Input
            value={text}
            onValueChange={setText}
            maxLength={100}
            placeholder={t('patients.search')}
            className={CONTROL}
            aria-invalid={Boolean(error)}
          />
          {/* The box points to it, typed in or not. */}
          <Command.List label={t('finder.found')} hidden={text.trim() === ''} className="max-h-64 overflow-y-auto">
            {patients.map((patient) => (
              <Command.Item
                key={patient.id}
                value={patient.id}
                data-found={patient.id}
                className="cursor-pointer rounded-sm px-3 py-1.5 data-[selected=true]:bg-accent-subtle"
                onSelect={() => pick(patient)}
              >
                <PatientHit patient={patient} />
              </Command.Item>
            ))}
          </Command.List>
          <p role="status" className="text-muted empty:hidden">
            {say === 'noPatient' ? t('pick.nobody') : say === 'more' ? t('finder.more') : ''}
          </p>
        </Command>
      )}
      {(error ?? refused) && (
        <p role="alert" className="font-semibold text-danger">
          {error ?? (refused && t(`error.${refused.tag}`, { requestId: refused.requestId }))}
        </p>
      )}
    </fieldset>
  );
}

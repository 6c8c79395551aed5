import { registerPatients } from '@zaguan/contracts/patients';
import { UserPlus } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useFieldArray } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import {
  CheckField,
  ContractForm,
  FormActions,
  SelectField,
  TextField,
  useContractForm,
  useValue,
} from '../../../forms/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { AddressFields } from '../parts/Details.tsx';
import { patientsApi } from '../patients.api.ts';
import { Guardians } from './Guardians.tsx';
import { LikePatients } from './LikePatients.tsx';
import { PersonFields } from './PersonFields.tsx';
import { NOBODY, type TypedPerson } from './typedPerson.ts';

const EMPTY = {
  people: [NOBODY],
  language: 'en' as const,
  contact: '',
  unreachable: false,
  ...{ street: '', city: '', region: '', postalCode: '' },
  guardians: [],
  notThese: [],
};

/** A new patient, or a whole household at once; who may be on record already stands beside it while one types. */
export function RegisterPage() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const undo = useUndoToast();
  const [register] = patientsApi.useRegisterMutation();
  useEffect(() => {
    document.title = t('register.title');
  }, [t]);
  const form = useContractForm(registerPatients, {
    values: EMPTY,
    fixed: {},
    send: register,
    onDone: ({ patients, undo: way }) => {
      const numbers = patients.map(({ recordNumber }) => recordNumber).join(', ');
      undo(t('register.done', { count: patients.length, numbers }), way.id);
      void navigate(`/patients/${patients[0].id}`);
    },
    keepAs: 'register',
  });
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-baseline gap-3 border-b border-line px-4 py-2">
        <h1 className="text-xl font-bold">{t('register.title')}</h1>
        <span className="text-muted">{t('register.note')}</span>
      </header>
      <ScrollRegion className="min-h-0 flex-1 p-4" aria-label={t('register.title')}>
        <ContractForm
          of={form}
          label={t('register.title')}
          className="grid grid-cols-[minmax(0,34rem)_minmax(0,1fr)] items-start gap-8 max-lg:grid-cols-1"
          actions={null}
        >
          <div className="flex flex-col gap-5">
            <People />
            <Shared />
            <Guardians />
            <Actions of={form} onLeave={() => void navigate('/patients')} />
          </div>
          <LikePatients />
        </ContractForm>
      </ScrollRegion>
    </main>
  );
}

function Actions({ of, onLeave }: { of: { isSending: boolean; giveUp: () => void }; onLeave: () => void }) {
  const { t } = useTranslation();
  const count = useValue<readonly unknown[]>('people').length;
  return (
    <FormActions of={of} send={t('register.save', { count })} leave={t('register.giveUp')} onLeave={onLeave} forgets />
  );
}

/** Everybody who is registered; whoever comes after the first begins with their last name. */
function People() {
  const { t } = useTranslation();
  const { fields, append, remove } = useFieldArray<{ people: TypedPerson[] }>({ name: 'people' });
  const people = useValue<readonly TypedPerson[]>('people');
  return (
    <>
      {fields.map(({ id }, at) => (
        <PersonFields key={id} at={at} isAlone={fields.length === 1} onRemove={() => remove(at)} />
      ))}
      <Button
        className="self-start"
        onClick={() =>
          append({ ...NOBODY, familyName: people[0].familyName }, { focusName: `people.${fields.length}.givenName` })
        }
      >
        <UserPlus size={16} aria-hidden="true" /> {t('register.addPerson')}
      </Button>
    </>
  );
}

/** What a household has in common, typed once: how it is reached, its language and address. */
function Shared() {
  const { t } = useTranslation();
  const [hasAddress, setHasAddress] = useState(false);
  const [street, city] = [useValue<string>('street'), useValue<string>('city')];
  const isFilled = Boolean(street || city);
  return (
    <div className="flex flex-col gap-3">
      <TextField name="contact" label={t('register.contact')} autoComplete="off" required />
      <CheckField name="unreachable" label={t('register.unreachable')} />
      <SelectField
        name="language"
        label={t('register.language')}
        required={false}
        options={(['en', 'es'] as const).map((value) => ({ value, label: t(`patient.${value}`) }))}
      />
      <details open={hasAddress || isFilled} onToggle={(event) => setHasAddress(event.currentTarget.open)}>
        <summary className="cursor-pointer font-semibold">{t('register.address')}</summary>
        <div className="mt-2 flex flex-col gap-3">
          <AddressFields />
        </div>
      </details>
    </div>
  );
}

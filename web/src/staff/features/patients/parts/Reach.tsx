import { addContact, CONTACT_EVENTS, CONTACT_USES, type PatientRecord } from '@zaguan/contracts/patients';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { formatPhone } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import {
  CheckField,
  ContractForm,
  FormActions,
  SelectField,
  TextField,
  useContractForm,
} from '../../../forms/index.ts';
import { ActionMenu } from '../../../shell/ActionMenu.tsx';
import { useClinicTime } from '../../accounts/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { patientsApi } from '../patients.api.ts';

type Contact = PatientRecord['contacts'][number];

/** How somebody is reached, in the order in which it is tried, with what is known of each number and address. */
export function Reach({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const [isAdding, setAdding] = useState(false);
  return (
    <section aria-label={t('edit.part.reach')} data-part="reach" className="border-t border-line pt-2">
      <h2 className="mb-1 font-bold">{t('edit.part.reach')}</h2>
      {record.contacts.length === 0 && <p className="text-muted">{t('patient.noReach')}</p>}
      <ol className="flex flex-col gap-1.5">
        {record.contacts.map((contact, place) => (
          <ContactRow key={contact.id} record={record} contact={contact} isFirst={place === 0} />
        ))}
      </ol>
      {record.mayEdit && !isAdding && (
        <Button className="mt-2" onClick={() => setAdding(true)}>
          {t('reach.add')}
        </Button>
      )}
      {isAdding && <AddForm record={record} close={() => setAdding(false)} />}
    </section>
  );
}

function ContactRow({ record, contact, isFirst }: { record: PatientRecord; contact: Contact; isFirst: boolean }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const act = useContactActs(record, contact);
  const shown = contact.kind === 'phone' ? formatPhone(contact.value) : contact.value;
  const notes = CONTACT_EVENTS.map((event) => ({ value: event, label: t(`reach.note.${event}`) }));
  return (
    <li data-contact={contact.id} className="flex items-start justify-between gap-x-2">
      <div className="min-w-0">
        <a
          className="font-semibold break-all underline"
          href={`${contact.kind === 'phone' ? 'tel' : 'mailto'}:${contact.value}`}
        >
          {shown}
        </a>{' '}
        {contact.kind === 'phone' && (
          <span className="text-muted">
            {t(`reach.uses.${contact.use as 'mobile'}`, { defaultValue: contact.use })}
          </span>
        )}
        <p className="text-sm text-muted">
          {contact.verifiedAt ? t('reach.verified', { date: write(contact.verifiedAt) }) : t('reach.unverified')}
          {contact.sharedBy > 0 && ` · ${t('reach.shared', { count: contact.sharedBy })}`}
        </p>
        {(contact.isWrong || contact.optedOut) && (
          <p className="font-semibold text-warning">{t(contact.isWrong ? 'reach.wrong' : 'reach.optedOut')}</p>
        )}
        <Ledger contact={contact} />
      </div>
      {record.mayEdit && (
        <ActionMenu
          words={t('edit.change')}
          label={shown}
          options={[
            ...(isFirst ? [] : [{ value: 'first' as const, label: t('reach.makeFirst') }]),
            ...notes,
            { value: 'remove' as const, label: t('reach.remove') },
          ]}
          onChoose={(what) => void act(what)}
        />
      )}
    </li>
  );
}

/** What was proved, agreed to and ended, newest first: it holds for whoever shares the number. */
function Ledger({ contact }: { contact: Contact }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  if (!contact.ledger.length) return null;
  return (
    <details className="text-sm">
      <summary className="cursor-pointer text-muted">{t('reach.history')}</summary>
      <ul className="ml-3">
        {contact.ledger.map((entry) => (
          <li key={`${entry.at} ${entry.event}`}>
            {write(entry.at)}: {t(`reach.event.${entry.event}`)}
            {entry.wording && <span className="block text-muted">“{entry.wording}”</span>}
          </li>
        ))}
      </ul>
    </details>
  );
}

type Act = 'first' | 'remove' | (typeof CONTACT_EVENTS)[number];

/** What can be done about a contact; each can be taken back. */
function useContactActs({ id, contacts }: PatientRecord, contact: Contact) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [order] = patientsApi.useOrderContactsMutation();
  const [remove] = patientsApi.useRemoveContactMutation();
  const [note] = patientsApi.useNoteContactMutation();
  const contactId = contact.id;
  const send = (what: Act) => {
    if (what === 'first')
      return order({
        id,
        contactIds: [contactId, ...contacts.map((each) => each.id).filter((each) => each !== contactId)],
      });
    if (what === 'remove') return remove({ id, contactId });
    return note({ id, contactId, event: what });
  };
  return async (what: Act) => {
    const result = await send(what);
    const refused = apiError(result.error);
    if (refused) toast.error(t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId }));
    else if (result.data) undo(saidOf(what), result.data.undo.id);
  };
  function saidOf(what: Act): string {
    if (what === 'first') return t('reach.ordered');
    if (what === 'remove') return t('reach.removed');
    const isForAll = contact.sharedBy > 0 && what !== 'verified';
    return isForAll ? t('reach.notedForAll', { count: contact.sharedBy }) : t('reach.noted');
  }
}

function AddForm({ record, close }: { record: PatientRecord; close: () => void }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [add] = patientsApi.useAddContactMutation();
  const form = useContractForm(addContact, {
    values: { contact: '', use: 'mobile', first: false },
    fixed: { id: record.id },
    send: add,
    onDone: ({ undo: way }) => {
      undo(t('reach.added'), way.id);
      close();
    },
    keepAs: `patient.contact.${record.id}`,
  });
  return (
    <ContractForm
      of={form}
      label={t('reach.add')}
      className="mt-2 flex flex-col gap-3"
      actions={<FormActions of={form} send={t('edit.save')} leave={t('setup.giveUp')} onLeave={close} forgets />}
    >
      <TextField name="contact" label={t('reach.value')} autoComplete="off" />
      <SelectField
        name="use"
        label={t('reach.use')}
        required={false}
        options={CONTACT_USES.map((value) => ({ value, label: t(`reach.uses.${value}`) }))}
      />
      <CheckField name="first" label={t('reach.first')} />
    </ContractForm>
  );
}

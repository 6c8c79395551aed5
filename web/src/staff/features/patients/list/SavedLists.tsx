import { savePatientList } from '@zaguan/contracts/patients';
import { X } from 'lucide-react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ContractForm, FormActions, TextField, useContractForm } from '../../../forms/index.ts';
import { UnreadableNotice } from '../../../shell/UnreadableNotice.tsx';
import { patientsApi } from '../patients.api.ts';
import { EVERYONE, type Query } from './listQuery.ts';

const isSame = (a: Query, b: Query) =>
  (Object.keys(EVERYONE) as (keyof Query)[]).every((key) => JSON.stringify(a[key]) === JSON.stringify(b[key]));

/** Lists that this account has saved, each a press away; what stands there now can be saved as one. */
export function SavedLists({ query, onChoose }: { query: Query; onChoose: (query: Query) => void }) {
  const { t } = useTranslation();
  const { data } = patientsApi.useSavedListsQuery({});
  const [remove] = patientsApi.useDeleteListMutation();
  const [isSaving, setSaving] = useState(false);
  const lists = data?.lists ?? [];
  const isKnown = isSame(query, EVERYONE) || lists.some((list) => isSame(list.query, query));
  const onRemove = async (id: string, name: string) => {
    const refused = apiError((await remove({ id })).error);
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
    else toast(t('patients.listDeleted', { name }));
  };
  return (
    <fieldset aria-label={t('patients.lists')} className="flex flex-wrap items-center gap-1.5">
      <Button
        look={isSame(query, EVERYONE) ? 'accent' : 'quiet'}
        aria-pressed={isSame(query, EVERYONE)}
        onClick={() => onChoose(EVERYONE)}
      >
        {t('patients.everyone')}
      </Button>
      {lists.map(({ id, name, query: saved }) => (
        <span key={id} data-list={name} className="inline-flex">
          <Button
            className="rounded-r-none"
            look={isSame(saved, query) ? 'accent' : 'quiet'}
            aria-pressed={isSame(saved, query)}
            onClick={() => onChoose(saved)}
          >
            {name}
          </Button>
          <Button
            className="rounded-l-none border-l-0 px-2"
            aria-label={t('patients.deleteList', { name })}
            onClick={() => void onRemove(id, name)}
          >
            <X size={14} aria-hidden="true" />
          </Button>
        </span>
      ))}
      {!isKnown && !isSaving && <Button onClick={() => setSaving(true)}>{t('patients.saveList')}</Button>}
      <UnreadableNotice ids={data?.unreadable ?? []} />
      {isSaving && <SaveForm query={query} close={() => setSaving(false)} />}
    </fieldset>
  );
}

function SaveForm({ query, close }: { query: Query; close: () => void }) {
  const { t } = useTranslation();
  const [save] = patientsApi.useSaveListMutation();
  const [name, setName] = useState('');
  const form = useContractForm(savePatientList, {
    values: { name: '' },
    fixed: { query },
    send: (request) => {
      setName(request.name.trim());
      return save(request);
    },
    onDone: () => {
      toast(t('patients.listSaved', { name }));
      close();
    },
  });
  return (
    <ContractForm
      of={form}
      label={t('patients.saveList')}
      className="flex flex-wrap items-end gap-2"
      actions={<FormActions of={form} send={t('save')} leave={t('patients.listKept')} onLeave={close} forgets />}
    >
      <TextField name="name" label={t('patients.listName')} maxLength={60} />
    </ContractForm>
  );
}

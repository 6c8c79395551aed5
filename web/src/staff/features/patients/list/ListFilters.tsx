import { LIST_NEXT, LIST_SEEN } from '@zaguan/contracts/patients';
import { useId, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { SelectField, TextField } from '../../../../shared/ui/inputs.tsx';
import { Box } from '../../../forms/index.ts';
import { prefs } from '../../../prefs.slice.ts';
import { ColumnChoice } from '../../../shell/ColumnChoice.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { EVERYONE, filtersSet, type Query } from './listQuery.ts';
import { COLUMNS } from './PatientsTable.tsx';

interface Props {
  readonly query: Query;
  readonly onChange: (to: Partial<Query>) => void;
}

/** The search, and a row of simple filters that folds away. */
export function ListFilters({ query, onChange }: Props) {
  const { t } = useTranslation();
  const set = filtersSet(query);
  const [isOpen, setOpen] = useState(set > 0);
  const id = useId();
  const dispatch = useAppDispatch();
  const hidden = useAppSelector((state) => state.prefs.hiddenColumns);
  return (
    <div className="border-b border-line px-4 py-2">
      <div className="flex flex-wrap items-center gap-2">
        <input
          type="search"
          aria-label={t('patients.searchLabel')}
          placeholder={t('patients.search')}
          maxLength={100}
          className="w-96 max-w-full rounded-md border border-line-strong bg-panel px-3 py-1.5"
          value={query.text}
          onChange={(event) => onChange({ text: event.target.value })}
        />
        <Button aria-expanded={isOpen} aria-controls={id} onClick={() => setOpen(!isOpen)}>
          {t('patients.filter.open')}
          {set > 0 && ` (${set})`}
        </Button>
        <ColumnChoice
          columns={COLUMNS.filter((column) => column !== 'name').map((column) => ({
            id: column,
            words: t(`patients.column.${column}`),
            isShown: !hidden.includes(column),
          }))}
          onToggle={(column) => dispatch(prefs.actions.toggledColumn(column))}
        />
        {set > 0 && (
          <Button look="plain" onClick={() => onChange({ ...EVERYONE, text: query.text })}>
            {t('patients.filter.clear')}
          </Button>
        )}
      </div>
      <div id={id} hidden={!isOpen}>
        {isOpen && <Filters query={query} onChange={onChange} />}
      </div>
    </div>
  );
}

function Filters({ query, onChange }: Props) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  return (
    <div className="flex flex-wrap items-end gap-3 pt-2">
      <fieldset>
        <legend className="mb-1 font-semibold">{t('patients.filter.statuses')}</legend>
        <div className="flex flex-wrap gap-1">
          {EVERYONE.statuses.map((status) => (
            <Box
              key={status}
              text={t(`patient.status.${status}`)}
              checked={query.statuses.includes(status)}
              onChange={(checked) =>
                onChange({
                  statuses: EVERYONE.statuses.filter((each) =>
                    each === status ? checked : query.statuses.includes(each),
                  ),
                })
              }
            />
          ))}
        </div>
      </fieldset>
      <SelectField
        label={t('patients.filter.site')}
        none={t('patients.filter.anySite')}
        value={query.siteId ?? ''}
        options={clinic?.sites ?? []}
        onChange={(event) => onChange({ siteId: event.target.value || null })}
      />
      <SelectField
        label={t('patients.filter.language')}
        none={t('patients.filter.anyLanguage')}
        value={query.language ?? ''}
        options={(['en', 'es'] as const).map((id) => ({ id, name: t(`patient.${id}`) }))}
        onChange={(event) => onChange({ language: event.target.value === '' ? null : (event.target.value as 'en') })}
      />
      <SelectField
        label={t('patients.filter.seen')}
        value={query.seen}
        options={LIST_SEEN.map((id) => ({ id, name: t(`patients.seen.${id}`) }))}
        onChange={(event) => onChange({ seen: event.target.value as Query['seen'] })}
      />
      <SelectField
        label={t('patients.filter.next')}
        value={query.next}
        options={LIST_NEXT.map((id) => ({ id, name: t(`patients.next.${id}`) }))}
        onChange={(event) => onChange({ next: event.target.value as Query['next'] })}
      />
      <TextField
        label={t('patients.filter.code')}
        placeholder={t('patients.filter.codeHint')}
        maxLength={8}
        value={query.code}
        onChange={(event) => onChange({ code: event.target.value })}
      />
    </div>
  );
}

import { addRelationship, type PatientRecord, RELATIONSHIP_KINDS } from '@zaguan/contracts/patients';
import { RIGHTS, type Right } from '@zaguan/core/patients';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { dateAt, shortDate } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../shared/ui/Field.tsx';
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
  const [add, { isLoading }] = patientsApi.useAddRelationshipMutation();
  const [tried, setTried] = useState(false);
  const [typed, setTyped] = useState({
    name: '',
    kind: 'parent' as (typeof RELATIONSHIP_KINDS)[number],
    rights: ['book', 'receive', 'see'] as Right[],
    fromDate: today,
    untilDate: '',
    limits: '',
  });
  const body = { ...typed, untilDate: typed.untilDate || null };
  const checked = addRelationship.body?.safeParse(body);
  const faultOf = (field: string) => {
    const found = tried && checked?.error?.issues.find((issue) => issue.path[0] === field)?.message;
    return found ? t(`setup.fault.${found}`, { defaultValue: t('setup.fault.other') }) : undefined;
  };
  const set = (change: Partial<typeof typed>) => setTyped({ ...typed, ...change });
  const submit = async () => {
    setTried(true);
    if (!checked?.success) return;
    const result = await add({ id: record.id, ...body });
    if (!('data' in result) || !result.data) return;
    undo(t('patient.relationshipAdded'), result.data.undo.id);
    onDone();
  };
  return (
    <form
      noValidate
      className="mt-2 flex max-w-xl flex-col gap-3 rounded-md border border-line-strong bg-panel p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <div className="grid grid-cols-2 gap-3">
        <Field label={t('patient.theirName')} error={faultOf('name')} required={t('setup.required')}>
          {(controlProps) => (
            <input
              {...controlProps}
              className={CONTROL}
              value={typed.name}
              onChange={(event) => set({ name: event.target.value })}
            />
          )}
        </Field>
        <Field label={t('patient.kinship')}>
          {(controlProps) => (
            <select
              {...controlProps}
              className={CONTROL}
              value={typed.kind}
              onChange={(event) => set({ kind: event.target.value as typeof typed.kind })}
            >
              {RELATIONSHIP_KINDS.map((kind) => (
                <option key={kind} value={kind}>
                  {t(`patient.kin.${kind}`)}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field label={t('patient.fromDate')} error={faultOf('fromDate')}>
          {(controlProps) => (
            <input
              {...controlProps}
              type="date"
              className={CONTROL}
              value={typed.fromDate}
              onChange={(event) => set({ fromDate: event.target.value })}
            />
          )}
        </Field>
        <Field label={t('patient.untilDate')} error={faultOf('untilDate')} hint={t('patient.untilHint')}>
          {(controlProps) => (
            <input
              {...controlProps}
              type="date"
              className={CONTROL}
              value={typed.untilDate}
              onChange={(event) => set({ untilDate: event.target.value })}
            />
          )}
        </Field>
      </div>
      <fieldset className="flex gap-3">
        <legend className="font-semibold">{t('patient.may')}</legend>
        {RIGHTS.map((right) => (
          <label key={right} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4 accent-accent"
              checked={typed.rights.includes(right)}
              onChange={(event) =>
                set({
                  rights: event.target.checked
                    ? [...typed.rights, right]
                    : typed.rights.filter((each) => each !== right),
                })
              }
            />
            {t(`patient.right.${right}`)}
          </label>
        ))}
      </fieldset>
      <Field label={t('patient.limits')} error={faultOf('limits')} hint={t('patient.limitsHint')}>
        {(controlProps) => (
          <input
            {...controlProps}
            className={CONTROL}
            value={typed.limits}
            onChange={(event) => set({ limits: event.target.value })}
          />
        )}
      </Field>
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={isLoading}>
          {t('save')}
        </Button>
        <Button onClick={onDone}>{t('setup.giveUp')}</Button>
      </div>
    </form>
  );
}

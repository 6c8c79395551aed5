import { invitationLimits, type InvitationTemplateDoc } from '@zaguan/contracts/invitations';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { useDebounced } from '../../../../shared/time/useDebounced.ts';
import { weekdayNames } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import {
  CheckField,
  DateField,
  ManyField,
  NumberField,
  Section,
  TextField,
  TimeField,
  useValue,
} from '../../../forms/index.ts';
import { accountsApi } from '../../accounts/index.ts';
import { useChoices } from '../../setup/index.ts';
import { Finds } from './Finds.tsx';
import { WordsFields } from './WordsFields.tsx';

/** Typing goes on for a moment before the server is asked. */
const AFTER_MS = 450;

/** What an invitation may book, with what it would find as it is written, and the words around it. */
export function TemplateEditor() {
  const { t } = useTranslation();
  const types = useChoices('visit-type', useValue<string[]>('typeIds'));
  const sites = useChoices('site', useValue<string[] | null>('siteIds'));
  const { data: clinic } = accountsApi.useClinicQuery({});
  const providers = (clinic?.people ?? [])
    .filter(({ kind }) => kind === 'provider')
    .map(({ id, name }) => ({ value: id, label: name }));
  return (
    <>
      <TextField name="name" label={t('setup.invitation-template.name')} maxLength={80} />
      <Live />
      <Section title={t('invite.editor.what')} note={t('invite.editor.whatNote')}>
        <ManyField name="typeIds" label={t('invite.editor.types')} options={types} />
        <ManyField name="siteIds" label={t('invite.editor.sites')} all={t('invite.editor.anySite')} options={sites} />
        <ManyField
          name="providerIds"
          label={t('invite.editor.providers')}
          all={t('invite.editor.anyProvider')}
          options={providers}
        />
        <Hours />
        <div className="grid grid-cols-2 gap-3">
          <DateField name="fromDate" label={t('invite.editor.fromDate')} orNull />
          <DateField name="untilDate" label={t('invite.editor.untilDate')} orNull />
        </div>
        <CheckField
          name="deskTimesToo"
          label={t('invite.editor.deskTimesToo')}
          hint={t('invite.editor.deskTimesHint')}
        />
      </Section>
      <Section title={t('invite.editor.use')}>
        <div className="grid grid-cols-2 items-end gap-3">
          <NumberField name="livesDays" label={t('invite.editor.livesDays')} step={1} />
          <NumberField name="uses" label={t('invite.editor.uses')} step={1} />
        </div>
        <TextField
          name="reason"
          label={t('invite.editor.reason')}
          hint={t('invite.editor.reasonHint')}
          maxLength={120}
        />
      </Section>
      <WordsFields />
    </>
  );
}

/** What it would find as it is written now. */
function Live() {
  const { t } = useTranslation();
  const { typeIds, siteIds, providerIds, hours, fromDate, untilDate, deskTimesToo } =
    useFormContext().watch() as InvitationTemplateDoc;
  const read = invitationLimits.safeParse({ typeIds, siteIds, providerIds, hours, fromDate, untilDate, deskTimesToo });
  const key = read.success ? JSON.stringify(read.data) : null;
  const settled = useDebounced(key, AFTER_MS);
  return (
    <section
      aria-label={t('invite.editor.live')}
      aria-live="polite"
      className="sticky -top-3 z-10 rounded-md border border-line-strong bg-panel px-3 py-2"
    >
      {settled === null || key === null ? (
        <p className="text-muted">{t('invite.editor.liveNothing')}</p>
      ) : (
        <Finds rules={JSON.parse(settled) as InvitationTemplateDoc} isStale={settled !== key} />
      )}
    </section>
  );
}

const NEW_HOURS = { weekdays: [1, 2, 3, 4, 5], fromMinute: 480, toMinute: 720 };

/** Times of the day on some weekdays; none: at any time. */
function Hours() {
  const { t } = useTranslation();
  const { setValue } = useFormContext();
  const hours = useValue<InvitationTemplateDoc['hours']>('hours');
  const { fields, append, remove } = useFieldArray({ name: 'hours' });
  const weekdays = weekdayNames().map((label, i) => ({ value: String(i + 1), label }));
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="mb-1 font-semibold">{t('invite.editor.hours')}</legend>
      {hours === null && <p className="text-muted">{t('invite.editor.anyTime')}</p>}
      {fields.map((field, at) => (
        <div key={field.id} className="flex flex-wrap items-end gap-3 rounded-md bg-surface-deep p-2">
          <ManyField name={`hours.${at}.weekdays`} label={t('hours.days')} options={weekdays} />
          <TimeField name={`hours.${at}.fromMinute`} label={t('hours.from')} />
          <TimeField name={`hours.${at}.toMinute`} label={t('hours.until')} />
          <Button
            onClick={() => {
              if (fields.length === 1) setValue('hours', null, { shouldDirty: true });
              else remove(at);
            }}
          >
            {t('invite.editor.removeHours')}
          </Button>
        </div>
      ))}
      <Button
        className="self-start"
        onClick={() => (hours === null ? setValue('hours', [NEW_HOURS], { shouldDirty: true }) : append(NEW_HOURS))}
      >
        {t('invite.editor.addHours')}
      </Button>
    </fieldset>
  );
}

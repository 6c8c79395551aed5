import { COLORS, type VisitTypeDoc } from '@zaguan/contracts/setup';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { useFormContext, useFormState } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { dayAndMonth } from '../../../../shared/time/format.ts';
import { LevelFields } from '../components/LevelFields.tsx';
import {
  CheckField,
  ManyField,
  NumberField,
  PairField,
  Section,
  SelectField,
  TextField,
} from '../../../forms/index.ts';
import { slugOf } from '../docs.ts';
import { useDraftPreview } from '../hooks/useDraftPreview.ts';
import type { FieldOf } from '../fieldWords.ts';
import { type Refs, useRefs } from '../hooks/useRefs.ts';
import { PartsEditor } from '../parts/PartsEditor.tsx';
import { setupApi } from '../setup.api.ts';
import { ListRows } from './ListRows.tsx';
import { OnlinePolicy } from './OnlinePolicy.tsx';

const TABS = ['visit', 'words', 'limits', 'online', 'papers'] as const;
type Tab = (typeof TABS)[number];

/** Which tab a field stands on, so that links and faults lead there. */
const TAB_OF: Partial<Record<keyof VisitTypeDoc, Tab>> = {
  publicNameEn: 'visit',
  publicNameEs: 'visit',
  descriptionEn: 'words',
  descriptionEs: 'words',
  preparationEn: 'words',
  preparationEs: 'words',
  priceNoteEn: 'words',
  priceNoteEs: 'words',
  reasons: 'words',
  beforeMin: 'limits',
  afterMin: 'limits',
  spacing: 'limits',
  links: 'limits',
  caps: 'limits',
  cancelUntilHours: 'limits',
  asksToConfirm: 'limits',
  expectedFeeUsd: 'visit',
  policies: 'online',
  formIds: 'papers',
  consentIds: 'papers',
};

export function VisitTypeEditor({ id, field }: { id: string | null; field: string | null }) {
  const { t } = useTranslation();
  const refs = useRefs();
  const [draftId] = useState(() => id ?? crypto.randomUUID());
  const [tab, setTab] = useState<Tab>((field && TAB_OF[field as keyof VisitTypeDoc]) || 'visit');
  const { errors } = useFormState<VisitTypeDoc>();
  const faulty = new Set(Object.keys(errors).map((key) => TAB_OF[key as keyof VisitTypeDoc] ?? 'visit'));
  return (
    <Tabs.Root value={tab} onValueChange={(value) => setTab(value as Tab)}>
      <Tabs.List aria-label={t('setup.section.visitType')} className="mb-3 flex gap-1 border-b border-line">
        {TABS.map((each) => (
          <Tabs.Trigger
            key={each}
            value={each}
            className="-mb-px rounded-t-md border border-transparent px-3 py-1.5 data-[state=active]:border-line data-[state=active]:border-b-surface data-[state=active]:font-bold"
          >
            {t(`setup.tab.${each}`)}
            {faulty.has(each) && (
              <span className="ml-1 text-danger" role="img" aria-label={t('setup.tabFault')}>
                ●
              </span>
            )}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {TABS.map((each) => (
        <Tabs.Content key={each} value={each} className="flex flex-col gap-3">
          {each === 'visit' && <VisitTab id={draftId} refs={refs} />}
          {each === 'words' && <WordsTab />}
          {each === 'limits' && <LimitsTab refs={refs} />}
          {each === 'online' && <OnlinePolicy id={draftId} refs={refs} />}
          {each === 'papers' && <PapersTab />}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}

function VisitTab({ id, refs }: { id: string; refs: Refs }) {
  const { t } = useTranslation();
  const form = useFormContext<VisitTypeDoc>();
  const w = (field: FieldOf<'visit-type'>) => t(`setup.visit-type.${field}`);
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          name="name"
          label={w('name')}
          required
          onLeave={(name) => {
            const set = (field: 'code' | 'publicNameEn', value: string) => {
              if (!form.getValues(field)) form.setValue(field, value, { shouldDirty: true });
            };
            set('code', slugOf(name));
            set('publicNameEn', name);
          }}
        />
        <TextField name="code" label={w('code')} hint={t('setup.hint.typeCode')} required />
        <TextField name="publicNameEn" label={w('publicNameEn')} required />
        <TextField name="publicNameEs" label={w('publicNameEs')} required />
      </div>
      <PartsEditor refs={refs}>
        <NextWeek id={id} />
      </PartsEditor>
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          name="mode"
          label={w('mode')}
          options={(['in-person', 'video', 'phone'] as const).map((value) => ({
            value,
            label: t(`setup.mode.${value}`),
          }))}
        />
        <SelectField
          name="color"
          label={w('color')}
          options={COLORS.map((value) => ({ value, label: t(`setup.color.${value}`) }))}
        />
        <NumberField name="expectedFeeUsd" label={w('expectedFeeUsd')} hint={t('setup.hint.expectedFee')} orNull />
      </div>
      <ManyField name="providerIds" label={w('providerIds')} options={refs.providers} all={t('setup.everybody')} />
      <ManyField name="siteIds" label={w('siteIds')} options={refs.sites} all={t('setup.allSites')} />
      <NumberField name="sortOrder" label={t('setup.sortOrder')} />
    </>
  );
}

/** Start times and places next week, as the type is drafted now. */
function NextWeek({ id }: { id: string }) {
  const { t } = useTranslation();
  const doc = useFormContext<VisitTypeDoc>().watch();
  const { type, asking } = useDraftPreview(id, doc, 'type');
  return (
    <div className="rounded-md border border-line bg-panel p-3" data-preview="type" aria-busy={asking}>
      <p className="font-bold">
        {type
          ? t('setup.nextWeek', { from: dayAndMonth(type.from), until: dayAndMonth(type.until) })
          : t('setup.nextWeekAsked')}
      </p>
      {type?.faults.map((fault) => (
        <p key={`${fault.path}${fault.code}`} className="font-semibold text-danger">
          {t(`fault.${fault.code}`, { ...fault.facts, defaultValue: t('fault.other') })}
        </p>
      ))}
      <ul>
        {type?.sites.map((site) => (
          <li key={site.siteId}>
            <b>{site.name}</b>:{' '}
            {site.starts
              ? t('setup.startsAndPlaces', { starts: site.starts, places: site.places })
              : t('setup.noStarts', {
                  why: site.hiddenBy ? t(`whyNot.code.${site.hiddenBy}`, { defaultValue: site.hiddenBy }) : '',
                })}
          </li>
        ))}
      </ul>
    </div>
  );
}

function WordsTab() {
  const { t } = useTranslation();
  return (
    <>
      <PairField name="description" label={t('setup.visit-type.description')} rows={3} />
      <PairField name="preparation" label={t('setup.visit-type.preparation')} rows={3} />
      <PairField name="priceNote" label={t('setup.visit-type.priceNote')} />
      <Section title={t('setup.visit-type.reasons')} note={t('setup.hint.reasons')}>
        <ListRows name="reasons" add={t('setup.add.reason')} blank={() => ({ en: '', es: '' })}>
          {(at) => (
            <div className="grid grid-cols-2 gap-3">
              <TextField name={`${at}.en`} label={t('setup.english')} />
              <TextField name={`${at}.es`} label={t('setup.spanish')} />
            </div>
          )}
        </ListRows>
      </Section>
    </>
  );
}

function LimitsTab({ refs }: { refs: Refs }) {
  const { t } = useTranslation();
  const w = (field: FieldOf<'visit-type'>) => t(`setup.visit-type.${field}`);
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <NumberField name="beforeMin" label={w('beforeMin')} step={5} />
        <NumberField name="afterMin" label={w('afterMin')} step={5} hint={t('setup.hint.buffers')} />
        <NumberField name="cancelUntilHours" label={w('cancelUntilHours')} />
      </div>
      <CheckField name="asksToConfirm" label={w('asksToConfirm')} />
      <Section title={w('caps')} note={t('setup.hint.caps')}>
        <ListRows
          name="caps"
          add={t('setup.add.cap')}
          blank={() => ({ bucket: 'provider-type-day', providerId: null, siteId: null, max: 1 })}
        >
          {(at) => (
            <div className="grid grid-cols-4 gap-2">
              <SelectField
                name={`${at}.bucket`}
                label={t('setup.cap.bucket')}
                options={(['provider-type-day', 'site-type-day'] as const).map((value) => ({
                  value,
                  label: t(`setup.cap.${value}`),
                }))}
              />
              <LevelFields at={at} refs={refs} />
              <NumberField name={`${at}.max`} label={t('setup.cap.max')} />
            </div>
          )}
        </ListRows>
      </Section>
      <Section title={w('spacing')} note={t('setup.hint.spacing')}>
        <ListRows
          name="spacing"
          add={t('setup.add.spacing')}
          blank={() => ({ otherTypeId: null, minDays: 7, maxDays: null })}
        >
          {(at) => (
            <div className="grid grid-cols-3 gap-2">
              <SelectField
                name={`${at}.otherTypeId`}
                label={t('setup.spacing.to')}
                options={refs.types}
                none={t('setup.spacing.itself')}
              />
              <NumberField name={`${at}.minDays`} label={t('setup.spacing.min')} orNull />
              <NumberField name={`${at}.maxDays`} label={t('setup.spacing.max')} orNull />
            </div>
          )}
        </ListRows>
      </Section>
      <Section title={w('links')} note={t('setup.hint.links')}>
        <ListRows name="links" add={t('setup.add.link')} blank={() => ({ followTypeId: '', offsetMin: 2880 })}>
          {(at) => (
            <div className="grid grid-cols-2 gap-2">
              <SelectField name={`${at}.followTypeId`} label={t('setup.link.follow')} options={refs.types} />
              <NumberField name={`${at}.offsetMin`} label={t('setup.link.offset')} step={60} />
            </div>
          )}
        </ListRows>
      </Section>
    </>
  );
}

function PapersTab() {
  const { t } = useTranslation();
  const { data } = setupApi.usePapersQuery({});
  const options = (rows: readonly { id: string; title: string }[] = []) =>
    rows.map(({ id, title }) => ({ value: id, label: title }));
  return (
    <>
      <p className="text-muted">{t('setup.hint.papers')}</p>
      <ManyField name="formIds" label={t('setup.visit-type.formIds')} options={options(data?.forms)} />
      <ManyField name="consentIds" label={t('setup.visit-type.consentIds')} options={options(data?.consents)} />
    </>
  );
}

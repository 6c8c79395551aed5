import { EMPTY_POLICY, type PolicyDoc, type VisitTypeDoc } from '@zaguan/contracts/setup';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { dateAt, shortDate, timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { LevelFields } from '../components/LevelFields.tsx';
import { NumberField, Section, SelectField, TimeField, useValue } from '../../../forms/index.ts';
import { useDraftPreview } from '../hooks/useDraftPreview.ts';
import type { Refs } from '../hooks/useRefs.ts';
import { YesNoField } from './OtherEditors.tsx';
import { formatPolicy } from './formatPolicy.ts';

/** The online policy level by level, what it comes to in words, and what patients would see today. */
export function OnlinePolicy({ id, refs }: { id: string; refs: Refs }) {
  const { t } = useTranslation();
  const { fields, append, remove } = useFieldArray<VisitTypeDoc, 'policies'>({ name: 'policies' });
  const policies = useValue<VisitTypeDoc['policies']>('policies');
  const siteIds = useValue<VisitTypeDoc['siteIds']>('siteIds');
  const sites = refs.sites.filter(({ value }) => siteIds === null || siteIds.includes(value));
  return (
    <Section title={t('setup.section.online')} note={t('setup.hint.levels')}>
      <div data-field="policies" className="flex flex-col gap-3">
        {fields.map((field, i) => (
          <Level
            key={field.id}
            at={`policies.${i}`}
            row={policies[i] ?? EMPTY_POLICY}
            refs={refs}
            onRemove={() => remove(i)}
          />
        ))}
        <Button
          className="self-start"
          onClick={() => append({ ...EMPTY_POLICY, ...(fields.length === 0 && { offered: true }) })}
        >
          {t(fields.length ? 'setup.add.level' : 'setup.add.firstLevel')}
        </Button>
        <div className="rounded-md border border-line bg-panel p-3">
          <p className="font-bold">{t('setup.policy.comesTo')}</p>
          <dl className="grid grid-cols-[130px_1fr] gap-x-3">
            {sites.map((site) => (
              <SiteWords key={site.value} siteId={site.value} name={site.label} policies={policies} refs={refs} />
            ))}
          </dl>
        </div>
        <SeenToday id={id} />
      </div>
    </Section>
  );
}

function SiteWords({
  siteId,
  name,
  policies,
  refs,
}: {
  siteId: string;
  name: string;
  policies: readonly PolicyDoc[];
  refs: Refs;
}) {
  const { t } = useTranslation();
  const own = [...new Set(policies.flatMap(({ providerId }) => (providerId ? [providerId] : [])))];
  const all = formatPolicy(policies, siteId, null, t);
  const others = own
    .map((id) => ({ id, words: formatPolicy(policies, siteId, id, t) }))
    .filter(({ words }) => words !== all);
  return (
    <>
      <dt className="font-semibold">{name}</dt>
      <dd>
        {all}
        {others.map(({ id, words }) => (
          <span key={id} className="block">
            <b>{refs.nameOf(id)}:</b> {words}
          </span>
        ))}
      </dd>
    </>
  );
}

function Level({ at, row, refs, onRemove }: { at: string; row: PolicyDoc; refs: Refs; onRemove: () => void }) {
  const { t } = useTranslation();
  const form = useFormContext();
  const title =
    [
      row.siteId && t('setup.level.at', { site: refs.nameOf(row.siteId) }),
      row.providerId && t('setup.level.with', { provider: refs.nameOf(row.providerId) }),
    ]
      .filter(Boolean)
      .join(', ') || t('setup.level.everywhere');
  const kinds = row.kinds === null ? '' : row.kinds.length === 2 ? 'all' : row.kinds[0];
  return (
    <fieldset className="rounded-md border border-line-strong bg-panel p-3" data-level={title}>
      <legend className="flex items-center gap-2 px-1 font-bold">
        {title}
        <Button look="plain" aria-label={t('setup.level.remove', { level: title })} onClick={onRemove}>
          ✕
        </Button>
      </legend>
      <div className="grid grid-cols-3 gap-2">
        <LevelFields at={at} refs={refs} />
        <YesNoField name={`${at}.offered`} label={t('setup.policy.offeredField')} />
        <label className="flex flex-col gap-1">
          <span className="font-semibold">{t('setup.policy.kinds')}</span>
          <select
            name={`${at}.kinds`}
            className="w-full rounded-md border border-line-strong bg-panel px-2 py-2"
            value={kinds}
            onChange={(event) => {
              const chosen = event.target.value;
              const value = chosen === '' ? null : chosen === 'all' ? ['new', 'established'] : [chosen];
              form.setValue(`${at}.kinds`, value, { shouldDirty: true });
            }}
          >
            <option value="">{t('setup.asWider')}</option>
            <option value="all">{t('setup.policy.whom.all')}</option>
            <option value="new">{t('setup.policy.whom.new')}</option>
            <option value="established">{t('setup.policy.whom.established')}</option>
          </select>
        </label>
        <NumberField name={`${at}.windowDays`} label={t('setup.policy.windowDays')} orNull />
        <SelectField
          name={`${at}.gridMin`}
          label={t('setup.policy.gridMin')}
          none={t('setup.asWider')}
          options={[5, 10, 15, 20, 30, 60].map((n) => ({ value: String(n), label: t('setup.nMinutes', { count: n }) }))}
        />
        <NumberField name={`${at}.leadMin`} label={t('setup.policy.leadMin')} orNull step={30} />
        <NumberField name={`${at}.leadWorkingDays`} label={t('setup.policy.leadWorkingDays')} orNull />
        <TimeField name={`${at}.leadByMinute`} label={t('setup.policy.leadByMinute')} />
        <SelectField
          name={`${at}.approval`}
          label={t('setup.policy.approval')}
          none={t('setup.asWider')}
          options={(['none', 'new', 'all'] as const).map((value) => ({
            value,
            label: t(`setup.policy.approvals.${value}`),
          }))}
        />
        <YesNoField name={`${at}.showLength`} label={t('setup.policy.showLength')} />
      </div>
    </fieldset>
  );
}

function SeenToday({ id }: { id: string }) {
  const { t } = useTranslation();
  const doc = useFormContext<VisitTypeDoc>().watch();
  const { online, asking } = useDraftPreview(id, doc, 'online');
  return (
    <div className="rounded-md border border-line bg-panel p-3" data-preview="online" aria-busy={asking}>
      <p className="font-bold">{t('setup.policy.seenToday')}</p>
      {!online && <p className="text-muted">{t('loading')}</p>}
      {online && (
        <table className="w-full text-left">
          <tbody>
            {online.rows.map((row) => (
              <tr key={`${row.siteId}${row.kind}`} className="border-b border-line align-top">
                <td className="py-0.5 pr-2 font-semibold">{row.name}</td>
                <td className="py-0.5 pr-2">{t(`visit.kind.${row.kind}`)}</td>
                <td className="py-0.5">
                  {row.first
                    ? t('setup.policy.first', {
                        starts: row.starts,
                        days: row.days,
                        when: `${shortDate(dateAt(row.first, row.timeZone))}, ${timeOf(row.first, row.timeZone)}`,
                        who: row.firstProvider ?? '',
                      })
                    : t('setup.policy.none', {
                        why: row.hiddenBy ? t(`whyNot.code.${row.hiddenBy}`, { defaultValue: row.hiddenBy }) : '',
                      })}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

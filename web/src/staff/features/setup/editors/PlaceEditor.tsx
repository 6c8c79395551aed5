import type { PlaceDoc, PoolDoc } from '@zaguan/contracts/setup';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { CheckField, ManyField, NumberField, SelectField, TextField, useValue } from '../../../forms/index.ts';
import { slugOf } from '../docs.ts';
import type { FieldOf } from '../fieldWords.ts';
import { useRecords, useRefs } from '../hooks/useRefs.ts';
import { AccessField } from './AccessField.tsx';

export function PlaceEditor({ id }: { id: string | null }) {
  const { t } = useTranslation();
  const refs = useRefs();
  const form = useFormContext<PlaceDoc>();
  const siteId = useValue<string>('siteId');
  const single = useValue<boolean>('singleDevice');
  const name = useValue<string>('name') ?? '';
  const places = useRecords('place');
  // Allowed, for a clinic may have them; but nobody could tell them apart in a list.
  const hasTwin = places.some(
    ({ id: other, active, doc }) =>
      active && other !== id && doc.siteId === siteId && doc.name.trim().toLowerCase() === name.trim().toLowerCase(),
  );
  const w = (field: FieldOf<'place'>) => t(`setup.place.${field}`);
  return (
    <>
      <TextField
        name="name"
        label={w('name')}
        required
        onLeave={(name) => {
          if (!form.getValues('shortName')) form.setValue('shortName', name.slice(0, 30), { shouldDirty: true });
        }}
      />
      {hasTwin && (
        <p role="status" className="-mt-2 text-warning">
          {t('setup.sameName', { name: name.trim() })}
        </p>
      )}
      <TextField name="shortName" label={w('shortName')} required />
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          name="kind"
          label={w('kind')}
          options={(['room', 'equipment'] as const).map((value) => ({ value, label: t(`setup.placeKind.${value}`) }))}
          onChosen={(kind) => form.setValue('singleDevice', kind === 'equipment', { shouldDirty: true })}
        />
        <SelectField
          name="siteId"
          label={w('siteId')}
          required
          options={refs.sites}
          onChosen={() => form.setValue('poolId', null, { shouldDirty: true })}
        />
      </div>
      <SelectField
        name="poolId"
        label={w('poolId')}
        hint={t('setup.hint.pool')}
        options={refs.pools.filter((pool) => pool.siteId === siteId)}
        none={t('setup.noPool')}
      />
      <CheckField name="singleDevice" label={w('singleDevice')} hint={t('setup.hint.singleDevice')} />
      {!single && <NumberField name="places" label={w('places')} hint={t('setup.hint.places')} />}
      <CheckField name="shownInDaybook" label={w('shownInDaybook')} />
      <CheckField name="leftOutOfMessages" label={w('leftOutOfMessages')} hint={t('setup.hint.leftOut')} />
      {!single && <AccessField hint={t('setup.hint.roomAccess')} />}
      <NumberField name="sortOrder" label={t('setup.sortOrder')} />
    </>
  );
}

export function PoolEditor({ id }: { id: string | null }) {
  const { t } = useTranslation();
  const refs = useRefs();
  const form = useFormContext<PoolDoc>();
  const places = useRecords('place');
  const people = useRecords('person');
  const siteId = useValue<string>('siteId');
  const w = (field: FieldOf<'pool'>) => t(`setup.pool.${field}`);
  const members = [
    ...people.filter(({ active, doc }) => active && doc.siteIds.includes(siteId)),
    ...places.filter(({ active, doc }) => active && doc.siteId === siteId),
  ].map((row) => ({ value: row.id, label: row.doc.name }));
  return (
    <>
      <SelectField name="siteId" label={w('siteId')} required options={refs.sites} />
      <TextField
        name="name"
        label={w('name')}
        required
        onLeave={(name) => {
          if (!form.getValues('kind')) form.setValue('kind', slugOf(name.replace(/s$/, '')), { shouldDirty: true });
        }}
      />
      <TextField name="kind" label={w('kind')} hint={t('setup.hint.poolKind')} required />
      <ManyField
        name="memberIds"
        label={w('memberIds')}
        options={members}
        hint={id === null ? t('setup.hint.members') : undefined}
      />
      <CheckField name="shownInDaybook" label={w('shownInDaybook')} />
      <NumberField name="sortOrder" label={t('setup.sortOrder')} />
    </>
  );
}

import { COLORS, type SetupKind } from '@zaguan/contracts/setup';
import type { TFunction } from 'i18next';
import type { CsvColumn } from './csv.ts';
import type { DocOf } from './docs.ts';
import type { FieldOf } from './fieldWords.ts';
import type { Option } from '../../forms/index.ts';
import type { Refs } from './hooks/useRefs.ts';

/** Kinds that are kept in a table of many; plans, registers and templates have pages of their own. */
export type TableKind = Exclude<SetupKind, 'clinic' | 'register' | 'recall-plan' | 'invitation-template'>;

export interface Column<K extends TableKind> {
  readonly id: FieldOf<K>;
  readonly value: (doc: DocOf[K], refs: Refs, t: TFunction) => string | number;
  /** Shown at first. */
  readonly shown: boolean;
}

/** A field that can be set for several records at once. */
export interface BatchField<K extends TableKind> {
  readonly field: FieldOf<K>;
  readonly type: 'yes-no' | 'choice';
  options?(refs: Refs, t: TFunction): readonly Option[];
}

export interface TableConfig<K extends TableKind> {
  readonly columns: readonly Column<K>[];
  readonly batch: readonly BatchField<K>[];
  readonly csv: readonly CsvColumn[];
  readonly wide?: boolean;
}

const yes = (value: boolean, t: TFunction) => t(value ? 'setup.yes' : 'setup.no');
const text = (...fields: string[]): CsvColumn[] => fields.map((field) => ({ field, type: 'text' }));
const flag = (...fields: string[]): CsvColumn[] => fields.map((field) => ({ field, type: 'yes-no' }));
const count = (...fields: string[]): CsvColumn[] => fields.map((field) => ({ field, type: 'number' }));
const colors = (_refs: Refs, t: TFunction): Option[] =>
  COLORS.map((value) => ({ value, label: t(`setup.color.${value}`) }));

/** How each kind is listed, edited together and exchanged as a file. */
export const TABLES: { readonly [K in TableKind]: TableConfig<K> } = {
  site: {
    wide: true,
    columns: [
      { id: 'name', value: (doc) => doc.name, shown: true },
      { id: 'publicName', value: (doc) => doc.publicName, shown: true },
      { id: 'code', value: (doc) => doc.code, shown: true },
      { id: 'city', value: (doc) => `${doc.city}, ${doc.region}`, shown: true },
      { id: 'timeZone', value: (doc) => doc.timeZone, shown: true },
      { id: 'phone', value: (doc) => doc.phone, shown: false },
      { id: 'hours', value: (doc) => doc.hours.length, shown: false },
      { id: 'bookableOnline', value: (doc, _refs, t) => yes(doc.bookableOnline, t), shown: true },
    ],
    batch: [{ field: 'bookableOnline', type: 'yes-no' }],
    csv: [
      ...text('name', 'publicName', 'code', 'addressLine', 'city', 'region', 'postalCode', 'phone'),
      { field: 'email', type: 'text-or-null' },
      ...text('timeZone', 'directionsEn', 'directionsEs'),
      { field: 'latitude', type: 'number-or-null' },
      { field: 'longitude', type: 'number-or-null' },
      ...flag('bookableOnline'),
      ...count('sortOrder'),
    ],
  },
  person: {
    columns: [
      { id: 'name', value: (doc) => doc.name, shown: true },
      { id: 'kind', value: (doc, _refs, t) => t(`setup.personKind.${doc.kind}`), shown: true },
      { id: 'credentials', value: (doc) => doc.credentials, shown: true },
      { id: 'specialty', value: (doc) => doc.specialty, shown: false },
      { id: 'siteIds', value: (doc, refs) => doc.siteIds.map((id) => refs.nameOf(id)).join(', '), shown: true },
      { id: 'npi', value: (doc) => doc.npi ?? '', shown: true },
      { id: 'languages', value: (doc) => doc.languages.join(', '), shown: false },
      { id: 'acceptsNew', value: (doc, _refs, t) => yes(doc.acceptsNew, t), shown: false },
      { id: 'mayEditOwnHours', value: (doc, _refs, t) => yes(doc.mayEditOwnHours, t), shown: false },
      { id: 'bookableOnline', value: (doc, _refs, t) => yes(doc.bookableOnline, t), shown: true },
    ],
    batch: [
      { field: 'bookableOnline', type: 'yes-no' },
      { field: 'acceptsNew', type: 'yes-no' },
      { field: 'mayEditOwnHours', type: 'yes-no' },
      { field: 'shownInDaybook', type: 'yes-no' },
      { field: 'color', type: 'choice', options: colors },
    ],
    csv: [
      ...text('kind', 'name', 'shortName', 'credentials', 'specialty'),
      { field: 'npi', type: 'text-or-null' },
      { field: 'siteIds', type: 'sites' },
      { field: 'languages', type: 'words' },
      { field: 'capabilities', type: 'words' },
      ...flag('bookableOnline', 'shownInDaybook', 'acceptsNew', 'mayEditOwnHours'),
      ...text('bioEn', 'bioEs', 'publicNameEs'),
      ...count('sortOrder'),
    ],
  },
  place: {
    columns: [
      { id: 'name', value: (doc) => doc.name, shown: true },
      { id: 'kind', value: (doc, _refs, t) => t(`setup.placeKind.${doc.kind}`), shown: true },
      { id: 'siteId', value: (doc, refs) => refs.nameOf(doc.siteId), shown: true },
      { id: 'poolId', value: (doc, refs) => refs.nameOf(doc.poolId), shown: true },
      { id: 'places', value: (doc) => doc.places, shown: true },
      { id: 'shownInDaybook', value: (doc, _refs, t) => yes(doc.shownInDaybook, t), shown: false },
      { id: 'leftOutOfMessages', value: (doc, _refs, t) => yes(doc.leftOutOfMessages, t), shown: false },
    ],
    batch: [
      { field: 'shownInDaybook', type: 'yes-no' },
      { field: 'leftOutOfMessages', type: 'yes-no' },
    ],
    csv: [
      ...text('kind', 'name', 'shortName'),
      { field: 'siteId', type: 'site' },
      { field: 'poolId', type: 'pool' },
      ...count('places'),
      ...flag('singleDevice', 'shownInDaybook', 'leftOutOfMessages'),
      ...count('sortOrder'),
    ],
  },
  pool: {
    columns: [
      { id: 'name', value: (doc) => doc.name, shown: true },
      { id: 'siteId', value: (doc, refs) => refs.nameOf(doc.siteId), shown: true },
      { id: 'kind', value: (doc) => doc.kind, shown: true },
      { id: 'memberIds', value: (doc) => doc.memberIds.length, shown: true },
      { id: 'shownInDaybook', value: (doc, _refs, t) => yes(doc.shownInDaybook, t), shown: false },
    ],
    batch: [{ field: 'shownInDaybook', type: 'yes-no' }],
    csv: [...text('name', 'kind'), { field: 'siteId', type: 'site' }, ...flag('shownInDaybook'), ...count('sortOrder')],
  },
  'visit-type': {
    wide: true,
    columns: [
      { id: 'name', value: (doc) => doc.name, shown: true },
      { id: 'length', value: (doc) => doc.parts.reduce((sum, part) => sum + part.lengthMin, 0), shown: true },
      { id: 'parts', value: (doc) => doc.parts.length, shown: true },
      { id: 'mode', value: (doc, _refs, t) => t(`setup.mode.${doc.mode}`), shown: true },
      { id: 'publicNameEn', value: (doc) => doc.publicNameEn, shown: false },
      { id: 'publicNameEs', value: (doc) => doc.publicNameEs, shown: false },
      {
        id: 'providerIds',
        value: (doc, refs, t) => doc.providerIds?.map((id) => refs.nameOf(id)).join(', ') ?? t('setup.everybody'),
        shown: false,
      },
      {
        id: 'policies',
        value: (doc, _refs, t) =>
          yes(
            doc.policies.some(({ offered }) => offered),
            t,
          ),
        shown: true,
      },
    ],
    batch: [
      { field: 'color', type: 'choice', options: colors },
      {
        field: 'mode',
        type: 'choice',
        options: (_refs, t) =>
          (['in-person', 'video', 'phone'] as const).map((value) => ({ value, label: t(`setup.mode.${value}`) })),
      },
      { field: 'asksToConfirm', type: 'yes-no' },
    ],
    csv: [
      ...text('code', 'name', 'publicNameEn', 'publicNameEs', 'descriptionEn', 'descriptionEs'),
      ...text('preparationEn', 'preparationEs', 'priceNoteEn', 'priceNoteEs', 'color', 'mode'),
      ...count('beforeMin', 'afterMin', 'cancelUntilHours'),
      ...flag('asksToConfirm'),
      { field: 'expectedFeeUsd', type: 'number-or-null' },
      ...count('sortOrder'),
    ],
  },
  payer: {
    wide: true,
    columns: [
      { id: 'name', value: (doc) => doc.name, shown: true },
      { id: 'rules', value: (doc) => doc.rules.length, shown: true },
      {
        id: 'accepted',
        value: (doc, _refs, t) =>
          yes(
            doc.rules.some((row) => row.accepted && !row.siteId && !row.providerId && !row.visitTypeId),
            t,
          ),
        shown: true,
      },
    ],
    batch: [],
    csv: [...text('name'), ...count('sortOrder')],
  },
  field: {
    columns: [
      { id: 'labelEn', value: (doc) => doc.labelEn, shown: true },
      { id: 'labelEs', value: (doc) => doc.labelEs, shown: true },
      { id: 'of', value: (doc, _refs, t) => t(`setup.fieldOf.${doc.of}`), shown: true },
      { id: 'kind', value: (doc, _refs, t) => t(`setup.fieldKind.${doc.kind}`), shown: true },
      { id: 'required', value: (doc, _refs, t) => yes(doc.required, t), shown: true },
    ],
    batch: [{ field: 'required', type: 'yes-no' }],
    csv: [...text('labelEn', 'labelEs', 'of', 'kind'), ...flag('required'), ...count('sortOrder')],
  },
  account: {
    columns: [
      { id: 'name', value: (doc) => doc.name, shown: true },
      { id: 'email', value: (doc) => doc.email, shown: true },
      { id: 'role', value: (doc, _refs, t) => t(`role.${doc.role}`), shown: true },
      {
        id: 'siteIds',
        value: (doc, refs, t) => doc.siteIds?.map((id) => refs.nameOf(id)).join(', ') ?? t('setup.allSites'),
        shown: true,
      },
      { id: 'state', value: (doc, _refs, t) => t(`setup.accountState.${doc.state}`), shown: true },
    ],
    batch: [],
    csv: text('name', 'email', 'role'),
  },
};

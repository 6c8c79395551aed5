import type { InvitationTemplateDoc } from '@zaguan/contracts/invitations';
import type { RecallPlanDoc, RegisterDoc } from '@zaguan/contracts/recalls';
import type {
  AccountDoc,
  ClinicDoc,
  FieldDoc,
  NeedDoc,
  PayerDoc,
  PersonDoc,
  PlaceDoc,
  PoolDoc,
  SetupKind,
  SiteDoc,
  VisitTypeDoc,
} from '@zaguan/contracts/setup';

/** Which document belongs to which kind. */
export interface DocOf {
  readonly clinic: ClinicDoc;
  readonly site: SiteDoc;
  readonly person: PersonDoc;
  readonly place: PlaceDoc;
  readonly pool: PoolDoc;
  readonly 'visit-type': VisitTypeDoc;
  readonly payer: PayerDoc;
  readonly field: FieldDoc;
  readonly account: AccountDoc;
  readonly register: RegisterDoc;
  readonly 'recall-plan': RecallPlanDoc;
  readonly 'invitation-template': InvitationTemplateDoc;
}

/** A lower-case word joined by hyphens, out of a name. */
export function slugOf(name: string): string {
  return name
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40)
    .replace(/-+$/, '');
}

const PROVIDER_NEED: NeedDoc = {
  key: 'provider',
  what: 'provider',
  poolKind: null,
  resourceId: null,
  capability: null,
  sameAs: null,
  differentFrom: null,
  turnaroundMin: 0,
};

/** Whom a plan or a register asks for before anything is said. */
export const ANYBODY: RecallPlanDoc['who'] = {
  ...{ ageFrom: null, ageTo: null, sexes: null, languages: null, homeSiteIds: null, codes: null, registerIds: null },
  fields: [],
};

/** What a new record begins with: sensible, so that little must be typed. Empty where only a person can know. */
export const NEW_DOC: { readonly [K in SetupKind]: () => DocOf[K] } = {
  clinic: () => ({
    ...{ name: '', phone: '', baseUnitMin: 5, density: 'roomy', asksPayerOnline: false },
    ...{ urgentAtNight: 'send', textCountries: ['US'], codesPerDay: 500, lateAfterMin: 15, lateRule: '' },
  }),
  site: () => ({
    name: '',
    publicName: '',
    code: '',
    addressLine: '',
    city: '',
    region: '',
    postalCode: '',
    phone: '',
    morePhones: [],
    email: null,
    timeZone: '',
    latitude: null,
    longitude: null,
    directionsEn: '',
    directionsEs: '',
    bookableOnline: false,
    access: [],
    sortOrder: 100,
    hours: [],
    closures: [],
    travel: [],
  }),
  person: () => ({
    kind: 'provider',
    name: '',
    shortName: '',
    color: null,
    siteIds: [],
    capabilities: [],
    bookableOnline: false,
    shownInDaybook: true,
    mayEditOwnHours: true,
    credentials: '',
    specialty: '',
    npi: null,
    licenses: [],
    languages: ['en'],
    acceptsNew: true,
    bioEn: '',
    bioEs: '',
    publicNameEs: '',
    sortOrder: 50,
  }),
  place: () => ({
    kind: 'room',
    name: '',
    shortName: '',
    siteId: '',
    poolId: null,
    places: 1,
    singleDevice: false,
    shownInDaybook: true,
    leftOutOfMessages: false,
    access: [],
    sortOrder: 500,
  }),
  pool: () => ({ siteId: '', kind: '', name: '', memberIds: [], shownInDaybook: true, sortOrder: 50 }),
  'visit-type': () => ({
    code: '',
    name: '',
    publicNameEn: '',
    publicNameEs: '',
    descriptionEn: '',
    descriptionEs: '',
    preparationEn: '',
    preparationEs: '',
    priceNoteEn: '',
    priceNoteEs: '',
    color: 'clay',
    mode: 'in-person',
    beforeMin: 0,
    afterMin: 0,
    parts: [{ name: '', lengthMin: 30, needs: [PROVIDER_NEED] }],
    providerIds: null,
    siteIds: null,
    spacing: [],
    links: [],
    reasons: [],
    caps: [],
    policies: [],
    formIds: [],
    consentIds: [],
    cancelUntilHours: 24,
    asksToConfirm: true,
    expectedFeeUsd: null,
    sortOrder: 50,
  }),
  payer: () => ({
    name: '',
    rules: [{ visitTypeId: null, siteId: null, providerId: null, accepted: true, referral: null, authorization: null }],
    sortOrder: 50,
  }),
  field: () => ({
    of: 'patient',
    kind: 'text',
    labelEn: '',
    labelEs: '',
    required: false,
    choices: [],
    visitTypeIds: null,
    sortOrder: 50,
  }),
  account: () => ({ name: '', email: '', role: 'front-desk', resourceId: null, siteIds: null, state: 'invited' }),
  register: () => ({ name: '', note: '', rule: null, sortOrder: 50 }),
  'recall-plan': () => ({
    ...{ name: '', isOn: false, who: ANYBODY, aheadDays: 14, graceDays: 30, comingTypeIds: null, quietDays: 30 },
    when: { kind: 'after-visit', typeIds: [], every: { n: 6, unit: 'months' } },
    sortOrder: 50,
  }),
  'invitation-template': () => ({
    ...{ name: '', typeIds: [], siteIds: null, providerIds: null, hours: null, fromDate: null, untilDate: null },
    ...{ deskTimesToo: false, uses: 1, livesDays: 30, reason: '', words: FIRST_WORDS, sortOrder: 50 },
  }),
};

/** What a template begins with; GSM letters alone in the texts. */
const FIRST_WORDS: InvitationTemplateDoc['words'] = {
  en: {
    text: '{clinic}: {name}, it is time for your next visit. Pick a time: {link}',
    subject: '{clinic}: time for your next visit',
    mail: 'Dear {name},\n\nit is time for your next visit. Pick a time that suits you:\n{link}\n\nOr call us at {phone}.\n\n{clinic}',
  },
  es: {
    text: '{clinic}: {name}, ya le toca su cita. Elija la hora: {link}',
    subject: '{clinic}: ya le toca su cita',
    mail: 'Hola {name}:\n\nYa le toca su cita. Elija la hora que le convenga:\n{link}\n\nO llámenos al {phone}.\n\n{clinic}',
  },
};

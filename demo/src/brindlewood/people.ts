import { npiCheckDigit } from '@zaguan/core/setup';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { DEFAULT_RESOURCE } from '../defaults.ts';
import { idOf } from '../random.ts';
import { insertRows } from '../rows.ts';
import { SITE, type SiteKey } from './sites.ts';

interface ProviderData {
  readonly name: string;
  readonly short: string;
  readonly credentials: string;
  readonly specialty: string;
  readonly sites: readonly SiteKey[];
  readonly treats: boolean;
  readonly languages?: readonly string[];
  readonly acceptsNew?: boolean;
  readonly bio: readonly [en: string, es: string];
  /** Where patients read another name in Spanish. */
  readonly inSpanish?: string;
}

const ALLERGIST = 'Allergy and immunology';

/** Eleven: five allergists, two nurse practitioners, a physician assistant, a respiratory therapist, a dietitian, the nurse lead. */
const DATA = {
  amaya: {
    name: 'Dr. Inés Amaya',
    short: 'Dr. Amaya',
    credentials: 'MD',
    specialty: ALLERGIST,
    sites: ['canal'],
    treats: true,
    languages: ['en', 'es'],
    bio: ['Sees adults and children. Speaks Spanish.', 'Atiende a adultos y niños. Habla español.'],
    inSpanish: 'Dra. Inés Amaya',
  },
  okonjo: {
    name: 'Dr. Leila Okonjo',
    short: 'Dr. Okonjo',
    credentials: 'MD',
    specialty: ALLERGIST,
    sites: ['canal'],
    treats: true,
    bio: ['Food allergy, for all ages.', 'Alergia a alimentos, para todas las edades.'],
    inSpanish: 'Dra. Leila Okonjo',
  },
  venn: {
    name: 'Dr. Tobias Venn',
    short: 'Dr. Venn',
    credentials: 'DO',
    specialty: ALLERGIST,
    sites: ['orchard', 'canal'],
    treats: true,
    bio: ['Asthma and hay fever.', 'Asma y rinitis alérgica.'],
  },
  dray: {
    name: 'Dr. Ruth Dray',
    short: 'Dr. Dray',
    credentials: 'MD',
    specialty: ALLERGIST,
    sites: ['mesa'],
    treats: true,
    bio: ['Sees children from two years.', 'Atiende a niños desde los dos años.'],
    inSpanish: 'Dra. Ruth Dray',
  },
  castellan: {
    name: 'Dr. Per Castellan',
    short: 'Dr. Castellan',
    credentials: 'DO',
    specialty: ALLERGIST,
    sites: ['mesa', 'saltbush'],
    treats: true,
    bio: ['Insect venom and drug allergy.', 'Alergia a picaduras y a medicinas.'],
  },
  lund: {
    name: 'Teo Lund',
    short: 'Teo Lund',
    credentials: 'NP',
    specialty: 'Asthma',
    sites: ['canal', 'mesa'],
    treats: true,
    bio: [
      'Nurse practitioner; asthma reviews and follow-up.',
      'Enfermero especializado; revisiones de asma y seguimiento.',
    ],
  },
  quist: {
    name: 'Maren Quist',
    short: 'Maren Quist',
    credentials: 'NP',
    specialty: 'Allergy',
    sites: ['orchard'],
    treats: true,
    bio: ['Nurse practitioner; skin and hives.', 'Enfermera especializada; piel y urticaria.'],
  },
  ferro: {
    name: 'Jonah Ferro',
    short: 'Jonah Ferro',
    credentials: 'PA-C',
    specialty: 'Allergy',
    sites: ['orchard'],
    treats: true,
    bio: ['Physician assistant; hay fever and hives.', 'Asistente médico; rinitis y urticaria.'],
  },
  brandao: {
    name: 'Silke Brandao',
    short: 'S. Brandao',
    credentials: 'RRT',
    specialty: 'Respiratory therapy',
    sites: ['canal'],
    treats: false,
    acceptsNew: false,
    bio: ['Breathing tests and inhaler technique.', 'Pruebas de respiración y uso del inhalador.'],
  },
  marsh: {
    name: 'Odile Marsh',
    short: 'Odile Marsh',
    credentials: 'RD',
    specialty: 'Nutrition',
    sites: ['canal'],
    treats: false,
    bio: ['Dietitian, with us from next month.', 'Dietista, con nosotros desde el próximo mes.'],
  },
  tarrow: {
    name: 'Gwen Tarrow',
    short: 'Gwen Tarrow',
    credentials: 'RN',
    specialty: 'Injections',
    sites: ['canal'],
    treats: false,
    acceptsNew: false,
    bio: ['Leads the injection nurses.', 'Dirige a las enfermeras de inyecciones.'],
  },
} as const satisfies Record<string, ProviderData>;

export type ProviderKey = keyof typeof DATA;
const KEYS = Object.keys(DATA) as ProviderKey[];
const dataOf = (key: ProviderKey): ProviderData => DATA[key];

/** The excerpt's three keep the ids they have there. */
const ID_NAMES: Partial<Record<ProviderKey, string>> = { amaya: 'Amaya', lund: 'Lund', dray: 'Dray' };
export const PROVIDER = Object.fromEntries(
  KEYS.map((key) => [key, idOf(ID_NAMES[key] ?? `provider ${key}`)]),
) as Record<ProviderKey, string>;

/** Injection nurses by site, each a person with hours of their own; the lead at Canal Row is a provider too. */
export const NURSES: Record<SiteKey, readonly { id: string; name: string }[]> = {
  canal: [
    { id: PROVIDER.tarrow, name: DATA.tarrow.name },
    { id: idOf('nurse Abena Osei'), name: 'Abena Osei' },
    { id: idOf('nurse Karl Wendt'), name: 'Karl Wendt' },
  ],
  orchard: [
    { id: idOf('nurse Pia Lindahl'), name: 'Pia Lindahl' },
    { id: idOf('nurse Dev Malik'), name: 'Dev Malik' },
  ],
  mesa: [
    { id: idOf('nurse Rocío Salas'), name: 'Rocío Salas' },
    { id: idOf('nurse Tom Begay'), name: 'Tom Begay' },
  ],
  saltbush: [{ id: idOf('nurse Ada Cruz'), name: 'Ada Cruz' }],
};

/** An NPI that exists only here, with its right check digit. */
function npiOf(serial: number): string {
  const nine = String(100_000_000 + serial * 7919);
  return nine + npiCheckDigit(nine);
}

export async function loadPeople(orm: Orm): Promise<void> {
  const nurses = (Object.keys(NURSES) as SiteKey[]).flatMap((site) =>
    NURSES[site].filter(({ id }) => id !== PROVIDER.tarrow).map((nurse) => ({ ...nurse, site })),
  );
  await insertRows(orm, 'resource', [
    ...KEYS.map((key, i) => ({
      id: PROVIDER[key],
      kind: 'provider',
      name: dataOf(key).name,
      short_name: dataOf(key).short,
      home_site_id: SITE[dataOf(key).sites[0]],
      capabilities: dataOf(key).treats ? ['treats-anaphylaxis'] : [],
      sort_order: i + 1,
      ...DEFAULT_RESOURCE,
      bookable_online: key !== 'tarrow',
    })),
    ...nurses.map(({ id, name, site }, i) => ({
      id,
      kind: 'staff',
      name: `${name}, RN`,
      short_name: name,
      home_site_id: SITE[site],
      capabilities: [],
      sort_order: 30 + i,
      ...DEFAULT_RESOURCE,
    })),
  ]);
  await insertRows(
    orm,
    'provider',
    KEYS.map((key, i) => ({
      resource_id: PROVIDER[key],
      credentials: dataOf(key).credentials,
      specialty: dataOf(key).specialty,
      npi: key === 'amaya' ? '1234567893' : npiOf(i + 1),
      languages: dataOf(key).languages ?? ['en'],
      accepts_new: dataOf(key).acceptsNew ?? true,
      bio_en: dataOf(key).bio[0],
      bio_es: dataOf(key).bio[1],
      public_name_es: dataOf(key).inSpanish ?? '',
    })),
  );
  await insertRows(orm, 'resource_site', [
    ...KEYS.flatMap((key) => dataOf(key).sites.map((site) => ({ resource_id: PROVIDER[key], site_id: SITE[site] }))),
    ...nurses.map(({ id, site }) => ({ resource_id: id, site_id: SITE[site] })),
  ]);
}

import { ICD_10_CM_SYSTEM } from '@zaguan/core/patients';
import { idOf } from '../random.ts';
import type { Row } from '../rows.ts';
import type { DemoPatient } from './demoPatient.ts';
import { SITE, type SiteKey } from './sites.ts';

/** Streets of the made-up towns; a household lives in one house. */
const STREETS = ['Kiln Lane', 'Weir Road', 'Mill Row', 'Tannery Street', 'Orchard Walk', 'Lock Street', 'Ferry Lane'];
const TOWN: Record<SiteKey, readonly [city: string, region: string, postalCode: string]> = {
  canal: ['Brindlewood', 'IL', '60601'],
  orchard: ['Orchard Hill', 'IL', '60540'],
  mesa: ['Mesa Court', 'CO', '80202'],
  saltbush: ['Saltbush', 'AZ', '85004'],
};

const REFERRED_BY = ['Family doctor', 'School nurse', 'A friend', 'The clinic’s web page', ''];
const NOTES = ['Prefers mornings.', 'Hard of hearing: speak slowly on the phone.', 'Brings a sibling along.'];
const ALERTS = [
  'Bring the school form to sign.',
  'Ask for the new insurance card.',
  'Give back the inhaler that was left here.',
];
const NEEDS: readonly {
  access: readonly string[];
  extra_min: number;
  interpreter: string | null;
  companion: string;
}[] = [
  { access: ['step-free'], extra_min: 0, interpreter: null, companion: '' },
  { access: ['step-free', 'wide-door'], extra_min: 10, interpreter: null, companion: 'Comes with a caregiver' },
  { access: [], extra_min: 15, interpreter: 'vi', companion: '' },
  { access: ['quiet-room'], extra_min: 10, interpreter: null, companion: 'Comes with her mother' },
];

/** What stands on a record beside who somebody is: of every few patients some of it. */
export function detailsOf(person: DemoPatient, i: number): Row {
  const [city, region, postal_code] = TOWN[person.site];
  const needs = i % 17 === 3 ? NEEDS[Math.floor(i / 17) % NEEDS.length] : null;
  return {
    street: `${10 + (person.household % 180)} ${STREETS[person.household % STREETS.length]}`,
    ...{ city, region, postal_code },
    home_site_id: i % 3 ? SITE[person.site] : null,
    referral_source: REFERRED_BY[i % REFERRED_BY.length],
    staff_notes: i % 19 === 5 ? NOTES[Math.floor(i / 19) % NOTES.length] : '',
    alert: i % 29 === 7 ? ALERTS[Math.floor(i / 29) % ALERTS.length] : '',
    access: needs?.access ?? [],
    extra_min: needs?.extra_min ?? 0,
    interpreter: needs?.interpreter ?? null,
    companion: needs?.companion ?? '',
    restricted_because: person.restricted ? 'Works at the clinic.' : '',
  };
}

/** Conditions of an allergy clinic (ICD-10-CM 2025, from memory). */
const CONDITIONS = [
  ['J30.1', 'Hay fever'],
  ['J45.909', 'Asthma'],
  ['L20.9', 'Eczema'],
  ['Z91.010', 'Peanut allergy'],
  ['J30.81', 'Allergy to cats and dogs'],
  ['T63.441A', 'Bee sting reaction'],
] as const;

/** Codes of every second patient. */
export function codesOf(patients: readonly DemoPatient[], addedAt: string): Row[] {
  return patients.flatMap((person, i) => {
    if (i % 2) return [];
    const at = Math.floor(i / 2);
    const first = CONDITIONS[at % CONDITIONS.length];
    const second = CONDITIONS[(at + 2) % CONDITIONS.length];
    return (i % 10 ? [first] : [first, second]).map(([code, words]) => ({
      id: idOf(`code ${person.id} ${code}`),
      patient_id: person.id,
      system: ICD_10_CM_SYSTEM,
      ...{ code, words },
      added_at: addedAt,
    }));
  });
}

import { idOf } from '../random.ts';
import type { Row } from '../rows.ts';
import type { ProviderKey } from './people.ts';

export type NeedData =
  | { readonly key: string; readonly what: 'provider' }
  | {
      readonly key: string;
      readonly what: 'pool';
      readonly pool: string;
      readonly same?: string;
      readonly turnaround?: number;
    }
  | { readonly key: string; readonly what: 'present' };

interface PartData {
  readonly name: string;
  readonly min: number;
  readonly needs: readonly NeedData[];
}

interface TypeData {
  readonly name: string;
  readonly en: readonly [name: string, description: string];
  readonly es: readonly [name: string, description: string];
  readonly color: string;
  readonly mode?: 'video' | 'phone';
  readonly afterMin?: number;
  readonly parts: readonly PartData[];
  /** `null`: no provider is booked. */
  readonly by: readonly ProviderKey[] | null;
  /** Left out: not offered online. */
  readonly online?: Row;
}

const provider: NeedData = { key: 'provider', what: 'provider' };
const exam: NeedData = { key: 'room', what: 'pool', pool: 'exam-room', turnaround: 5 };
const need = (key: string, pool: string, more: { same?: string; turnaround?: number } = {}): NeedData => ({
  key,
  what: 'pool',
  pool,
  ...more,
});
/** Someone able to treat anaphylaxis is at the site to the end; they are not taken. */
const able = (n: number): NeedData => ({ key: `able-${n}`, what: 'present' });
const part = (name: string, min: number, ...needs: NeedData[]): PartData => ({ name, min, needs });

const ALLERGISTS: ProviderKey[] = ['amaya', 'okonjo', 'venn', 'dray', 'castellan'];
const CLINICIANS: ProviderKey[] = [...ALLERGISTS, 'lund', 'quist', 'ferro'];

/** An injection: a nurse for ten minutes, then the chair (Cox et al. 2011: 30 minutes, from memory), watched over. */
const injection = (give: number, wait: number): PartData[] => [
  part('Injection', give, need('nurse', 'injection-nurse'), need('station', 'injection-station'), able(1)),
  part('Observation', wait, need('chair', 'observation-chair'), able(2)),
];

const DATA = {
  consult: {
    name: 'New allergy consult',
    en: ['First allergy visit', 'A full hour to get to know you. Bring a list of your medicines.'],
    es: ['Primera visita de alergia', 'Una hora completa para conocerle. Traiga una lista de sus medicinas.'],
    color: 'clay',
    afterMin: 5,
    parts: [part('Visit', 60, provider, exam)],
    by: CLINICIANS,
    online: { kinds: ['new'], lead_working_days: 1, lead_by_minute: 1020, window_days: 120, grid_min: 20 },
  },
  follow: {
    name: 'Follow-up',
    en: ['Follow-up visit', 'For people we already treat: results, symptoms, medicines.'],
    es: ['Visita de seguimiento', 'Para personas que ya atendemos: resultados, síntomas, medicinas.'],
    color: 'plum',
    parts: [part('Visit', 20, provider, exam)],
    by: CLINICIANS,
    online: { kinds: ['established'], lead_min: 120, window_days: 90, grid_min: 10 },
  },
  asthma: {
    name: 'Asthma review',
    en: ['Asthma review', 'A breathing test, then a talk about your asthma. Bring your inhalers.'],
    es: ['Revisión de asma', 'Una prueba de respiración y una conversación sobre su asma. Traiga sus inhaladores.'],
    color: 'blue',
    parts: [
      part('Breathing test', 15, need('room', 'exam-room'), need('spirometer', 'spirometer'), provider),
      part('Review', 15, need('room-review', 'exam-room', { same: 'room', turnaround: 5 }), {
        key: 'provider-review',
        what: 'provider',
      }),
    ],
    by: CLINICIANS,
    online: { kinds: ['established'], lead_min: 240, window_days: 120, grid_min: 15 },
  },
  spirometry: {
    name: 'Spirometry only',
    en: ['Breathing test', 'Twenty minutes. No inhaler in the four hours before, if you can.'],
    es: ['Prueba de respiración', 'Veinte minutos. Sin inhalador en las cuatro horas antes, si puede.'],
    color: 'blue',
    parts: [part('Test', 20, provider, need('room', 'exam-room', { turnaround: 5 }), need('spirometer', 'spirometer'))],
    by: ['brandao', 'lund', 'quist', 'ferro', 'castellan', 'dray'],
  },
  skin: {
    name: 'Skin-prick test',
    en: [
      'Skin-prick test',
      'About an hour in one room. Antihistamines must be stopped some days before: call us if you are not sure.',
    ],
    es: [
      'Prueba cutánea',
      'Cerca de una hora en una misma sala. Hay que dejar los antihistamínicos unos días antes: llámenos si no está seguro.',
    ],
    color: 'ochre',
    parts: [
      part('Test', 20, need('room', 'skin-test-room'), need('nurse', 'injection-nurse'), able(1)),
      part('Wait', 20, need('room-wait', 'skin-test-room', { same: 'room' }), able(2)),
      part('Reading', 15, need('room-reading', 'skin-test-room', { same: 'room', turnaround: 5 }), provider, able(3)),
    ],
    by: CLINICIANS,
    online: { lead_min: 1440, window_days: 90, grid_min: 10 },
  },
  injection: {
    name: 'Allergy injection',
    en: [
      'Allergy injection',
      'Ten minutes, then half an hour with us in a chair. Tell us about any reaction last time.',
    ],
    es: [
      'Inyección de alergia',
      'Diez minutos y luego media hora con nosotros en una silla. Díganos si tuvo una reacción.',
    ],
    color: 'moss',
    parts: injection(10, 30),
    by: null,
    online: { kinds: ['established'], lead_min: 60, window_days: 60, grid_min: 10 },
  },
  venom: {
    name: 'Venom injection',
    en: ['Venom injection', 'Ten minutes, then half an hour in a chair.'],
    es: ['Inyección de veneno', 'Diez minutos y luego media hora en una silla.'],
    color: 'moss',
    parts: injection(10, 30),
    by: null,
  },
  biologic: {
    name: 'Biologic injection',
    en: ['Biologic injection', 'A quarter of an hour, then half an hour in a chair.'],
    es: ['Inyección biológica', 'Un cuarto de hora y luego media hora en una silla.'],
    color: 'moss',
    parts: injection(15, 30),
    by: null,
  },
  biologicFirst: {
    name: 'Biologic injection, dose 1 to 3',
    en: ['Biologic injection, first doses', 'A quarter of an hour, then two hours in a chair.'],
    es: ['Inyección biológica, primeras dosis', 'Un cuarto de hora y luego dos horas en una silla.'],
    color: 'moss',
    parts: injection(15, 120),
    by: null,
  },
  challenge: {
    name: 'Food challenge',
    en: ['Food challenge', 'Half a day with us. Come hungry and healthy; bring the food we agreed on.'],
    es: [
      'Prueba con alimento',
      'Medio día con nosotros. Venga con hambre y sin estar enfermo; traiga el alimento acordado.',
    ],
    color: 'ochre',
    parts: [
      part('Start', 10, provider, need('room', 'challenge-room'), need('nurse', 'injection-nurse'), able(1)),
      part(
        'Doses',
        215,
        need('room-doses', 'challenge-room', { same: 'room' }),
        need('nurse-doses', 'injection-nurse', { same: 'nurse' }),
        able(2),
      ),
      part(
        'End',
        15,
        { key: 'provider-end', what: 'provider' },
        need('room-end', 'challenge-room', { same: 'room', turnaround: 15 }),
        need('nurse-end', 'injection-nurse', { same: 'nurse' }),
        able(3),
      ),
    ],
    by: ['okonjo', 'venn', 'dray', 'castellan'],
  },
  drug: {
    name: 'Drug-allergy test',
    en: ['Drug-allergy test', 'About two hours.'],
    es: ['Prueba de alergia a medicinas', 'Unas dos horas.'],
    color: 'ochre',
    parts: [
      part('Start', 15, provider, need('room', 'skin-test-room'), need('nurse', 'injection-nurse'), able(1)),
      part('Doses', 90, need('room-doses', 'skin-test-room', { same: 'room' }), able(2)),
      part(
        'End',
        15,
        { key: 'provider-end', what: 'provider' },
        need('room-end', 'skin-test-room', { same: 'room', turnaround: 5 }),
        able(3),
      ),
    ],
    by: ['amaya', 'castellan', 'venn'],
  },
  patch: {
    name: 'Patch test: place',
    en: ['Patch test', 'Three short visits in one week: placed, then read after two and after four days.'],
    es: ['Prueba de parche', 'Tres visitas cortas en una semana: se coloca y se lee a los dos y a los cuatro días.'],
    color: 'ochre',
    parts: [part('Place', 30, need('nurse', 'injection-nurse'), need('room', 'exam-room', { turnaround: 5 }))],
    by: null,
  },
  patchRead: {
    name: 'Patch test: read',
    en: ['Patch test, reading', 'A quarter of an hour.'],
    es: ['Prueba de parche, lectura', 'Un cuarto de hora.'],
    color: 'ochre',
    parts: [part('Read', 15, provider, exam)],
    by: CLINICIANS,
  },
  dietitian: {
    name: 'Dietitian visit',
    en: ['Dietitian visit', 'Eating well without what harms you. Bring three days of what you eat.'],
    es: ['Visita con la dietista', 'Comer bien sin lo que le hace daño. Traiga lo que comió en tres días.'],
    color: 'plum',
    parts: [part('Visit', 45, provider)],
    by: ['marsh'],
    online: { kinds: ['established'], lead_min: 1440, window_days: 90, grid_min: 15 },
  },
  video: {
    name: 'Video follow-up',
    en: ['Video follow-up', 'Twenty minutes by video.'],
    es: ['Seguimiento por video', 'Veinte minutos por video.'],
    color: 'blue',
    mode: 'video',
    parts: [part('Call', 20, provider)],
    by: ['amaya', 'okonjo', 'venn', 'dray', 'lund', 'quist'],
    online: { kinds: ['established'], lead_min: 120, window_days: 60, grid_min: 20 },
  },
  call: {
    name: 'Action-plan call',
    en: ['Action-plan call', 'Ten minutes by phone about your action plan.'],
    es: ['Llamada sobre su plan de acción', 'Diez minutos por teléfono sobre su plan de acción.'],
    color: 'blue',
    mode: 'phone',
    parts: [part('Call', 10, provider)],
    by: ['brandao', 'lund', 'quist', 'castellan'],
  },
  school: {
    name: 'School-form visit',
    en: ['School forms', 'A quarter of an hour for the forms that school or camp asks for.'],
    es: ['Formularios escolares', 'Un cuarto de hora para los formularios de la escuela o el campamento.'],
    color: 'plum',
    parts: [part('Visit', 15, provider, exam)],
    by: ['lund', 'quist', 'ferro', 'dray', 'amaya'],
    online: { kinds: ['established'], lead_min: 240, window_days: 60, grid_min: 15 },
  },
  feno: {
    name: 'Nitric-oxide breath test (FeNO)',
    en: ['Breath test for inflammation', 'A quarter of an hour. Nothing to eat or drink in the hour before.'],
    es: ['Prueba de aliento para inflamación', 'Un cuarto de hora. Sin comer ni beber en la hora anterior.'],
    color: 'blue',
    // Only Canal Row has a monitor; elsewhere the type can't be booked.
    parts: [
      part('Test', 15, need('nurse', 'injection-nurse'), need('room', 'exam-room'), need('monitor', 'feno-monitor')),
    ],
    by: null,
  },
} as const satisfies Record<string, TypeData>;

export type TypeKey = keyof typeof DATA;
export const TYPE_KEYS = Object.keys(DATA) as TypeKey[];
export const dataOf = (key: TypeKey): TypeData => DATA[key];
/** The excerpt's three keep the ids they have there. */
const ID_NAMES: Partial<Record<TypeKey, string>> = { consult: 'new consult', follow: 'follow-up', skin: 'skin test' };
export const TYPE = Object.fromEntries(TYPE_KEYS.map((key) => [key, idOf(ID_NAMES[key] ?? `type ${key}`)])) as Record<
  TypeKey,
  string
>;

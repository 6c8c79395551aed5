import type { FormItem, Words } from '@zaguan/core/intake';
import { BEFORE_FORM, BETA_BLOCKER, PRIVACY_CONSENT } from '../forms.ts';
import type { DemoConsent, DemoForm, PacketDocuments } from '../intake.ts';
import { idOf } from '../random.ts';
import { TYPE } from './visitTypeData.ts';

const w = (en: string, es: string): Words => ({ en, es });
const INJECTIONS = [TYPE.injection, TYPE.venom, TYPE.biologic, TYPE.biologicFirst];

const INJECTION_DAY: readonly FormItem[] = [
  {
    linkId: 'reaction',
    type: 'boolean',
    required: true,
    text: w('Did you have a reaction after your last injection?', '¿Tuvo una reacción después de su última inyección?'),
  },
  {
    linkId: 'reaction-what',
    type: 'text',
    required: true,
    text: w('What happened, and how long did it last?', '¿Qué pasó y cuánto duró?'),
    enableWhen: [{ question: 'reaction', operator: '=', answer: true }],
  },
  {
    linkId: 'peak-flow',
    type: 'integer',
    min: 50,
    max: 900,
    text: w('Your peak flow this morning, if you measure it', 'Su flujo máximo esta mañana, si lo mide'),
    hint: w('Liters a minute', 'Litros por minuto'),
  },
  {
    linkId: 'fever',
    type: 'boolean',
    required: true,
    text: w('Do you have a fever or a cold today?', '¿Tiene fiebre o resfriado hoy?'),
  },
  BETA_BLOCKER,
];

/** Days a week or month, in steps as a patient would say them. */
const OFTEN = [
  { code: 'never', text: w('Not at all', 'Nunca') },
  { code: 'twice-a-week', text: w('Up to twice a week', 'Hasta dos veces por semana') },
  { code: 'more', text: w('More than twice a week', 'Más de dos veces por semana') },
  { code: 'daily', text: w('Every day', 'Cada día') },
];
const often = (linkId: string, text: Words): FormItem => ({
  linkId,
  type: 'choice',
  required: true,
  text,
  options: OFTEN,
});

/** Asked after the rows on impairment of NHLBI EPR-3 (NIH 07-4051), from memory. */
const ASTHMA_CONTROL: readonly FormItem[] = [
  often(
    'symptoms',
    w('How often did you cough or wheeze by day?', '¿Con qué frecuencia tosió o tuvo silbidos de día?'),
  ),
  often('night', w('How often did it wake you at night?', '¿Con qué frecuencia le despertó de noche?')),
  often(
    'reliever',
    w('How often did you use your quick-relief inhaler?', '¿Con qué frecuencia usó su inhalador de rescate?'),
  ),
  {
    linkId: 'limits',
    type: 'boolean',
    required: true,
    text: w('Did it keep you from what you wanted to do?', '¿Le impidió hacer lo que quería?'),
  },
];

/** Patient Health Questionnaire-2 (Kroenke, Spitzer, Williams 2003; free to use), its wording from memory. */
const HALF_THE_DAYS = [
  { code: 'not-at-all', text: w('Not at all', 'Ningún día') },
  { code: 'several', text: w('Several days', 'Varios días') },
  { code: 'over-half', text: w('More than half the days', 'Más de la mitad de los días') },
  { code: 'nearly-all', text: w('Nearly every day', 'Casi todos los días') },
];
const bothered = (linkId: string, text: Words): FormItem => ({
  linkId,
  type: 'choice',
  required: true,
  text,
  options: HALF_THE_DAYS,
});
const PHQ_2: readonly FormItem[] = [
  bothered(
    'interest',
    w(
      'In the last two weeks, how often did you have little interest or pleasure in doing things?',
      'En las últimas dos semanas, ¿con qué frecuencia tuvo poco interés o placer en hacer las cosas?',
    ),
  ),
  bothered(
    'mood',
    w(
      'And how often did you feel down, depressed, or hopeless?',
      '¿Y con qué frecuencia se sintió decaído, deprimido o sin esperanza?',
    ),
  ),
];

const REGISTRATION: readonly FormItem[] = [
  { linkId: 'street', type: 'string', required: true, text: w('Street address', 'Calle y número') },
  { linkId: 'city', type: 'string', required: true, text: w('City', 'Ciudad') },
  { linkId: 'state', type: 'string', required: true, text: w('State', 'Estado') },
  { linkId: 'zip', type: 'string', required: true, text: w('ZIP code', 'Código postal') },
  {
    linkId: 'referred',
    type: 'boolean',
    required: true,
    text: w('Did another doctor send you to us?', '¿Le envió otro médico?'),
  },
  {
    linkId: 'referred-by',
    type: 'string',
    required: true,
    text: w('Who?', '¿Quién?'),
    enableWhen: [{ question: 'referred', operator: '=', answer: true }],
  },
  // Which company it is was asked when the visit was booked.
  {
    linkId: 'insurer-number',
    type: 'string',
    text: w('Member ID of your insurance, if you have one', 'Número de miembro de su seguro, si tiene'),
  },
];

const form = (
  name: string,
  staffName: string,
  title: Words,
  items: readonly FormItem[],
  typeIds: readonly string[],
  answers: DemoForm['answers'],
  kinds: DemoForm['kinds'] = null,
): DemoForm => ({
  id: idOf(`form ${name}`),
  code: name,
  staffName,
  title,
  items,
  typeIds,
  kinds,
  redFlagLink: null,
  answers,
});

const injectionAnswers = (i: number) => ({
  reaction: false,
  'peak-flow': 380 + (i % 12) * 10,
  fever: false,
  'beta-blocker': false,
});
const asthmaAnswers = (i: number) => ({
  symptoms: 'twice-a-week',
  night: 'never',
  reliever: i % 3 ? 'twice-a-week' : 'more',
  limits: i % 4 === 0,
});

const CHALLENGE: DemoConsent = {
  id: idOf('consent food challenge'),
  code: 'food-challenge',
  staffName: 'Food challenge consent',
  title: w('Food challenge', 'Prueba con alimento'),
  body: w(
    'You will eat small amounts of the food, a little more each time, while we watch.\nA reaction may come: hives, vomiting, trouble breathing. A person able to treat it is with you all the time.\nYou may stop at any moment.',
    'Comerá pequeñas cantidades del alimento, un poco más cada vez, mientras le observamos.\nPuede haber una reacción: ronchas, vómito, dificultad para respirar. Una persona capaz de tratarla le acompaña de principio a fin.\nPuede parar en cualquier momento.',
  ),
  validMonths: 6,
  typeIds: [TYPE.challenge],
  kinds: null,
};

const TERMS: DemoConsent = {
  id: idOf('consent late cancellation'),
  code: 'late-cancellation',
  staffName: 'Cancellation policy',
  title: w('If you cannot come', 'Si no puede venir'),
  body: w(
    'Please tell us a day before if you cannot come, so that somebody else can have the time.\nWho misses two visits without a word is asked to book by phone.',
    'Por favor avísenos un día antes si no puede venir, para que otra persona aproveche la hora.\nA quien falta dos veces sin avisar se le pide llamar para su próxima cita.',
  ),
  validMonths: 24,
  typeIds: [TYPE.consult],
  kinds: ['new'],
};

/** What the clinic asks for, by visit type. */
export const PACKET_DOCUMENTS: PacketDocuments = {
  forms: [
    {
      ...BEFORE_FORM,
      typeIds: [TYPE.consult, TYPE.follow, TYPE.skin, TYPE.challenge, TYPE.drug, TYPE.dietitian],
    },
    form(
      'injection-day',
      'Injection day',
      w('On the day of your injection', 'El día de su inyección'),
      INJECTION_DAY,
      INJECTIONS,
      injectionAnswers,
    ),
    form(
      'asthma-control',
      'Asthma control',
      w('How is your asthma?', '¿Cómo está su asma?'),
      ASTHMA_CONTROL,
      [TYPE.asthma],
      asthmaAnswers,
    ),
    form(
      'registration',
      'Registration',
      w('Your registration', 'Su registro'),
      REGISTRATION,
      [TYPE.consult],
      (i) => ({
        street: `${100 + i} Canal Street`,
        city: 'Chicago',
        state: 'IL',
        zip: '60607',
        referred: i % 3 === 0,
        ...(i % 3 === 0 && { 'referred-by': 'Dr. Pell' }),
      }),
      ['new'],
    ),
    form('phq-2', 'PHQ-2', w('Mood check', 'Su estado de ánimo'), PHQ_2, [TYPE.consult], (i) => ({
      interest: i % 5 ? 'not-at-all' : 'several',
      mood: i % 7 ? 'not-at-all' : 'over-half',
    })),
  ],
  consents: [{ ...PRIVACY_CONSENT, typeIds: [TYPE.consult, TYPE.follow] }, TERMS, CHALLENGE],
  doneShare: 0.78,
};

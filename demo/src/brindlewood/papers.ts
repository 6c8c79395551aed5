import type { FormItem, Words } from '@zaguan/core/intake';
import { BEFORE_FORM, BETA_BLOCKER, PRIVACY_CONSENT } from '../forms.ts';
import type { DemoConsent, DemoForm, Papers } from '../intake.ts';
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

const form = (
  name: string,
  title: Words,
  items: readonly FormItem[],
  typeIds: readonly string[],
  answers: DemoForm['answers'],
): DemoForm => ({
  id: idOf(`form ${name}`),
  code: name,
  title,
  items,
  typeIds,
  kinds: null,
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
  title: w('Food challenge', 'Prueba con alimento'),
  body: w(
    'You will eat small amounts of the food, a little more each time, while we watch.\nA reaction may come: hives, vomiting, trouble breathing. A person able to treat it is with you all the time.\nYou may stop at any moment.',
    'Comerá pequeñas cantidades del alimento, un poco más cada vez, mientras le observamos.\nPuede haber una reacción: ronchas, vómito, dificultad para respirar. Una persona capaz de tratarla le acompaña de principio a fin.\nPuede parar en cualquier momento.',
  ),
  validMonths: 6,
  typeIds: [TYPE.challenge],
  kinds: null,
};

/** What the clinic asks for, by visit type. */
export const PAPERS: Papers = {
  forms: [
    {
      ...BEFORE_FORM,
      typeIds: [TYPE.consult, TYPE.follow, TYPE.skin, TYPE.challenge, TYPE.drug, TYPE.dietitian],
    },
    form(
      'injection-day',
      w('On the day of your injection', 'El día de su inyección'),
      INJECTION_DAY,
      INJECTIONS,
      injectionAnswers,
    ),
    form(
      'asthma-control',
      w('How is your asthma?', '¿Cómo está su asma?'),
      ASTHMA_CONTROL,
      [TYPE.asthma],
      asthmaAnswers,
    ),
  ],
  consents: [{ ...PRIVACY_CONSENT, typeIds: [TYPE.consult, TYPE.follow] }, CHALLENGE],
  doneShare: 0.72,
};

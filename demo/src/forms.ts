import type { FormItem, Words } from '@zaguan/core/intake';
import type { DemoConsent, DemoForm, PacketDocuments } from './intake.ts';
import { idOf } from './random.ts';

const w = (en: string, es: string): Words => ({ en, es });
const is = (question: string, answer: string | boolean) => [{ question, operator: '=' as const, answer }];

export const FORM_ID = idOf('form before the visit');
export const CONSENT_ID = idOf('consent privacy');

/** Asked before tests and injections alike: a beta-blocker makes a severe reaction harder to treat. */
export const BETA_BLOCKER: FormItem = {
  linkId: 'beta-blocker',
  type: 'boolean',
  required: true,
  text: w(
    'Have you started a beta-blocker (a heart or blood pressure medicine)?',
    '¿Empezó a tomar un betabloqueador (medicina para el corazón o la presión)?',
  ),
  redFlag: {
    answer: true,
    advice: w(
      'Keep taking it. Call us before you come: a test or an injection may have to wait.',
      'Siga tomándolo. Llámenos antes de venir: una prueba o inyección quizá tenga que esperar.',
    ),
  },
};

/** What the clinic asks before a visit: how you are, medicines that disturb a test, who to call. */
export const BEFORE_THE_VISIT: readonly FormItem[] = [
  {
    linkId: 'now',
    type: 'group',
    text: w('How are you?', '¿Cómo está?'),
    items: [
      {
        linkId: 'breathing',
        type: 'boolean',
        required: true,
        text: w(
          'Is it hard to breathe right now, or is your face or throat swelling?',
          '¿Le cuesta respirar ahora mismo, o se le hincha la cara o la garganta?',
        ),
        redFlag: {
          answer: true,
          severity: 'emergency',
          advice: w('Call 911 now. Do not wait for your visit.', 'Llame al 911 ahora mismo. No espere a su cita.'),
        },
      },
      {
        linkId: 'reaction',
        type: 'boolean',
        required: true,
        text: w(
          'Did you have a reaction after your last injection or skin test?',
          '¿Tuvo una reacción después de su última inyección o prueba de piel?',
        ),
      },
      {
        linkId: 'reaction-what',
        type: 'text',
        required: true,
        text: w('What happened, and when?', '¿Qué pasó y cuándo?'),
        enableWhen: is('reaction', true),
      },
      BETA_BLOCKER,
    ],
  },
  {
    linkId: 'medicines',
    type: 'group',
    text: w('Your medicines', 'Sus medicinas'),
    items: [
      {
        linkId: 'antihistamine',
        type: 'boolean',
        required: true,
        text: w(
          'Did you take an allergy medicine in the last 7 days?',
          '¿Tomó una medicina para la alergia en los últimos 7 días?',
        ),
      },
      {
        linkId: 'antihistamine-which',
        type: 'choice',
        repeats: true,
        required: true,
        text: w('Which one?', '¿Cuál?'),
        enableWhen: is('antihistamine', true),
        options: [
          { code: 'cetirizine', text: w('Cetirizine', 'Cetirizina') },
          { code: 'loratadine', text: w('Loratadine', 'Loratadina') },
          { code: 'diphenhydramine', text: w('Diphenhydramine', 'Difenhidramina') },
          { code: 'other', text: w('Another one', 'Otra') },
        ],
      },
      {
        linkId: 'antihistamine-other',
        type: 'string',
        required: true,
        text: w('What is it called?', '¿Cómo se llama?'),
        enableWhen: is('antihistamine-which', 'other'),
      },
      {
        linkId: 'antihistamine-last',
        type: 'date',
        required: true,
        text: w('When did you take it last?', '¿Cuándo la tomó por última vez?'),
        enableWhen: is('antihistamine', true),
      },
    ],
  },
  {
    linkId: 'you',
    type: 'group',
    text: w('About you', 'Sobre usted'),
    items: [
      {
        linkId: 'preferred-name',
        type: 'string',
        prefill: 'preferred-name',
        text: w('What should we call you?', '¿Cómo quiere que le llamemos?'),
      },
      {
        linkId: 'emergency-name',
        type: 'string',
        required: true,
        text: w('Who should we call in an emergency?', '¿A quién llamamos en una emergencia?'),
      },
      {
        linkId: 'emergency-phone',
        type: 'string',
        required: true,
        text: w('Their phone number', 'Su número de teléfono'),
      },
      { linkId: 'asthma', type: 'boolean', text: w('Do you have asthma?', '¿Tiene asma?') },
      {
        linkId: 'peak-flow',
        type: 'integer',
        min: 50,
        max: 900,
        text: w('Your last peak flow, if you measure it', 'Su último flujo máximo, si lo mide'),
        hint: w('Liters a minute', 'Litros por minuto'),
        enableWhen: is('asthma', true),
      },
    ],
  },
];

export const PRIVACY = {
  staffName: 'Privacy notice',
  title: w('How we use what you tell us', 'Cómo usamos lo que nos dice'),
  body: w(
    'We keep what you tell us in your record so that we can care for you.\nWe show it only to people who take part in your care, to your health plan as far as payment needs it, and where the law asks for it.\nYou may see your record, have a mistake corrected, and ask who has seen it.\nYou may take this agreement back in writing at any time. What was done before stays as it is.',
    'Guardamos lo que nos dice en su expediente para poder atenderle.\nLo mostramos solo a quienes participan en su atención, a su seguro en lo que pida el pago, y donde la ley lo exija.\nUsted puede ver su expediente, pedir que se corrija un error y preguntar quién lo vio.\nPuede retirar este acuerdo por escrito cuando quiera. Lo hecho antes queda como está.',
  ),
};

/** How most people answer the form before a visit; every ninth had a reaction. */
function answersBefore(i: number, flagged: boolean) {
  return {
    breathing: false,
    reaction: i % 9 === 0,
    ...(i % 9 === 0 && { 'reaction-what': 'The arm was swollen until the evening.' }),
    'beta-blocker': flagged,
    antihistamine: false,
    'emergency-name': 'Lou Fen',
    'emergency-phone': '(312) 555-0177',
  };
}

export const BEFORE_FORM: DemoForm = {
  id: FORM_ID,
  code: 'before-the-visit',
  staffName: 'Allergy history',
  title: w('Before your visit', 'Antes de su cita'),
  items: BEFORE_THE_VISIT,
  typeIds: null,
  kinds: null,
  answers: answersBefore,
  redFlagLink: 'beta-blocker',
};

export const PRIVACY_CONSENT: DemoConsent = {
  id: CONSENT_ID,
  code: 'privacy',
  ...PRIVACY,
  validMonths: 12,
  typeIds: null,
  kinds: null,
};

/** One form and one consent, asked of everyone. */
export const FOR_EVERY_VISIT: PacketDocuments = { forms: [BEFORE_FORM], consents: [PRIVACY_CONSENT], doneShare: 0.84 };

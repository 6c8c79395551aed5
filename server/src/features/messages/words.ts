import { smsLength } from '@zaguan/core/messages';
import type { MessageKind } from '@zaguan/core/reminders';

export type Language = 'en' | 'es';

/** What tells of a visit in the clinic's standing words. */
export type OfVisit = Exclude<MessageKind, 'reply' | 'code' | 'invitation'>;

/** Filled in when the message is handed over, so that no token is stored. */
export const LINK = '{link}';
export const CODE = '{code}';

/** The code comes last, where a phone offers it for pasting. */
export const CODE_WORDS: Record<Language, (clinic: string) => string> = {
  en: (clinic) => `${clinic}: your code to book a visit. Nobody from the clinic asks for it. ${CODE}`,
  es: (clinic) => `${clinic}: su código para pedir la cita. Nadie de la clinica se lo pide. ${CODE}`.replace('ó', 'o'),
};

interface Facts {
  readonly clinic: string;
  readonly date: string;
  readonly time: string;
  /** Where, if it is another place than before. */
  readonly place: string | null;
  /** What somebody of the clinic wrote with it. */
  readonly said: string;
  /** How far behind the provider is, in minutes, and when the visit begins so. */
  readonly delayMin: number;
  readonly later: string;
}

/** What a message says beside the visit itself. */
export interface Besides {
  /** Where, if it is another place than before. */
  readonly place?: string | null;
  /** What somebody of the clinic wrote with it. */
  readonly said?: string;
  /** How far behind the provider is, in minutes. */
  readonly delayMin?: number;
}

/**
 * Clinic, date, time and link, and the place if that is new; never the visit type. Spanish keeps to letters of the GSM alphabet (é, ñ, ü, but not
 * á, í, ó, ú), which halves the number of messages a text takes (TS 23.038). Where there are several wordings, the
 * first that fits into one message is taken, and the last one if none does.
 */
type Words = (facts: Facts) => string | readonly string[];
const WORDS: Record<Language, Record<OfVisit, Words>> = {
  en: {
    confirmation: ({ clinic, date, time }) => [
      `${clinic}: you are booked ${date}, ${time}. Details or cancel: ${LINK} Reply Y to confirm, STOP to opt out.`,
      `${clinic}: booked ${date}, ${time}. Details or cancel: ${LINK} Y to confirm, STOP to opt out.`,
      `${clinic}: ${date}, ${time}. Details: ${LINK} Y to confirm, STOP to opt out.`,
    ],
    reminder: ({ clinic, date, time }) => [
      `${clinic}: your appointment is ${date}, ${time}. Details or cancel: ${LINK} Reply Y to confirm, STOP to opt out.`,
      `${clinic}: see you ${date}, ${time}. Details or cancel: ${LINK} Y to confirm, STOP to opt out.`,
      `${clinic}: ${date}, ${time}. Details: ${LINK} Y to confirm, STOP to opt out.`,
    ],
    moved: ({ clinic, date, time, place }) =>
      `${clinic}: your appointment has a new time${place ? ' and place' : ''}: ${date}, ${time}${place ? `, ${place}` : ''}. If that doesn't work for you: ${LINK}`,
    'must-move': ({ clinic, date, time }) =>
      `${clinic}: sorry, we have to move your appointment on ${date}, ${time}. We'll send you a new time soon. ${LINK}`,
    cancellation: ({ clinic, date, time }) =>
      `${clinic}: your appointment on ${date}, ${time} is canceled. Call us for another time.`,
    restored: ({ clinic, date, time }) => `${clinic}: your appointment on ${date}, ${time} is back on. ${LINK}`,
    requested: ({ clinic, date, time }) =>
      `${clinic}: we have your request for ${date}, ${time} and are holding the time. We'll let you know soon. ${LINK}`,
    declined: ({ clinic, date, time, said }) =>
      `${clinic}: we can't see you on ${date}, ${time}. ${said} Call us for another time.`,
    delay: ({ clinic, time, delayMin, later }) =>
      `${clinic}: we are running about ${delayMin} min late today. Your ${time} visit will start about ${later}; you can come then. ${LINK}`,
    'on-time': ({ clinic, time }) => `${clinic}: we have caught up. Please come at ${time} as booked. ${LINK}`,
  },
  es: {
    confirmation: ({ clinic, date, time }) => [
      `${clinic}: su cita es el ${date}, ${time}. Detalles o cancelar: ${LINK} Responda S para confirmar, ALTO para no recibir textos.`,
      `${clinic}: su cita es el ${date}, ${time}. Ver o cancelar: ${LINK} S confirma, ALTO da de baja.`,
      `${clinic}: cita ${date}, ${time}. Cancelar: ${LINK} S confirma, ALTO da de baja.`,
    ],
    reminder: ({ clinic, date, time }) => [
      `${clinic}: le esperamos el ${date}, ${time}. Responda S para confirmar. Detalles o cancelar: ${LINK} ALTO para no recibir textos.`,
      `${clinic}: le esperamos el ${date}, ${time}. Ver o cancelar: ${LINK} S confirma, ALTO da de baja.`,
      `${clinic}: cita ${date}, ${time}. Cancelar: ${LINK} S confirma, ALTO da de baja.`,
    ],
    moved: ({ clinic, date, time, place }) =>
      `${clinic}: su cita tiene nueva hora${place ? ' y lugar' : ''}: ${date}, ${time}${place ? `, ${place}` : ''}. Si no le conviene: ${LINK}`,
    'must-move': ({ clinic, date, time }) =>
      `${clinic}: lo sentimos, su cita del ${date}, ${time} no puede ser a esa hora. Pronto le avisamos de otra. ${LINK}`,
    cancellation: ({ clinic, date, time }) =>
      `${clinic}: su cita del ${date}, ${time} se cancela. Llame para otra hora.`,
    restored: ({ clinic, date, time }) => `${clinic}: su cita del ${date}, ${time} queda como estaba. ${LINK}`,
    requested: ({ clinic, date, time }) =>
      `${clinic}: recibimos su solicitud para el ${date}, ${time} y le guardamos la hora. Pronto le avisamos. ${LINK}`,
    declined: ({ clinic, date, time, said }) =>
      `${clinic}: no podemos atenderle el ${date}, ${time}. ${said} Llame para otra hora.`,
    delay: ({ clinic, time, delayMin, later }) =>
      `${clinic}: hoy llevamos unos ${delayMin} min de retraso. Su cita de las ${time} empieza hacia las ${later}; puede venir a esa hora. ${LINK}`,
    'on-time': ({ clinic, time }) => `${clinic}: ya no hay retraso. Venga a las ${time}, como estaba previsto. ${LINK}`,
  },
};

/** Answers to a patient's reply; sent at once, also in quiet time. */
export const ANSWERS: Record<
  Language,
  Record<'confirm' | 'stop' | 'other', (facts: { clinic: string; phone: string }) => string>
> = {
  en: {
    confirm: ({ clinic }) => `${clinic}: thank you, we expect you.`,
    stop: ({ clinic, phone }) =>
      `${clinic}: you get no more automated texts. To change or cancel a visit call ${phone}.`,
    other: ({ clinic, phone }) => `${clinic}: we read your message at the desk. If it is urgent call ${phone}.`,
  },
  es: {
    confirm: ({ clinic }) => `${clinic}: gracias, le esperamos.`,
    stop: ({ clinic, phone }) =>
      `${clinic}: no recibe más textos. Para cambiar o cancelar una cita llame al ${phone}.`.replace('más', 'mas'),
    other: ({ clinic, phone }) => `${clinic}: leemos su mensaje en la clinica. Si es urgente llame al ${phone}.`,
  },
};

const FORMATS = { en: 'en-US', es: 'es-US' } as const;
const PARTS = {
  date: { weekday: 'short', month: 'short', day: 'numeric' },
  time: { hour: 'numeric', minute: '2-digit' },
} as const;

/** Formats are dear to make and few; each is made once. */
const made = new Map<string, Intl.DateTimeFormat>();
function formatOf(language: Language, timeZone: string, part: 'date' | 'time'): Intl.DateTimeFormat {
  const key = `${language} ${timeZone} ${part}`;
  let format = made.get(key);
  if (!format) {
    format = new Intl.DateTimeFormat(FORMATS[language], { timeZone, ...PARTS[part] });
    made.set(key, format);
  }
  return format;
}

/**
 * The text of a message about a visit, with the link still to be filled in.
 *
 * @param visit with how many letters the link will have
 */
export function writeMessage(
  kind: OfVisit,
  language: Language,
  visit: { clinic: string; startsAt: Date; timeZone: string; linkLength: number },
  { place = null, said = '', delayMin = 0 }: Besides = {},
): string {
  const part = (which: 'date' | 'time', at = visit.startsAt) => formatOf(language, visit.timeZone, which).format(at);
  const plain = (text: string) =>
    text
      .replace(/\u202f|\u00a0/g, ' ')
      .replace(/á/g, 'a')
      .replace(/\./g, '')
      .replace(/ ?([AP])M/i, (_, half: string) => ` ${half.toLowerCase()}m`);
  const later = plain(part('time', new Date(visit.startsAt.getTime() + delayMin * 60_000)));
  const when = { date: plain(part('date')), time: plain(part('time')), delayMin, later };
  const facts = { clinic: visit.clinic, ...when, place, said };
  const wordings = [WORDS[language][kind](facts)].flat();
  const isOneText = (text: string) => smsLength(text.replace(LINK, 'x'.repeat(visit.linkLength))).parts === 1;
  return wordings.find(isOneText) ?? wordings[wordings.length - 1];
}

import type { MessageKind } from '@zaguan/core/reminders';
import { type Besides, CODE, type Language, LINK, type OfVisit } from './words.ts';

/** An invitation has the subject that its template gives it. */
export type WithSubject = Exclude<MessageKind, 'invitation'>;

interface Facts {
  readonly clinic: string;
  readonly phone: string;
  readonly date: string;
  readonly time: string;
  /** Where, if it is another place than before. */
  readonly place: string | null;
  readonly said: string;
  /** How far behind the provider is, in minutes, and when the visit begins so. */
  readonly delayMin: number;
  readonly later: string;
}

/** An e-mail has room for whole sentences; like a text message it names clinic, date, time and link, never the visit type. */
const BODIES: Record<Language, Record<OfVisit, (facts: Facts) => string[]>> = {
  en: {
    confirmation: ({ clinic, date, time }) => [
      `You are booked at ${clinic}:`,
      `${date}, ${time}`,
      `Your visit, with what to fill in before you come, and how to cancel it:\n${LINK}`,
      'Answer this e-mail with Y to confirm. The visit is attached for your calendar.',
    ],
    reminder: ({ clinic, date, time }) => [
      `Your appointment at ${clinic} is coming up:`,
      `${date}, ${time}`,
      `Your visit, with what to fill in before you come, and how to cancel it:\n${LINK}`,
      'Answer this e-mail with Y to confirm.',
    ],
    moved: ({ clinic, date, time, place }) => [
      `Your appointment at ${clinic} has a new time${place ? ' and place' : ''}:`,
      `${date}, ${time}${place ? `\n${place}` : ''}`,
      `If that doesn't work for you, cancel here or call us:\n${LINK}`,
      'The new time is attached for your calendar.',
    ],
    'must-move': ({ clinic, date, time, phone }) => [
      `We're sorry, we have to move your appointment at ${clinic}:`,
      `${date}, ${time}`,
      `We'll send you a new time soon. You can also call ${phone}, or see your visit here:\n${LINK}`,
    ],
    cancellation: ({ clinic, date, time, phone }) => [
      `Your appointment at ${clinic} is canceled:`,
      `${date}, ${time}`,
      `For another time call ${phone}. The cancellation is attached for your calendar.`,
    ],
    restored: ({ clinic, date, time }) => [
      `Your appointment at ${clinic} is back on:`,
      `${date}, ${time}`,
      `Your visit:\n${LINK}`,
    ],
    requested: ({ clinic, date, time }) => [
      `${clinic} has your request for:`,
      `${date}, ${time}`,
      `We are holding the time for you and will let you know soon.\n${LINK}`,
    ],
    declined: ({ clinic, date, time, phone, said }) => [
      `${clinic} can't see you at the time you asked for:`,
      `${date}, ${time}`,
      said,
      `For another time call ${phone}.`,
    ],
    delay: ({ clinic, time, delayMin, later }) => [
      `${clinic} is running about ${delayMin} minutes late today.`,
      `Your visit at ${time} will start about ${later}; you can come then.`,
      `Your visit:\n${LINK}`,
    ],
    'on-time': ({ clinic, time }) => [
      `${clinic} has caught up.`,
      `Please come at ${time} as booked.`,
      `Your visit:\n${LINK}`,
    ],
  },
  es: {
    confirmation: ({ clinic, date, time }) => [
      `Su cita en ${clinic} está reservada:`,
      `${date}, ${time}`,
      `Su cita, lo que hay que llenar antes de venir y cómo cancelarla:\n${LINK}`,
      'Responda a este correo con S para confirmar. Adjuntamos la cita para su calendario.',
    ],
    reminder: ({ clinic, date, time }) => [
      `Se acerca su cita en ${clinic}:`,
      `${date}, ${time}`,
      `Su cita, lo que hay que llenar antes de venir y cómo cancelarla:\n${LINK}`,
      'Responda a este correo con S para confirmar.',
    ],
    moved: ({ clinic, date, time, place }) => [
      `Su cita en ${clinic} tiene nueva hora${place ? ' y lugar' : ''}:`,
      `${date}, ${time}${place ? `\n${place}` : ''}`,
      `Si no le conviene, mire aquí o llámenos:\n${LINK}`,
      'Adjuntamos la nueva hora para su calendario.',
    ],
    'must-move': ({ clinic, date, time, phone }) => [
      `Lo sentimos: su cita en ${clinic} no puede ser a su hora:`,
      `${date}, ${time}`,
      `Buscamos otra hora y le avisamos pronto. Puede llamar al ${phone} o mirar aquí:\n${LINK}`,
    ],
    cancellation: ({ clinic, date, time, phone }) => [
      `Su cita en ${clinic} se cancela:`,
      `${date}, ${time}`,
      `Para otra hora llame al ${phone}. Adjuntamos la cancelación para su calendario.`,
    ],
    restored: ({ clinic, date, time }) => [
      `Su cita en ${clinic} queda como estaba:`,
      `${date}, ${time}`,
      `Su cita:\n${LINK}`,
    ],
    requested: ({ clinic, date, time }) => [
      `${clinic} recibió su solicitud para:`,
      `${date}, ${time}`,
      `Le guardamos la hora. Pronto le avisamos si se puede.\n${LINK}`,
    ],
    declined: ({ clinic, date, time, phone, said }) => [
      `${clinic} no puede atenderle a la hora que pidió:`,
      `${date}, ${time}`,
      said,
      `Para otra hora llame al ${phone}.`,
    ],
    delay: ({ clinic, time, delayMin, later }) => [
      `Hoy llevamos unos ${delayMin} minutos de retraso en ${clinic}.`,
      `Su cita de las ${time} empieza hacia las ${later}; puede venir a esa hora.`,
      `Su cita:\n${LINK}`,
    ],
    'on-time': ({ clinic, time }) => [
      `Ya no hay retraso en ${clinic}.`,
      `Venga a las ${time}, como estaba previsto.`,
      `Su cita:\n${LINK}`,
    ],
  },
};

const SUBJECTS: Record<Language, Record<WithSubject, (clinic: string) => string>> = {
  en: {
    confirmation: (clinic) => `${clinic}: you are booked`,
    reminder: (clinic) => `${clinic}: your appointment`,
    moved: (clinic) => `${clinic}: a new time for your appointment`,
    'must-move': (clinic) => `${clinic}: your appointment needs another time`,
    cancellation: (clinic) => `${clinic}: your appointment is canceled`,
    restored: (clinic) => `${clinic}: your appointment is back on`,
    requested: (clinic) => `${clinic}: we have your request`,
    declined: (clinic) => `${clinic}: your request`,
    delay: (clinic) => `${clinic}: running late today`,
    'on-time': (clinic) => `${clinic}: no longer late`,
    reply: (clinic) => `${clinic}: your message`,
    code: (clinic) => `${clinic}: your code`,
  },
  es: {
    confirmation: (clinic) => `${clinic}: su cita está reservada`,
    reminder: (clinic) => `${clinic}: su cita`,
    moved: (clinic) => `${clinic}: nueva hora para su cita`,
    'must-move': (clinic) => `${clinic}: su cita necesita otra hora`,
    cancellation: (clinic) => `${clinic}: su cita se cancela`,
    restored: (clinic) => `${clinic}: su cita queda como estaba`,
    requested: (clinic) => `${clinic}: recibimos su solicitud`,
    declined: (clinic) => `${clinic}: su solicitud`,
    delay: (clinic) => `${clinic}: hoy con retraso`,
    'on-time': (clinic) => `${clinic}: ya sin retraso`,
    reply: (clinic) => `${clinic}: su mensaje`,
    code: (clinic) => `${clinic}: su código`,
  },
};

const LOCALES = { en: 'en-US', es: 'es-US' } as const;

/** The body of an e-mail about a visit, with the link still to be filled in. */
export function writeMail(
  kind: OfVisit,
  language: Language,
  visit: { clinic: string; clinicPhone: string; startsAt: Date; timeZone: string },
  { place = null, said = '', delayMin = 0 }: Besides = {},
): string {
  const part = (options: Intl.DateTimeFormatOptions, at = visit.startsAt) =>
    new Intl.DateTimeFormat(LOCALES[language], { timeZone: visit.timeZone, ...options })
      .format(at)
      .replace(/\u202f|\u00a0/g, ' ');
  return BODIES[language]
    [kind]({
      clinic: visit.clinic,
      phone: visit.clinicPhone,
      date: part({ weekday: 'long', month: 'long', day: 'numeric' }),
      time: part({ hour: 'numeric', minute: '2-digit', timeZoneName: 'shortGeneric' }),
      later: part({ hour: 'numeric', minute: '2-digit' }, new Date(visit.startsAt.getTime() + delayMin * 60_000)),
      ...{ place, said, delayMin },
    })
    .filter(Boolean)
    .join('\n\n');
}

export function subjectOf(kind: WithSubject, language: Language, clinic: string): string {
  return SUBJECTS[language][kind](clinic);
}

export const CODE_MAIL: Record<Language, (clinic: string) => string> = {
  en: (clinic) => `Your code to book a visit at ${clinic}:\n\n${CODE}\n\nNobody from the clinic asks for it.`,
  es: (clinic) => `Su código para pedir la cita en ${clinic}:\n\n${CODE}\n\nNadie de la clínica se lo pide.`,
};

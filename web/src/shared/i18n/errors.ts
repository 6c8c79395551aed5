import type { ErrorTag } from '@zaguan/contracts';

type Words = Record<ErrorTag, string>;

/** What happened, what is safe, what to do next. */
export const ERRORS_EN: Words = {
  InvalidInput: 'Some of what was entered can’t be used. Nothing was saved; the fields say what to change.',
  NotSignedIn: 'You are signed out. Nothing is lost on this page; sign in again and go on.',
  SignInFailed: 'E-mail and password do not match. Try again.',
  AccountLocked: 'Too many wrong passwords. The account is locked until {{until}}; a manager can help sooner.',
  NotAllowed: 'Your role may not do this. A manager or coordinator can.',
  StalePage: 'This page is older than your last sign-in. Load it again; nothing was changed.',
  NotFound: 'This no longer exists. Nothing was changed.',
  TooManyBookings:
    'Several visits are booked online already for this name or with this number. Call us and we book this one for you; what you typed is kept.',
  TooManyRequests: 'Too many tries in a short time. Wait a minute; nothing is lost.',
  TimeTaken: 'Someone else has just taken this time. Nothing was changed.',
  NotOffered: 'This time is not offered any more. Nothing was changed.',
  HoldGone: 'The time was no longer kept for you. What you typed is still here.',
  HoldUsed: 'This time was booked already from this page, with other details.',
  ChangedMeanwhile: 'Someone else changed this first. You see the newer state now; nothing was overwritten.',
  WrongStatus: 'The visit can’t go from its present status to this one. Nothing was changed.',
  ScheduleRefused: 'The schedule can’t be changed like this. Nothing was saved.',
  UndoGone: 'This can’t be undone any more. Nothing was changed.',
  NotVerified: 'We send a code to this number first. Nothing was booked yet.',
  WrongCode: 'This is not the code we sent. {{left}} tries left.',
  CodeGone: 'This code is too old. Let us send a new one.',
  CodeLocked:
    'Too many tries with this number. Wait half an hour, or call us and we book it for you. What you typed is kept.',
  LinkGone: 'This link leads nowhere any more. Nothing was changed.',
  WrongBirthDate: 'This is not the date of birth we have for this visit. {{left}} tries left.',
  LinkLocked: 'Too many wrong dates. Call us and we help you. Nothing was changed.',
  AfterCutOff: 'It is too late to cancel here. Call us, please; nothing was changed.',
  DecidedAlready: 'Someone decided this already. Nothing was changed.',
  ProofNeeded: 'We could not check that this is not a robot. Try again; nothing you chose is lost.',
  NotReady: 'Something is still missing before check-in. Nothing was changed; the list says what.',
  NeedsCheckIn: 'Use check-in: it asks for two identifiers and what is still missing. Nothing was changed.',
  ConsentIncomplete: 'The consent is not complete yet. Nothing is lost; the marked lines say what is missing.',
  SignedAlready: 'This consent was signed already. It stays as it was.',
  NotAsked: 'This visit does not ask for this page any more. Nothing was changed.',
  SetupRefused: 'These settings conflict. Nothing was saved; the marked fields say why.',
  AgreementNeeded: 'This has consequences. Nothing was saved yet; look at them and agree first.',
  SomeoneElse:
    'With another name and another birth date this would be another person’s record. Nothing was changed. Register them, or change one at a time if both were wrong.',
  LikelySame: 'Somebody on file is likely the same person. Nothing was saved; look at the similar records first.',
  NotBookable: 'This record is archived, or its patient has died. Nothing was changed.',
  MayNotBook: 'This person may not book for this patient. Nothing was changed.',
  KeptByRule: 'This register is kept by its rule. Nothing was changed. Change the rule, or what is on record.',
  OnRegister: 'This patient is on the register already. Nothing was changed.',
  InvitationOver: 'Nothing can be booked with this invitation any more. Nothing was changed.',
  FindsNothing:
    'Nobody was invited: with this template nothing could be booked in the next three weeks. Widen what it may book, or open times.',
  TakenBy: '{{by}} has taken this already. Nothing was changed.',
  DatabaseAway: 'The server can’t reach its database just now. Nothing is lost; the page tries again by itself.',
  Unexpected:
    'Something went wrong on our side. Nothing was changed. Try again; if it happens twice, tell support this number: {{requestId}}.',
};

export const ERRORS_PATIENT_EN: Partial<Words> = {
  TimeTaken: 'Someone else has just taken this time. Pick another one; what you typed is kept.',
  NotOffered: 'This time is not offered any more. Pick another one; what you typed is kept.',
  HoldGone: 'We could no longer keep this time for you. What you typed is still here. Pick a time again.',
  HoldUsed: 'This time was already booked from this phone with other details. Call us if that is wrong.',
  DatabaseAway: 'We can’t reach our booking system right now. Nothing you typed is lost. We keep trying by ourselves.',
  NotAllowed: 'This is not possible from this page.',
  InvalidInput: 'Please look at the fields marked below. Nothing is lost.',
};

export const ERRORS_PATIENT_ES: Partial<Words> = {
  TimeTaken: 'Alguien acaba de tomar esta hora. Elija otra; guardamos lo que escribió.',
  NotOffered: 'Esta hora ya no se ofrece. Elija otra; guardamos lo que escribió.',
  HoldGone: 'Ya no pudimos guardarle esta hora. Lo que escribió sigue aquí. Elija una hora otra vez.',
  HoldUsed: 'Esta hora ya se reservó desde este teléfono con otros datos. Llámenos si no es correcto.',
  NotVerified: 'Primero enviamos un código a este número. Aún no se reservó nada.',
  WrongCode: 'No es el código que enviamos. Le quedan {{left}} intentos.',
  CodeGone: 'Este código ya venció. Le enviamos uno nuevo.',
  CodeLocked:
    'Demasiados intentos con este número. Espere media hora o llámenos y le damos la cita. Lo que escribió sigue aquí.',
  InvitationOver: 'Con esta invitación ya no se puede pedir hora. No se cambió nada. Llámenos y le ayudamos.',
  LinkGone: 'Este enlace ya no lleva a ninguna parte. No se cambió nada.',
  WrongBirthDate: 'No es la fecha de nacimiento que tenemos para esta cita. Le quedan {{left}} intentos.',
  LinkLocked: 'Demasiadas fechas equivocadas. Llámenos y le ayudamos. No se cambió nada.',
  AfterCutOff: 'Ya es tarde para cancelar aquí. Llámenos, por favor; no se cambió nada.',
  DatabaseAway:
    'Ahora no podemos llegar a nuestro sistema de citas. No se pierde nada de lo que escribió. Seguimos intentando.',
  TooManyBookings:
    'Ya hay varias citas reservadas en línea con este nombre o este número. Llámenos y le reservamos esta; lo que escribió se conserva.',
  TooManyRequests: 'Demasiados intentos en poco tiempo. Espere un minuto; no se pierde nada.',
  NotFound: 'Esto ya no existe. No se cambió nada.',
  ProofNeeded: 'No pudimos comprobar que no es un robot. Inténtelo de nuevo; no se pierde nada de lo elegido.',
  ConsentIncomplete: 'Falta algo en el consentimiento. No se pierde nada; mire las líneas marcadas.',
  SignedAlready: 'Este consentimiento ya se firmó. Queda como estaba.',
  NotAsked: 'Esta cita ya no pide esta página. No se cambió nada.',
  NotAllowed: 'Esto no es posible desde esta página.',
  InvalidInput: 'Revise los campos marcados. No se pierde nada.',
  Unexpected: 'Algo falló de nuestro lado. No se cambió nada. Inténtelo de nuevo o llámenos.',
};

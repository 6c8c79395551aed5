import { z } from 'zod';

/** Every expected failure and its HTTP status; each has words in `web/src/shared/i18n` under `error.<tag>`. */
export const ERROR_STATUS = {
  /** The request does not have the agreed form; `issues` says where. */
  InvalidInput: 400,
  NotSignedIn: 401,
  /** Wrong e-mail or password: which of both is not said. */
  SignInFailed: 401,
  /** Too many wrong passwords; `until` says when to try again. */
  AccountLocked: 423,
  NotAllowed: 403,
  /** The page was opened before the last sign-in; loading it again helps. */
  StalePage: 403,
  NotFound: 404,
  TooManyRequests: 429,
  /** As many visits to come are booked online for this person, or with this number, as can be. */
  TooManyBookings: 409,
  /** The start time was taken by someone else in the meantime; `nearest` has other times. */
  TimeTaken: 409,
  /** The start time is not (or no longer) offered; `codes` says why. */
  NotOffered: 409,
  /** The hold ran out or was given back. */
  HoldGone: 409,
  /** This hold was booked already, with other details. */
  HoldUsed: 409,
  /** Someone else changed it first; `version` is the present one. */
  ChangedMeanwhile: 409,
  /** The status can't follow the present one. */
  WrongStatus: 409,
  /** The schedule can't be changed like this: `issues` says which edit and why, `facts` with what (of the first). Nothing was saved. */
  ScheduleRefused: 409,
  UndoGone: 409,
  /** The phone number was not verified from this browser in the last half hour. */
  NotVerified: 403,
  /** Not the code that was sent; `left` tries remain. */
  WrongCode: 403,
  /** The code is older than ten minutes, or none was sent. */
  CodeGone: 409,
  /** Too many wrong codes or sendings; `until` says when to try again. */
  CodeLocked: 423,
  /** The link leads nowhere (any more): altered, or its visit is over. */
  LinkGone: 404,
  /** The date of birth does not fit; `left` tries remain. */
  WrongBirthDate: 403,
  /** Too many wrong dates of birth; calling helps. */
  LinkLocked: 423,
  /** Too late to cancel by link; calling helps. */
  AfterCutOff: 409,
  /** Someone decided this already. */
  DecidedAlready: 409,
  /** The browser's work before a hold is missing, used or too old; the page does it again by itself. */
  ProofNeeded: 403,
  /** Check-in needs two identifiers and nothing missing; the body of the visit's readiness says what. */
  NotReady: 409,
  /** A status that only check-in sets. */
  NeedsCheckIn: 409,
  /** The consent is not agreed to, or lacks a name or signature; `codes` says what. */
  ConsentIncomplete: 422,
  /** This consent was signed already; a signature is never replaced. */
  SignedAlready: 409,
  /** The visit does not ask for this form or consent (any more). */
  NotAsked: 409,
  /** What is set up can't be so: `issues` says where and why, `facts` with what. Nothing was saved. */
  SetupRefused: 409,
  /** The change has consequences that must be agreed to first; `codes` names them, `facts` says how far they go. */
  AgreementNeeded: 409,
  /** The change would make the record another person’s. */
  SomeoneElse: 409,
  /** Somebody on record is likely the same person and was not looked at; nothing was saved. */
  LikelySame: 409,
  /** Nobody can be booked who has died or whose record is archived; `status` says which. */
  NotBookable: 409,
  /** Whoever asks for the visit has no right to book for this patient. */
  MayNotBook: 403,
  /** A register with a rule keeps itself: nobody is put on it, or taken off, by hand. */
  KeptByRule: 409,
  OnRegister: 409,
  /** Nothing can be booked with this invitation any more; `over` says why. */
  InvitationOver: 409,
  /** An invitation of this template would find no time at all: nobody gets an empty link. Nothing was sent. */
  FindsNothing: 409,
  /** Someone else has taken this work; `by` is their name. */
  TakenBy: 409,
  DatabaseAway: 503,
  Unexpected: 500,
} as const;

export type ErrorTag = keyof typeof ERROR_STATUS;
export const ERROR_TAGS = Object.keys(ERROR_STATUS) as [ErrorTag, ...ErrorTag[]];

/** Another time that could be booked instead. */
export const otherTime = z.strictObject({ start: z.iso.datetime(), providerId: z.string().nullable() });

/** The one shape of every refusal. Never holds patient data. */
export const errorBody = z.strictObject({
  error: z.strictObject({
    tag: z.enum(ERROR_TAGS),
    requestId: z.string(),
    facts: z.record(z.string(), z.union([z.string(), z.number(), z.boolean(), z.null()])),
    issues: z.array(z.strictObject({ path: z.string(), code: z.string() })).optional(),
    codes: z.array(z.string()).optional(),
    nearest: z.array(otherTime).optional(),
  }),
});
export type ErrorBody = z.output<typeof errorBody>;

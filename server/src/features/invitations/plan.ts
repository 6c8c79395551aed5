import type { PreviewedInvitation } from '@zaguan/contracts/invitations';
import { fillWords, paced, partsOf, textOf, whyNotInvited } from '@zaguan/core/invitations';
import { channelOf } from '@zaguan/core/messages';
import { fullName } from '@zaguan/core/patients';
import { comingTypesOf, type RecallPlan } from '@zaguan/core/recalls';
import { afterQuiet, DEFAULT_QUIET_HOURS } from '@zaguan/core/reminders';
import { epochToWall, type LocalDate, wallToEpoch } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { InvitationTemplate } from '../../schema/index.ts';
import { linkLength } from '../linkTokens/index.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import { type InviteeRow, inviteesOf, type Subject } from './people.sql.ts';

/** What is sent, and about what. */
export interface Sending extends Subject {
  readonly template: InvitationTemplate;
  readonly plan: RecallPlan | null;
  readonly clinic: { readonly name: string; readonly phone: string };
}

/** Somebody's message, or why there is none. */
export interface Planned {
  readonly patientId: string;
  readonly name: string;
  readonly refused: PreviewedInvitation['refused'];
  readonly message:
    | (NonNullable<PreviewedInvitation['message']> & {
        readonly contactPointId: string;
        readonly subject: string;
        readonly sendOn: LocalDate;
      })
    | null;
}

async function refusalOf(ctx: Ctx, sending: Sending, row: InviteeRow): Promise<Planned['refused']> {
  if (!(await mayOpenRecord(ctx, row))) return 'restricted';
  return whyNotInvited({
    status: row.status,
    holdsOne: row.holdsOne,
    ...{ coming: row.coming, moves: sending.moveId !== null, uses: sending.template.rules.uses },
    comingTypeIds: sending.plan ? comingTypesOf(sending.plan) : sending.template.rules.typeIds,
    isDue: sending.planId === null ? null : row.state === 'due',
    reach: row.contact !== null ? 'open' : row.optedOut ? 'opted-out' : 'none',
  });
}

/** When one more may go to a number: not at night, and no faster than the limits allow. */
function sendTime(now: number, timeZone: string, dates: readonly LocalDate[]) {
  const first = afterQuiet(now, [timeZone], DEFAULT_QUIET_HOURS);
  const firstOn = epochToWall(timeZone, first).date;
  const { on, by } = paced(dates, firstOn);
  const minute = on === firstOn ? first : afterQuiet(wallToEpoch(timeZone, on, 0), [timeZone], DEFAULT_QUIET_HOURS);
  return { on, minute, laterBy: by ?? (minute > now ? ('quiet-hours' as const) : null) };
}

/**
 * What each of these patients would be sent, in the order in which they are named. Who shares a number is spread over
 * days by the limits, those named first first.
 */
export async function planInvitations(
  ctx: Ctx,
  sending: Sending,
  patientIds: readonly string[],
): Promise<readonly Planned[]> {
  const { template, clinic } = sending;
  const ids = [...new Set(patientIds)];
  const rows = new Map((await inviteesOf(ctx.em, ids, sending, ctx.now)).map((row) => [row.id, row]));
  const datesOf = new Map<string, LocalDate[]>();
  const [now, length] = [nowMinute(ctx), linkLength(ctx.addresses.publicUrl)];
  const planned: Planned[] = [];
  for (const patientId of ids) {
    const row = rows.get(patientId);
    if (!row) {
      planned.push({ patientId, name: '', refused: 'unknown', message: null });
      continue;
    }
    const refused = await refusalOf(ctx, sending, row);
    const { contact, contactPointId, language, timeZone } = row;
    if (refused !== null || contact === null || contactPointId === null) {
      const name = refused === 'restricted' ? '' : fullName(row.givenName, row.familyName);
      planned.push({ patientId, name, refused, message: null });
      continue;
    }
    const dates = datesOf.get(contactPointId) ?? [...row.dates];
    const { on, minute, laterBy } = sendTime(now, timeZone, dates);
    if (template.rules.untilDate !== null && on > template.rules.untilDate) {
      // Nobody gets an empty link.
      planned.push({ patientId, name: fullName(row.givenName, row.familyName), refused: 'too-late', message: null });
      continue;
    }
    datesOf.set(contactPointId, [...dates, on]);
    const words = template.words[language];
    const facts = { clinic: clinic.name, phone: clinic.phone, name: row.givenName };
    const channel = channelOf(contact);
    const body = channel === 'sms' ? textOf(fillWords(words.text, facts), language) : fillWords(words.mail, facts);
    planned.push({
      ...{ patientId, name: fullName(row.givenName, row.familyName), refused: null },
      message: {
        ...{ channel, address: contact, language, body, timeZone, laterBy, contactPointId },
        parts: channel === 'sms' ? partsOf(body, length) : 1,
        // At once is now, and not at the end of this minute.
        sendAt: (laterBy === null ? ctx.now : new Date(minute * 60_000)).toISOString(),
        subject: fillWords(words.subject, facts),
        sendOn: on,
      },
    });
  }
  return planned;
}

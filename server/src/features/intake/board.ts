import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf, OutputOf } from '@zaguan/contracts';
import type {
  board as boardContract,
  consentPdf as pdfContract,
  readiness as readinessContract,
} from '@zaguan/contracts/intake';
import { answerText, flatten, waiverKey } from '@zaguan/core/intake';
import { fullName, restrictedName } from '@zaguan/core/patients';
import { ClinicIndex } from '@zaguan/core/openings';
import { addDays, allBut, and, epochToWall, isEmpty, type LocalDate } from '@zaguan/core/time';
import {
  type AllowedSites,
  coversSite,
  type Ctx,
  includesSite,
  nowMinute,
  sitesFor,
} from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { siteRows } from '../clinic/index.ts';
import { hiddenVisits, isHidden } from '../restricted/index.ts';
import { signedPdf, visitsBetween } from './intake.repository.ts';
import { documentRows } from './intake.sql.ts';
import { checkInOpensOn, readyVisit } from './packet.ts';
import { loadReadiness, type VisitReady } from './readiness.ts';

/** A site closed for longer than this has its next day tomorrow: nobody works towards it yet. */
const LOOK_AHEAD_DAYS = 14;

/**
 * Visits of today and the next working day at each site, by its own clock: on a Friday those of Monday, and of whatever
 * day between has visits although the site is closed.
 *
 * @param date another day alone
 */
export async function upcomingVisits(ctx: Ctx, allowed: AllowedSites, date?: LocalDate) {
  const sites = (await siteRows(ctx.em)).filter((site) => includesSite(allowed, site.id));
  const utcDate = ctx.now.toISOString().slice(0, 10);
  // Once for all sites, whichever date it is there.
  const range = { from: addDays(utcDate, -1), until: addDays(utcDate, LOOK_AHEAD_DAYS + 1) };
  const index = new ClinicIndex(await ctx.clinic(range), nowMinute(ctx));
  const upcoming = [];
  for (const site of sites) {
    const today = epochToWall(site.timeZone, nowMinute(ctx)).date;
    const [from, until] = date ? [date, date] : [today, nextWorkingDay(index, site.id, today)];
    const found = await visitsBetween(ctx.em, site.id, from, until);
    const days = [...new Set([from, ...found.map(({ siteDate }) => siteDate), until])].sort();
    const visits = await loadReadiness(
      ctx.em,
      found.map(({ id }) => id),
    );
    upcoming.push({ site, today, days, visits });
  }
  return upcoming;
}

function nextWorkingDay(index: ClinicIndex, siteId: string, today: LocalDate): LocalDate {
  for (let days = 1; days <= LOOK_AHEAD_DAYS; days++) {
    const day = addDays(today, days);
    const { open, closed } = index.siteDay(siteId, day);
    if (!isEmpty(and(open, allBut(closed)))) return day;
  }
  return addDays(today, 1);
}

export async function board(
  ctx: Ctx,
  { date }: InputOf<typeof boardContract>,
): Promise<OutputOf<typeof boardContract>> {
  const upcoming = await upcomingVisits(ctx, sitesFor(ctx, 'intake.view'), date);
  const all = upcoming.flatMap(({ visits }) => visits.map(({ visit }) => visit));
  const hidden = await hiddenVisits(
    ctx,
    all.map(({ id }) => id),
  );
  ctx.viewed(all.flatMap(({ id, patientId }) => (patientId && !hidden.has(id) ? [patientId] : [])));
  return {
    now: ctx.now.toISOString(),
    documents: (await documentRows(ctx.em)).map(({ id, staffName }) => ({ id, name: staffName })),
    sites: upcoming.map(({ site, today, days, visits }) => ({
      id: site.id,
      name: site.name,
      timeZone: site.timeZone,
      today,
      days,
      visits: visits.map((ready) => toBoardVisit(ready, hidden.has(ready.visit.id))),
    })),
  };
}

function toBoardVisit(
  { visit, readiness }: VisitReady,
  hidden: boolean,
): OutputOf<typeof boardContract>['sites'][number]['visits'][number] {
  return {
    id: visit.id,
    date: visit.siteDate,
    start: new Date(visit.startsAt).toISOString(),
    name: (hidden ? restrictedName : fullName)(visit.givenName, visit.familyName),
    patientId: hidden ? null : visit.patientId,
    visitType: visit.visitType,
    provider: visit.provider,
    status: visit.status,
    readiness: { ...readiness, items: [...readiness.items] },
  };
}

/** Opens one visit's readiness for a caller who may see its site. */
export async function openVisit(
  ctx: Ctx,
  id: string,
  action: 'intake.view' | 'intake.check-in',
): Promise<VisitReady | Failure<'NotAllowed' | 'NotFound'>> {
  const ready = await readyVisit(ctx, id);
  if (!ready) return ctx.fail('NotFound');
  if (!coversSite(ctx, action, ready.visit.siteId)) return ctx.fail('NotAllowed');
  if (await isHidden(ctx, id)) return ctx.fail('NotAllowed', { facts: { restricted: true } });
  if (ready.visit.patientId) ctx.viewed([ready.visit.patientId]);
  return ready;
}

export async function showReadiness(
  ctx: Ctx,
  { id }: InputOf<typeof readinessContract>,
): Promise<AnswerOf<typeof readinessContract>> {
  const ready = await openVisit(ctx, id, 'intake.view');
  if (!('readiness' in ready)) return ready;
  const { visit, readiness, documents, flags, waivers } = ready;
  const documentOf = (documentId: string | null) => documents.find((each) => each.id === documentId);
  return {
    readiness: {
      id,
      version: visit.version,
      status: visit.status,
      ready: readiness.ready,
      held: readiness.held,
      opensOn: checkInOpensOn(ctx, visit),
      items: readiness.items.map((item) => {
        const waiver = waivers.find((each) => each.item === waiverKey(item.code, item.documentId));
        return {
          ...item,
          name: documentOf(item.documentId)?.staffName ?? null,
          waiver: waiver && item.state === 'waived' ? { by: waiver.by, reason: waiver.reason } : null,
        };
      }),
      flags: flags.map((flag) => {
        const item = flatten(documentOf(flag.formId)?.items ?? []).find((each) => each.item.linkId === flag.linkId);
        return {
          id: flag.id,
          question: item?.item.text ?? { en: flag.linkId, es: flag.linkId },
          answer: answerText(item?.item, flag.answer),
          told: flag.advice,
          severity: flag.severity,
          raisedAt: new Date(flag.raisedAt).toISOString(),
          cleared:
            flag.clearedAt && flag.clearedBy
              ? { at: new Date(flag.clearedAt).toISOString(), by: flag.clearedBy, note: flag.clearNote ?? '' }
              : null,
        };
      }),
      identifiers:
        visit.identity === 'sure'
          ? [
              { identifier: 'name' as const, value: fullName(visit.givenName, visit.familyName) },
              { identifier: 'birth-date' as const, value: visit.birthDate },
              ...(visit.contact && !visit.contact.includes('@')
                ? [{ identifier: 'phone' as const, value: visit.contact }]
                : []),
              ...(visit.recordNumber ? [{ identifier: 'record-number' as const, value: visit.recordNumber }] : []),
            ]
          : null,
    },
  };
}

/** The signed page, byte for byte, as base64; the mount sends it as a PDF. */
export async function showConsentPdf(
  ctx: Ctx,
  { id }: InputOf<typeof pdfContract>,
): Promise<string | Failure<'NotAllowed' | 'NotFound'>> {
  const row = await signedPdf(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'intake.view', row.siteId) || (await isHidden(ctx, row.appointmentId)))
    return ctx.fail('NotAllowed');
  if (row.patientId) ctx.viewed([row.patientId]);
  return Buffer.from(row.pdf).toString('base64');
}

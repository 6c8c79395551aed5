import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { type InputOf, type OutputOf, toWire } from '@zaguan/contracts';
import type { editSchedule, previewSchedule, ImpactVisit, WireImpact } from '@zaguan/contracts/availability';
import { type GainAndLoss, type Impact, invitationsEmptied, type VisitToMove } from '@zaguan/core/impact';
import {
  applyChanges,
  collisions,
  type Fault,
  inverseOf,
  ROW_KINDS,
  type RowChanges,
  type ScheduleEdit,
  type ScheduleRows,
} from '@zaguan/core/schedule';
import { restrictedName } from '@zaguan/core/patients';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { planForVisitToMove, planForRestoring } from '../messages/index.ts';
import { hiddenVisits } from '../restricted/index.ts';
import { openInvitations, visitSummaries } from './availability.sql.ts';
import {
  clinicForImpact,
  type EvaluatedEdits,
  evaluateEdits,
  PLACES_ON_DATES,
  currentSchedule,
  computeImpact,
} from './computeImpact.ts';
import { mayPutBack } from './rights.ts';
import { versionsOf, writeChanges } from './schedule.repository.ts';
import { lockSchedule } from './schedule.sql.ts';
import { addVisitsToMove, removeFittingAgain } from './visitsToMove.repository.ts';

type Edits = InputOf<typeof previewSchedule>['edits'];

/** Whether the caller has seen the newest version of the hours that the edits change. */
async function seenNewest(
  ctx: Ctx,
  edits: Edits,
): Promise<Failure<'NotAllowed' | 'NotFound' | 'ChangedMeanwhile'> | null> {
  const named = edits.flatMap((edit) => (edit.do === 'change-hours' || edit.do === 'end-hours' ? [edit] : []));
  const versions = await versionsOf(
    ctx.em,
    named.map(({ hoursId }) => hoursId),
  );
  for (const { hoursId, version } of named)
    if (versions.get(hoursId) !== version)
      return ctx.fail('ChangedMeanwhile', { facts: { version: versions.get(hoursId) ?? 0 } });
  return null;
}

export function withoutVersion(edit: Edits[number]): ScheduleEdit {
  if (edit.do !== 'change-hours' && edit.do !== 'end-hours') return edit;
  const { version: _, ...rest } = edit;
  return rest;
}

/** Visits in trouble, as they go out. Whose they are counts as a look at the record. */
export async function toImpactVisits(ctx: Ctx, visitsToMove: readonly VisitToMove[]): Promise<ImpactVisit[]> {
  const about = await visitSummaries(
    ctx.em,
    visitsToMove.map(({ visit }) => visit.id),
  );
  const hidden = await hiddenVisits(ctx, [...about.keys()]);
  ctx.viewed([...about].flatMap(([id, { patientId }]) => (patientId && !hidden.has(id) ? [patientId] : [])));
  return visitsToMove.flatMap(({ visit, reasons, otherSeat }) => {
    const known = about.get(visit.id);
    // A hold is not a visit yet; it lapses by itself.
    if (!known) return [];
    return [
      {
        appointmentId: visit.id,
        start: toWire(visit.start),
        siteId: visit.siteId,
        providerId: visit.providerId,
        visitTypeId: visit.visitTypeId,
        patientName: hidden.has(visit.id) ? restrictedName(known.givenName, known.familyName) : known.name,
        codes: reasons.map(({ code }) => code),
        otherSeat,
      },
    ];
  });
}

export async function preview(
  ctx: Ctx,
  { edits, replaced }: InputOf<typeof previewSchedule>,
): Promise<AnswerOf<typeof previewSchedule>> {
  const stale = await seenNewest(ctx, edits);
  if (stale) return stale;
  const judged = await evaluateEdits(ctx, edits.map(withoutVersion), { placesOnDates: PLACES_ON_DATES, replaced });
  return judged instanceof Failure ? judged : toPreview(ctx, judged);
}

export async function toPreview(ctx: Ctx, judged: EvaluatedEdits): Promise<OutputOf<typeof previewSchedule>> {
  const { resolved, replaceable, impact, ...reach } = judged;
  return {
    replaceable: [...replaceable],
    faults: resolved.faults.map(copy),
    warnings: resolved.warnings.map(copy),
    impact: impact && (await toImpact(ctx, { impact, ...reach })),
  };
}

/** What a change does, as it goes out. */
export async function toImpact(
  ctx: Ctx,
  { impact, from, until, days, stores }: Omit<EvaluatedEdits, 'rows' | 'resolved' | 'replaceable'> & { impact: Impact },
): Promise<WireImpact> {
  return {
    from,
    until,
    days,
    types: impact.types.map((row) => ({ ...row })),
    visitsToMove: await toImpactVisits(ctx, impact.visitsToMove),
    fittingAgain: impact.fittingAgain.length,
    invitationsEmptied: stores
      ? invitationsEmptied({ ...stores, now: nowMinute(ctx) }, await openInvitations(ctx.em, ctx.now))
      : 0,
  };
}

function copy<T extends { facts: Readonly<Record<string, string | number>> }>(told: T): T {
  return { ...told, facts: { ...told.facts } };
}

export function refused(ctx: Ctx, faults: readonly Fault[]): Failure<'ScheduleRefused'> {
  return ctx.fail('ScheduleRefused', {
    codes: [...new Set(faults.map(({ code }) => code))],
    issues: faults.map(({ code, edit }) => ({ path: `edits.${edit}`, code })),
    facts: { ...faults[0].facts },
  });
}

export async function save(
  ctx: Ctx,
  { edits, replaced, agreed = false, tell = false }: InputOf<typeof editSchedule>,
): Promise<AnswerOf<typeof editSchedule>> {
  await lockSchedule(ctx.em);
  const stale = await seenNewest(ctx, edits);
  if (stale) return stale;
  return saveEdits(ctx, edits.map(withoutVersion), { agreed, tell, replaced, what: edits[0].do });
}

interface SaveWith {
  readonly agreed: boolean;
  /** Tell the patients of visits that no longer fit. */
  readonly tell?: boolean;
  /** What may give way to the edits. */
  readonly replaced?: readonly string[];
  readonly what: string;
  newId?(edit: number): string;
}

/** Writes edits, all or none; the schedule must be locked. */
export async function saveEdits(
  ctx: Ctx,
  scheduleEdits: readonly ScheduleEdit[],
  { agreed, tell = false, replaced, what, newId }: SaveWith,
): Promise<AnswerOf<typeof editSchedule>> {
  const judged = await evaluateEdits(ctx, scheduleEdits, { placesOnDates: 0, replaced, newId });
  if (judged instanceof Failure) return judged;
  const { resolved, impact, rows } = judged;
  if (resolved.faults.length) return refused(ctx, resolved.faults);
  const toMove = impact?.visitsToMove ?? [];
  if (toMove.length && !agreed)
    return ctx.fail('AgreementNeeded', { codes: ['visits-to-move'], facts: { visits: toMove.length } });
  await write(ctx, rows, resolved.changes, impact, false);
  const toldPatientOf = tell ? await tellPatients(ctx, toMove) : [];
  const undo = await keepInverse(ctx, rows, resolved.changes, what, toldPatientOf);
  return {
    toMove: toMove.length,
    told: toldPatientOf.length,
    online: sumOf((impact?.types ?? []).map(({ online }) => online)),
    onlineByType: byType(impact),
    warnings: resolved.warnings.map(copy),
    undo,
  };
}

const sumOf = (rows: readonly GainAndLoss[]): GainAndLoss => ({
  gained: rows.reduce((sum, { gained }) => sum + gained, 0),
  lost: rows.reduce((sum, { lost }) => sum + lost, 0),
});

/** Start times patients gain and lose, by visit type and kind of patient, over all sites; most changed first. */
function byType(impact: Impact | null): OutputOf<typeof editSchedule>['onlineByType'] {
  const rows = impact?.types ?? [];
  return [...new Set(rows.map(({ visitTypeId }) => visitTypeId))]
    .map((visitTypeId) => {
      const kinds = rows.filter((row) => row.visitTypeId === visitTypeId).map(({ onlineByKind }) => onlineByKind);
      const [forNew, established] = [sumOf(kinds.map((row) => row.new)), sumOf(kinds.map((row) => row.established))];
      const total = forNew.gained + forNew.lost + established.gained + established.lost;
      return { visitTypeId, new: forNew, established, total };
    })
    .filter(({ total }) => total > 0)
    .sort((a, b) => b.total - a.total)
    .map(({ total: _, ...row }) => row);
}

async function write(
  ctx: Ctx,
  rows: ScheduleRows,
  changes: RowChanges,
  impact: Impact | null,
  restores: boolean,
): Promise<void> {
  const accountId = ctx.actor.kind === 'staff' ? ctx.actor.accountId : null;
  await writeChanges(ctx.em, changes, { at: ctx.now, accountId, restores });
  await addVisitsToMove(
    ctx.em,
    (impact?.visitsToMove ?? []).map(({ visit }) => visit.id),
    { at: ctx.now, accountId },
  );
  await removeFittingAgain(ctx.em, impact?.fittingAgain ?? []);
  ctx.emit({ type: 'hours-changed' });
  if (impact?.visitsToMove.length || impact?.fittingAgain.length) ctx.emit({ type: 'work-changed' });
  ctx.wrote({
    subjects: touched(changes),
    before: { ...inverseOf(rows, changes) },
    after: { ...changes },
  });
}

/** For the audit: whose schedule it was. */
function touched(changes: RowChanges): { kind: string; id: string }[] {
  const found = new Map<string, { kind: string; id: string }>();
  for (const kind of ROW_KINDS)
    for (const row of changes[kind]?.put ?? []) {
      const subject =
        'subject' in row
          ? { kind: row.subject.of, id: row.subject.id }
          : 'resourceId' in row
            ? { kind: 'resource', id: row.resourceId }
            : { kind: 'site', id: row.siteId };
      found.set(subject.id, subject);
    }
  return [...found.values()];
}

/** Messages to the patients of visits that no longer fit; whom one goes to. Holds lapse by themselves. */
async function tellPatients(ctx: Ctx, visitsToMove: readonly VisitToMove[]): Promise<string[]> {
  const known = await visitSummaries(
    ctx.em,
    visitsToMove.map(({ visit }) => visit.id),
  );
  const told: string[] = [];
  for (const id of known.keys()) if (await planForVisitToMove(ctx, id)) told.push(id);
  return told;
}

function keepInverse(
  ctx: Ctx,
  rows: ScheduleRows,
  changes: RowChanges,
  what: string,
  toldPatientOf: readonly string[],
): Promise<{ id: string }> {
  return ctx.undoable({
    command: 'availability.putBack',
    input: { changes: inverseOf(rows, changes), written: changes, toldPatientOf: [...toldPatientOf] },
    label: { what: `schedule:${what}` },
  });
}

/**
 * The inverse of any edits: the rows as they were, if nobody has touched since what those edits wrote. Judged like any
 * other change, so that visits booked in the meantime that no longer fit are not overlooked: they go to the list.
 */
export async function putBack(
  ctx: Ctx,
  { changes, written, toldPatientOf = [] }: { changes: RowChanges; written: RowChanges; toldPatientOf?: string[] },
): Promise<UndoAnswer> {
  if (!(await mayPutBack(ctx, [changes, written]))) return ctx.fail('NotAllowed');
  await lockSchedule(ctx.em);
  const rows = await currentSchedule(ctx);
  if (!standsAsWritten(rows, written)) return ctx.fail('ChangedMeanwhile');
  const clinic = await clinicForImpact(ctx);
  // What was put since elsewhere may stand where these hours come back.
  const after = clinic.store.withSchedule(applyChanges(rows, changes));
  const faults = collisions(after, changes, 0, earliestDate(ctx));
  if (faults.length) return refused(ctx, faults);
  const { impact } = computeImpact(clinic, ctx, rows, changes, 0);
  await write(ctx, rows, changes, impact, true);
  // Whoever was told that their visit can't take place hears that it does, if it fits again.
  for (const id of toldPatientOf) if (impact.fittingAgain.includes(id)) await planForRestoring(ctx, id);
  return {};
}

function standsAsWritten(rows: ScheduleRows, written: RowChanges): boolean {
  return ROW_KINDS.every((kind) => {
    const standing = new Map<string, unknown>(rows[kind].map((row) => [row.id, row]));
    const same = (written[kind]?.put ?? []).every((row) => sameRow(standing.get(row.id), row));
    return same && (written[kind]?.drop ?? []).every((id) => !standing.has(id));
  });
}

/** Compared by what they say: a stroke's place is given by the database, and nothing said is as good as none. */
function sameRow(standing: unknown, written: unknown): boolean {
  return standing !== undefined && canonical(standing) === canonical(written);
}

function canonical(value: unknown): string {
  return JSON.stringify(value, (key, inner: unknown) => {
    if (key === 'order' || inner === null || inner === '') return undefined;
    if (Array.isArray(inner)) return inner.length ? inner : undefined;
    if (typeof inner !== 'object') return inner;
    return Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)));
  });
}

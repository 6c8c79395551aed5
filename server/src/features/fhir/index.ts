import type { InputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/fhir';
import { toAppointment, toEncounter } from '../../exchange/fhir/visitToFhir.ts';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { hiddenVisits } from '../restricted/index.ts';
import { clinicFhirEndpoints } from './clinicResources.ts';
import { type EncounterSearch, fhirEncounters, fhirVisits, type PageStart, type VisitSearch } from './fhir.sql.ts';
import { metadataEndpoint } from './metadata.ts';
import { patientFhirEndpoints } from './patients.ts';
import { requestFhirEndpoints } from './requests.ts';
import { scheduleEndpoints } from './schedules.ts';
import { asWire, baseOf, dateBounds, instantBounds, type Search, searchset } from './searching.ts';

interface OfPatient {
  readonly id: string;
  readonly appointmentId?: string;
  readonly patient: { readonly id: string | null; readonly name: string };
}

/** Visits as the caller may see them: of whom they may not see, without the name. Each look is logged. */
async function seen<T extends OfPatient>(ctx: Ctx, rows: readonly T[]): Promise<T[]> {
  const idOf = (row: T) => row.appointmentId ?? row.id;
  const hidden = await hiddenVisits(ctx, rows.map(idOf));
  ctx.viewed(rows.flatMap((row) => (row.patient.id && !hidden.has(idOf(row)) ? [row.patient.id] : [])));
  return rows.map((row) =>
    hidden.has(idOf(row)) ? { ...row, patient: { ...row.patient, name: 'Restricted' }, reason: '' } : row,
  );
}

const ANY = { from: null, until: null };
const EVERY_VISIT: VisitSearch = {
  ...{ ids: null, statuses: null, patientIds: null, providerIds: null, siteIds: null, typeIds: null },
  ...{ dates: ANY, starts: ANY, changed: ANY },
};
const EVERY_ENCOUNTER: EncounterSearch = {
  ...{ ids: null, appointmentIds: null, patientIds: null, statuses: null, time: ANY, changed: ANY },
};

/** A page begins after the one before it: visits that come in meanwhile shift nothing. */
function afterOf({ _page }: Search): PageStart | null {
  const [start, id] = _page?.split('~') ?? [];
  return start && id ? { start: Number(start), id } : null;
}

/** One more than the page holds tells that there is another. */
function paged<T extends { readonly id: string; readonly start: Date }>(rows: readonly T[], { _count }: Search) {
  const page = rows.slice(0, _count);
  const last = page.at(-1);
  const nextPage = rows.length > _count && last ? `${last.start.getTime()}~${last.id}` : null;
  return { page, nextPage };
}

/** Those of one type among the actors; each type of actor stands in a column of its own. */
const ofType = (actors: readonly string[], type: string) =>
  actors.flatMap((actor) => (actor.startsWith(`${type}/`) ? [actor.slice(type.length + 1)] : []));

/** What a list of ids and another search by the same leave together. */
function both(one: readonly string[] | undefined, other: readonly string[]): readonly string[] | null {
  if (!one) return other.length ? other : null;
  return other.length ? one.filter((id) => other.includes(id)) : one;
}

/** @returns `null` where actors of several types are wanted: a choice among columns */
function visitSearch(search: InputOf<typeof contract.searchAppointments>): VisitSearch | null {
  const { _id, date, status, patient, practitioner, location, actor = [], _lastUpdated } = search;
  if (new Set(actor.map((each) => each.split('/')[0])).size > 1) return null;
  const { days, instants } = dateBounds(date);
  return {
    ids: _id ?? null,
    statuses: status ?? null,
    patientIds: both(patient, ofType(actor, 'Patient')),
    providerIds: both(practitioner, ofType(actor, 'Practitioner')),
    siteIds: both(location, ofType(actor, 'Location')),
    typeIds: both(undefined, ofType(actor, 'HealthcareService')),
    dates: days,
    starts: instants,
    changed: instantBounds(_lastUpdated),
  };
}

const ONE = { after: null, count: 1 };

export const fhirEndpoints = [
  metadataEndpoint,
  handle(contract.readAppointment, async (ctx, { id }) => {
    const { visits } = await fhirVisits(ctx.em, { ...EVERY_VISIT, ids: [id] }, ONE);
    const [shown] = await seen(ctx, visits);
    return shown ? asWire(toAppointment(shown, baseOf(ctx))) : ctx.fail('NotFound');
  }),
  handle(contract.searchAppointments, async (ctx, search) => {
    const wanted = visitSearch(search);
    if (!wanted) return ctx.fail('InvalidInput', { issues: [{ path: 'actor', code: 'one-type-at-a-time' }] });
    const { visits, total } = await fhirVisits(ctx.em, wanted, { after: afterOf(search), count: search._count });
    const { page, nextPage } = paged(visits, search);
    const resources = (await seen(ctx, page)).map((visit) => toAppointment(visit, baseOf(ctx)));
    return searchset(ctx, 'Appointment', search, { resources, total, nextPage });
  }),
  handle(contract.readEncounter, async (ctx, { id }) => {
    const { encounters } = await fhirEncounters(ctx.em, { ...EVERY_ENCOUNTER, ids: [id] }, ONE);
    const [shown] = await seen(ctx, encounters);
    return shown ? asWire(toEncounter(shown)) : ctx.fail('NotFound');
  }),
  handle(contract.searchEncounters, async (ctx, search) => {
    const wanted = {
      ids: search._id ?? null,
      appointmentIds: search.appointment ?? null,
      patientIds: search.patient ?? null,
      statuses: search.status ?? null,
      time: instantBounds(search.date),
      changed: instantBounds(search._lastUpdated),
    };
    const { encounters, total } = await fhirEncounters(ctx.em, wanted, {
      after: afterOf(search),
      count: search._count,
    });
    const { page, nextPage } = paged(encounters, search);
    const resources = (await seen(ctx, page)).map(toEncounter);
    return searchset(ctx, 'Encounter', search, { resources, total, nextPage });
  }),
  ...patientFhirEndpoints,
  ...requestFhirEndpoints,
  ...clinicFhirEndpoints,
  ...scheduleEndpoints,
];

import * as contract from '@zaguan/contracts/fhir';
import { fullName } from '@zaguan/core/patients';
import { type FhirRequest, STATUS_OF, toServiceRequest } from '../../exchange/fhir/requestToFhir.ts';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { requestRows } from './fhir.repository.ts';
import { asWire, baseOf, instantBounds, isWithin, pageOf, searchset } from './searching.ts';

type RequestRow = Awaited<ReturnType<typeof requestRows>>[number];

/** Of a restricted patient, nobody is told what was asked for. */
const open = (ctx: Ctx, rows: readonly RequestRow[]) =>
  rows.filter(({ patient }) => !patient.restricted || mayOpenRestricted(ctx));

function toFhir(row: RequestRow): FhirRequest {
  const { patient, visitType, provider, site, askedByAccount } = row;
  return {
    ...row,
    // Each change has a time of its own only where it ended the request.
    changedAt: row.version === 1 ? row.askedAt : row.endedAt,
    service: { id: visitType.id, code: visitType.code, name: visitType.name },
    patient: { id: row.patientId, name: fullName(patient.givenName, patient.familyName) },
    provider: provider && { id: provider.id, name: provider.name },
    site: site && { id: site.id, name: site.name },
    askedBy: { resourceId: askedByAccount.resourceId ?? null, name: askedByAccount.name },
  };
}

export const requestFhirEndpoints = [
  handle(contract.readServiceRequest, async (ctx, { id }) => {
    const [row] = open(ctx, await requestRows(ctx.em, { ids: [id], patientIds: null }));
    if (!row) return ctx.fail('NotFound');
    ctx.viewed([row.patientId]);
    return asWire(toServiceRequest(toFhir(row), baseOf(ctx)));
  }),
  handle(contract.searchServiceRequests, async (ctx, search) => {
    const { _id, patient, subject, status, authored } = search;
    const asked = [patient, subject].filter((each) => each !== undefined);
    const patientIds = asked.length ? asked.reduce((a, b) => a.filter((id) => b.includes(id))) : null;
    const times = instantBounds(authored);
    const rows = open(ctx, await requestRows(ctx.em, { ids: _id ?? null, patientIds })).filter(
      (row) =>
        (status === undefined || status.includes(STATUS_OF[row.state])) && isWithin(row.askedAt.getTime(), times),
    );
    const { page, ...rest } = pageOf(rows, search);
    ctx.viewed(page.map(({ patientId }) => patientId));
    const resources = page.map((row) => toServiceRequest(toFhir(row), baseOf(ctx)));
    return searchset(ctx, 'ServiceRequest', search, { resources, ...rest });
  }),
];

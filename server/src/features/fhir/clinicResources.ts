import type { InputOf, OutputOf } from '@zaguan/contracts';
import { CLINIC_RESOURCES, type ClinicResource, clinicResources } from '@zaguan/contracts/fhir';
import type { PersonDoc, SiteDoc, VisitTypeDoc } from '@zaguan/contracts/setup';
import { epochToWall } from '@zaguan/core/time';
import type { HealthcareService, Location, Practitioner, PractitionerRole } from 'fhir/r4.js';
import {
  type StoredRecord,
  toHealthcareService,
  toLocation,
  toPractitioner,
  toPractitionerRole,
} from '../../exchange/fhir/clinicToFhir.ts';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { readRecords } from '../setup/index.ts';
import { asWire, baseOf, hasToken, instantBounds, isWithin, pageOf, searchset } from './searching.ts';

type Resource = Location | Practitioner | PractitionerRole | HealthcareService;

/** Set-up records with the instant of their last change. */
export async function stored<D>(ctx: Ctx, kind: 'site' | 'visit-type' | 'person'): Promise<StoredRecord<D>[]> {
  const records = await readRecords<D>(ctx.em, kind, null);
  return records.map((record) => ({ ...record, changedAt: record.changedAt ? new Date(record.changedAt) : null }));
}

/** All resources of a type, archived ones too, as they stand. */
async function all(ctx: Ctx, type: ClinicResource): Promise<Resource[]> {
  const base = baseOf(ctx);
  const sites = await stored<SiteDoc>(ctx, 'site');
  if (type === 'Location') {
    const { date } = epochToWall('UTC', nowMinute(ctx));
    return sites.map((site) => toLocation(site, date, base));
  }
  const types = await stored<VisitTypeDoc>(ctx, 'visit-type');
  if (type === 'HealthcareService') return types.map((row) => toHealthcareService(row, sites, base));
  const people = await stored<PersonDoc>(ctx, 'person');
  if (type === 'Practitioner') return people.map((person) => toPractitioner(person, base));
  const name = (id: string) => sites.find((site) => site.id === id)?.doc.name ?? '';
  return people.map((person) => toPractitionerRole(person, name, types));
}

function nameOf(resource: Resource): string {
  switch (resource.resourceType) {
    case 'Practitioner':
      return resource.name?.[0]?.text ?? '';
    case 'PractitionerRole':
      return resource.practitioner?.display ?? '';
    default:
      return resource.name ?? '';
  }
}

const isActive = (resource: Resource) =>
  resource.resourceType === 'Location' ? resource.status === 'active' : resource.active === true;

function placesOf(resource: Resource): string[] {
  if (resource.resourceType === 'Location') return [`Location/${resource.id}`];
  if (resource.resourceType === 'Practitioner') return [];
  return (resource.location ?? []).flatMap(({ reference }) => reference ?? []);
}

function personOf(resource: Resource): string | undefined {
  if (resource.resourceType === 'Practitioner') return `Practitioner/${resource.id}`;
  return resource.resourceType === 'PractitionerRole' ? resource.practitioner?.reference : undefined;
}

type Search = InputOf<(typeof clinicResources)['Location']['search']>;

/** A string search finds what begins with it, as FHIR says; a name's later words count too. */
function matches(resource: Resource, search: Search): boolean {
  const { _id, name, active, identifier, practitioner, location, _lastUpdated } = search;
  const wanted = name?.toLowerCase();
  const changed = resource.meta?.lastUpdated;
  return (
    (_id === undefined || _id.includes(resource.id ?? '')) &&
    (active === undefined || isActive(resource) === (active === 'true')) &&
    (wanted === undefined || ` ${nameOf(resource).toLowerCase()}`.includes(` ${wanted}`)) &&
    (identifier === undefined || hasToken('identifier' in resource ? resource.identifier : [], identifier)) &&
    (practitioner === undefined || practitioner.some((id) => personOf(resource) === `Practitioner/${id}`)) &&
    (location === undefined || location.some((id) => placesOf(resource).includes(`Location/${id}`))) &&
    (_lastUpdated === undefined || (!!changed && isWithin(Date.parse(changed), instantBounds(_lastUpdated))))
  );
}

type ReadOut = OutputOf<(typeof clinicResources)['Location']['read']>;
type SearchOut = OutputOf<(typeof clinicResources)['Location']['search']>;

export const clinicFhirEndpoints = CLINIC_RESOURCES.flatMap((type) => {
  // The four differ in the resource's type alone, which the contract's own output checks.
  const { read, search } = clinicResources[type] as (typeof clinicResources)['Location'];
  return [
    handle(read, async (ctx, { id }) => {
      const found = (await all(ctx, type)).find((resource) => resource.id === id);
      return found ? (asWire(found) as unknown as ReadOut) : ctx.fail('NotFound');
    }),
    handle(search, async (ctx, input) => {
      const { page, ...rest } = pageOf(
        (await all(ctx, type)).filter((resource) => matches(resource, input)),
        input,
      );
      return searchset(ctx, type, input, { resources: page, ...rest }) as unknown as SearchOut;
    }),
  ];
});

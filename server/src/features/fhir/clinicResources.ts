import type { InputOf, OutputOf } from '@zaguan/contracts';
import { CLINIC_RESOURCES, type ClinicResource, clinicResources } from '@zaguan/contracts/fhir';
import type { PersonDoc, SiteDoc, VisitTypeDoc } from '@zaguan/contracts/setup';
import { epochToWall } from '@zaguan/core/time';
import type { HealthcareService, Location, Practitioner, PractitionerRole } from 'fhir/r4.js';
import {
  toHealthcareService,
  toLocation,
  toPractitioner,
  toPractitionerRole,
} from '../../exchange/fhir/clinicToFhir.ts';
import { toSearchset } from '../../exchange/fhir/visitToFhir.ts';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { readRecords } from '../setup/index.ts';

type Resource = Location | Practitioner | PractitionerRole | HealthcareService;

/** All resources of a type, archived ones too, as they stand. */
async function all(ctx: Ctx, type: ClinicResource): Promise<Resource[]> {
  const sites = await readRecords<SiteDoc>(ctx.em, 'site', null);
  if (type === 'Location') {
    const { date } = epochToWall('UTC', nowMinute(ctx));
    return sites.map((site) => toLocation(site, date));
  }
  const types = await readRecords<VisitTypeDoc>(ctx.em, 'visit-type', null);
  if (type === 'HealthcareService') return types.map((row) => toHealthcareService(row, sites));
  const people = await readRecords<PersonDoc>(ctx.em, 'person', null);
  if (type === 'Practitioner') return people.map(toPractitioner);
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

type Search = InputOf<(typeof clinicResources)['Location']['search']>;

/** A string search finds what begins with it, as FHIR says; a name's later words count too. */
function matches(resource: Resource, { _id, name, active }: Search): boolean {
  const wanted = name?.toLowerCase();
  return (
    (_id === undefined || resource.id === _id) &&
    (active === undefined || isActive(resource) === (active === 'true')) &&
    (wanted === undefined || ` ${nameOf(resource).toLowerCase()}`.includes(` ${wanted}`))
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
      return found ? ({ ...found } as unknown as ReadOut) : ctx.fail('NotFound');
    }),
    handle(search, async (ctx, input) => {
      const found = (await all(ctx, type)).filter((resource) => matches(resource, input));
      return { ...toSearchset(found.slice(0, input._count), found.length) } as unknown as SearchOut;
    }),
  ];
});

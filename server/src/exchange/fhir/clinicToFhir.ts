import type { PersonDoc, SiteDoc, VisitTypeDoc } from '@zaguan/contracts/setup';
import { readPhone } from '@zaguan/core/patients';
import type {
  ContactPoint,
  HealthcareService,
  Identifier,
  Location,
  LocationHoursOfOperation,
  Practitioner,
  PractitionerRole,
} from 'fhir/r4.js';

import { serviceType, systemsOf } from './systems.ts';
import { metaOf, type Versioned } from './versions.ts';
import { humanName } from './humanName.ts';

/** A set-up record as far as FHIR needs it. */
export interface StoredRecord<D> extends Versioned {
  readonly id: string;
  readonly active: boolean;
  readonly doc: D;
}

/** https://terminology.hl7.org NPI identifiers use this system (HL7, from memory). */
const NPI_SYSTEM = 'http://hl7.org/fhir/sid/us-npi';

function phones(numbers: readonly string[], email: string | null): { telecom: ContactPoint[] } {
  const calls = numbers.flatMap((text): ContactPoint[] => {
    const read = readPhone(text);
    return read.ok ? [{ system: 'phone', value: read.e164, use: 'work' }] : [];
  });
  return { telecom: [...calls, ...(email ? [{ system: 'email' as const, value: email, use: 'work' as const }] : [])] };
}

/** FHIR DaysOfWeek, Monday first. */
const DAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;

/** Weekly hours in force on a date; a stretch that ends at midnight ends at 23:59:59, for FHIR's time knows no 24:00. */
function hoursOf(site: SiteDoc, date: string): LocationHoursOfOperation[] {
  const clock = (minute: number) =>
    minute === 1440
      ? '23:59:59'
      : `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}:00`;
  return site.hours
    .filter(
      (row) =>
        row.everyWeeks === 1 &&
        row.effectiveFrom <= date &&
        (row.effectiveUntil === null || row.effectiveUntil >= date),
    )
    .map((row) => ({
      daysOfWeek: row.weekdays.map((day) => DAYS[day - 1]),
      openingTime: clock(row.fromMinute),
      closingTime: clock(row.toMinute),
    }));
}

/** A site as a Location (HL7 FHIR R4 4.0.1); the zone stands in the standard's own timezone extension. */
export function toLocation({ id, doc, ...rest }: StoredRecord<SiteDoc>, today: string, base: string): Location {
  const hours = hoursOf(doc, today);
  return {
    resourceType: 'Location',
    id,
    ...metaOf(rest),
    extension: [{ url: 'http://hl7.org/fhir/StructureDefinition/timezone', valueCode: doc.timeZone }],
    identifier: [{ system: systemsOf(base).site, value: doc.code }],
    status: rest.active ? 'active' : 'inactive',
    name: doc.publicName,
    alias: doc.name === doc.publicName ? undefined : [doc.name],
    ...(doc.directionsEn && { description: doc.directionsEn }),
    mode: 'instance',
    ...phones([doc.phone, ...doc.morePhones.map(({ phone }) => phone)], doc.email),
    address: {
      line: [doc.addressLine],
      city: doc.city,
      state: doc.region,
      postalCode: doc.postalCode,
      country: 'US',
    },
    ...(doc.latitude !== null &&
      doc.longitude !== null && { position: { latitude: doc.latitude, longitude: doc.longitude } }),
    ...(hours.length && { hoursOfOperation: hours }),
  };
}

/** A provider or nurse as a Practitioner. */
export function toPractitioner({ id, doc, ...rest }: StoredRecord<PersonDoc>, base: string): Practitioner {
  const identifier: Identifier[] = [
    ...(doc.npi ? [{ system: NPI_SYSTEM, value: doc.npi }] : []),
    ...doc.licenses.map(({ region, number }) => ({
      type: {
        coding: [{ system: 'http://terminology.hl7.org/CodeSystem/v2-0203', code: 'MD' }],
        text: `License, ${region}`,
      },
      system: systemsOf(base).license(region),
      value: number,
    })),
  ];
  return {
    resourceType: 'Practitioner',
    id,
    ...metaOf(rest),
    ...(identifier.length && { identifier }),
    active: rest.active,
    name: [humanName(doc.name, doc.credentials)],
    communication: doc.languages.map((code) => ({ coding: [{ system: 'urn:ietf:bcp:47', code }] })),
    ...(doc.credentials && { qualification: [{ code: { text: doc.credentials } }] }),
  };
}

/** Whether a provider performs a visit type that is in use. */
export function isPerformedBy(type: StoredRecord<VisitTypeDoc>, providerId: string): boolean {
  return (
    type.active &&
    type.doc.parts.some(({ needs }) => needs.some(({ what }) => what === 'provider')) &&
    (type.doc.providerIds === null || type.doc.providerIds.includes(providerId))
  );
}

/** Where a person works and what they do there, as one PractitionerRole; its id is the person's. */
export function toPractitionerRole(
  { id, doc, ...rest }: StoredRecord<PersonDoc>,
  siteName: (id: string) => string,
  services: readonly StoredRecord<VisitTypeDoc>[],
): PractitionerRole {
  const performs = services.filter((type) => doc.kind === 'provider' && isPerformedBy(type, id));
  return {
    resourceType: 'PractitionerRole',
    id,
    ...metaOf(rest),
    active: rest.active,
    practitioner: { reference: `Practitioner/${id}`, display: doc.name },
    ...(doc.specialty && { specialty: [{ text: doc.specialty }] }),
    ...(doc.siteIds.length && {
      location: doc.siteIds.map((siteId) => ({ reference: `Location/${siteId}`, display: siteName(siteId) })),
    }),
    ...(performs.length && {
      healthcareService: performs.map((type) => ({
        reference: `HealthcareService/${type.id}`,
        display: type.doc.name,
      })),
    }),
  };
}

/** A visit type as a HealthcareService. */
export function toHealthcareService(
  { id, doc, ...rest }: StoredRecord<VisitTypeDoc>,
  sites: readonly StoredRecord<SiteDoc>[],
  base: string,
): HealthcareService {
  const where = sites.filter((site) => site.active && (doc.siteIds === null || doc.siteIds.includes(site.id)));
  const extra = [doc.preparationEn, doc.priceNoteEn].filter(Boolean).join('\n');
  return {
    resourceType: 'HealthcareService',
    id,
    ...metaOf(rest),
    identifier: [{ system: systemsOf(base).visitType, value: doc.code }],
    active: rest.active,
    name: doc.publicNameEn,
    ...(doc.descriptionEn && { comment: doc.descriptionEn }),
    ...(extra && { extraDetails: extra }),
    type: [serviceType({ id, code: doc.code, name: doc.name }, base)],
    ...(where.length && {
      location: where.map((site) => ({ reference: `Location/${site.id}`, display: site.doc.name })),
    }),
    appointmentRequired: true,
    communication: [
      { coding: [{ system: 'urn:ietf:bcp:47', code: 'en' }] },
      { coding: [{ system: 'urn:ietf:bcp:47', code: 'es' }] },
    ],
  };
}

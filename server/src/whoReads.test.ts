import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as setup from '@zaguan/contracts/setup';
import { expect, it } from 'vitest';

/**
 * Every setting there is, and who reads it: a choice that nothing reads promises what does not happen. A setting is
 * looked for under its own name or its column's.
 */
const READERS: Record<string, Record<string, string>> = {
  clinicDoc: {
    name: 'server/src/features/messages/handOver.sql.ts',
    phone: 'server/src/features/clinic/publicClinic.ts',
    baseUnitMin: 'web/src/staff/features/daybook/components/useLane.ts',
    density: 'web/src/staff/features/daybook/components/LaneView.tsx',
    asksPayerOnline: 'server/src/features/coverage/coverage.repository.ts',
    urgentAtNight: 'core/src/reminders/handOver.ts',
    textCountries: 'server/src/features/verification/verification.repository.ts',
    codesPerDay: 'server/src/features/verification/verification.repository.ts',
    lateAfterMin: 'web/src/staff/features/daybook/plateFace.ts',
    lateRule: 'web/src/staff/features/daybook/components/LateNotice.tsx',
  },
  policyDoc: {
    siteId: 'core/src/openings/policy.ts',
    providerId: 'core/src/openings/policy.ts',
    offered: 'core/src/openings/policy.ts',
    kinds: 'core/src/openings/policy.ts',
    leadMin: 'core/src/openings/rules/tooSoon.ts',
    leadWorkingDays: 'core/src/impact/notice.ts',
    leadByMinute: 'core/src/impact/notice.ts',
    windowDays: 'core/src/openings/rules/tooFar.ts',
    gridMin: 'core/src/openings/rules/offGrid.ts',
    approval: 'server/src/features/booking/bookHeld.ts',
    showLength: 'server/src/features/clinic/publicClinic.ts',
  },
  needDoc: {
    key: 'core/src/openings/frame.ts',
    what: 'core/src/openings/frame.ts',
    poolKind: 'core/src/openings/frame.ts',
    resourceId: 'core/src/openings/frame.ts',
    capability: 'core/src/openings/rules/nobodyPresent.ts',
    sameAs: 'core/src/openings/groups.ts',
    differentFrom: 'core/src/openings/groups.ts',
    turnaroundMin: 'core/src/openings/frame.ts',
  },
  partDoc: {
    name: 'server/src/exchange/fhir/clinicToFhir.ts',
    lengthMin: 'core/src/openings/frame.ts',
    needs: 'core/src/openings/frame.ts',
  },
  visitTypeDoc: {
    code: 'server/src/exchange/fhir/clinicToFhir.ts',
    name: 'server/src/features/daybook/daybook.sql.ts',
    publicNameEn: 'server/src/features/clinic/publicClinic.ts',
    publicNameEs: 'server/src/features/clinic/publicClinic.ts',
    descriptionEn: 'server/src/features/clinic/publicClinic.ts',
    descriptionEs: 'server/src/features/clinic/publicClinic.ts',
    preparationEn: 'server/src/features/clinic/publicClinic.ts',
    preparationEs: 'server/src/features/clinic/publicClinic.ts',
    priceNoteEn: 'server/src/features/clinic/publicClinic.ts',
    priceNoteEs: 'server/src/features/clinic/publicClinic.ts',
    color: 'server/src/features/clinic/clinic.sql.ts',
    mode: 'server/src/features/clinic/publicClinic.ts',
    beforeMin: 'core/src/booking/bookInto.ts',
    afterMin: 'core/src/booking/bookInto.ts',
    parts: 'core/src/openings/frame.ts',
    providerIds: 'core/src/visits/types.ts',
    siteIds: 'server/src/features/clinic/publicClinic.ts',
    spacing: 'core/src/openings/rules/spacing.ts',
    links: 'core/src/findTime/together.ts',
    reasons: 'server/src/features/clinic/publicClinic.ts',
    caps: 'core/src/openings/rules/capReached.ts',
    policies: 'core/src/openings/policy.ts',
    // Which packet a visit gets: stored as rules of forms and consents.
    formIds: 'server/src/features/intake/intake.sql.ts form_id',
    consentIds: 'server/src/features/intake/intake.sql.ts consent_id',
    cancelUntilHours: 'server/src/features/patientVisit/index.ts',
    asksToConfirm: 'server/src/features/patientVisit/index.ts',
    expectedFeeUsd: 'web/src/staff/features/daybook/views/LaneTotalsLine.tsx',
    sortOrder: 'server/src/features/clinic/clinic.sql.ts',
  },
  siteDoc: {
    name: 'server/src/features/daybook/daybook.sql.ts',
    publicName: 'server/src/features/clinic/publicClinic.ts',
    code: 'server/src/exchange/fhir/clinicToFhir.ts',
    addressLine: 'server/src/features/messages/messages.sql.ts',
    city: 'server/src/features/messages/messages.sql.ts',
    region: 'server/src/features/messages/messages.sql.ts',
    postalCode: 'server/src/features/messages/messages.sql.ts',
    phone: 'server/src/features/clinic/publicClinic.ts',
    morePhones: 'server/src/exchange/fhir/clinicToFhir.ts',
    email: 'server/src/exchange/fhir/clinicToFhir.ts',
    timeZone: 'server/src/features/availability/week.ts',
    latitude: 'server/src/exchange/fhir/clinicToFhir.ts',
    longitude: 'server/src/exchange/fhir/clinicToFhir.ts',
    directionsEn: 'server/src/features/clinic/publicClinic.ts',
    directionsEs: 'server/src/features/clinic/publicClinic.ts',
    bookableOnline: 'core/src/openings/rules/notBookableOnline.ts',
    access: 'core/src/findTime/access.ts',
    sortOrder: 'server/src/features/clinic/clinic.sql.ts',
    hours: 'core/src/availability/resourceDay.ts',
    closures: 'core/src/openings/rules/siteClosed.ts',
    travel: 'core/src/openings/rules/gapTooShort.ts',
  },
  personDoc: {
    kind: 'server/src/features/clinic/clinic.sql.ts',
    name: 'server/src/features/clinic/publicClinic.ts',
    shortName: 'server/src/features/daybook/daybook.sql.ts',
    color: 'server/src/features/clinic/publicClinic.ts',
    siteIds: 'server/src/features/clinic/clinic.sql.ts',
    capabilities: 'core/src/openings/rules/nobodyPresent.ts',
    bookableOnline: 'core/src/openings/rules/notBookableOnline.ts',
    shownInDaybook: 'server/src/features/daybook/daybook.sql.ts',
    mayEditOwnHours: 'server/src/features/availability/rights.ts',
    credentials: 'server/src/features/clinic/publicClinic.ts',
    specialty: 'server/src/exchange/fhir/clinicToFhir.ts',
    npi: 'server/src/exchange/fhir/clinicToFhir.ts',
    licenses: 'server/src/exchange/fhir/clinicToFhir.ts',
    languages: 'core/src/findTime/times.ts',
    acceptsNew: 'core/src/openings/rules/noNewPatients.ts',
    bioEn: 'server/src/features/clinic/publicClinic.ts',
    bioEs: 'server/src/features/clinic/publicClinic.ts',
    publicNameEs: 'server/src/features/clinic/publicClinic.ts',
    sortOrder: 'server/src/features/clinic/clinic.sql.ts',
  },
  placeDoc: {
    kind: 'core/src/availability/types.ts',
    name: 'server/src/features/daybook/daybook.sql.ts',
    shortName: 'server/src/features/daybook/daybook.sql.ts',
    siteId: 'core/src/availability/resourceDay.ts',
    poolId: 'server/src/features/openings/openings.sql.ts',
    places: 'core/src/availability/resourceDay.ts',
    singleDevice: 'server/src/features/booking/booking.sql.ts',
    shownInDaybook: 'server/src/features/daybook/daybook.sql.ts',
    leftOutOfMessages: 'server/src/features/messages/messages.sql.ts',
    access: 'core/src/findTime/access.ts',
    sortOrder: 'server/src/features/daybook/daybook.sql.ts',
  },
  poolDoc: {
    siteId: 'core/src/openings/frame.ts',
    kind: 'core/src/findTime/access.ts',
    name: 'server/src/features/daybook/daybook.sql.ts',
    memberIds: 'core/src/openings/frame.ts',
    shownInDaybook: 'server/src/features/daybook/daybook.sql.ts',
    sortOrder: 'server/src/features/daybook/daybook.sql.ts',
  },
  payerDoc: {
    name: 'server/src/features/coverage/coverage.repository.ts',
    rules: 'server/src/features/openings/openings.sql.ts payer_rule',
    sortOrder: 'server/src/features/coverage/coverage.repository.ts',
  },
  fieldDoc: {
    of: 'server/src/features/coverage/coverage.repository.ts',
    kind: 'server/src/features/clinic/publicClinic.ts',
    labelEn: 'server/src/features/clinic/publicClinic.ts',
    labelEs: 'server/src/features/clinic/publicClinic.ts',
    required: 'server/src/features/clinic/publicClinic.ts',
    choices: 'server/src/features/clinic/publicClinic.ts',
    visitTypeIds: 'server/src/features/clinic/publicClinic.ts',
    sortOrder: 'server/src/features/coverage/coverage.repository.ts',
  },
  accountDoc: {
    name: 'server/src/features/accounts/accounts.endpoints.ts',
    email: 'server/src/features/accounts/signIn.ts',
    role: 'server/src/features/accounts/signIn.ts',
    resourceId: 'server/src/features/accounts/signIn.ts',
    siteIds: 'server/src/platform/endpoint/context.ts',
    // Told, not set.
    state: 'web/src/staff/features/setup/kinds.ts',
  },
};
const ROOT = join(import.meta.dirname, '../..');
const DOCS = Object.entries(setup).flatMap(([name, value]) =>
  name.endsWith('Doc') && typeof value === 'object' && 'shape' in value
    ? [{ name, settings: Object.keys(value.shape) }]
    : [],
);

it('shows no choice that nothing reads', () => {
  expect(DOCS.length).toBeGreaterThanOrEqual(11);
  for (const { name, settings } of DOCS) {
    expect(Object.keys(READERS[name] ?? {}).sort(), name).toEqual([...settings].sort());
    for (const [setting, reader] of Object.entries(READERS[name])) {
      const [file, column = setting.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)] = reader.split(' ');
      const text = readFileSync(join(ROOT, file), 'utf8');
      expect([name, setting, new RegExp(`\\b(${setting}|${column})\\b`).test(text)]).toEqual([name, setting, true]);
    }
  }
});

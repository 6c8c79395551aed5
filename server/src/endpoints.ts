import { accountsEndpoints } from './features/accounts/index.ts';
import { availabilityCommands, availabilityEndpoints } from './features/availability/index.ts';
import { bookingCommands, bookingEndpoints } from './features/booking/index.ts';
import { clinicEndpoints } from './features/clinic/index.ts';
import { coverageCommands, coverageEndpoints } from './features/coverage/index.ts';
import { daybookCommands, daybookEndpoints } from './features/daybook/index.ts';
import { deskCommands, deskEndpoints } from './features/desk/index.ts';
import { feedsCommands, feedsEndpoints } from './features/feeds/index.ts';
import { fhirEndpoints } from './features/fhir/index.ts';
import { intakeCommands, intakeEndpoints } from './features/intake/index.ts';
import { invitationsCommands, invitationsEndpoints } from './features/invitations/index.ts';
import { messagesEndpoints } from './features/messages/index.ts';
import { openingsEndpoints } from './features/openings/index.ts';
import { patientsCommands, patientsEndpoints } from './features/patients/index.ts';
import { patientSearchEndpoints } from './features/patientSearch/index.ts';
import { patientVisitEndpoints } from './features/patientVisit/index.ts';
import { proofEndpoints } from './features/proof/index.ts';
import { recallsCommands, recallsEndpoints } from './features/recalls/index.ts';
import { todayCommands, todayEndpoints } from './features/today/index.ts';
import { undoEndpoints } from './features/undo/index.ts';
import { setupCommands, setupEndpoints } from './features/setup/index.ts';
import { verificationEndpoints } from './features/verification/index.ts';
import { identityReviewCommands, identityReviewEndpoints } from './features/identityReview/index.ts';
import type { Shares } from './platform/config/config.ts';

/** For whoever only reads what endpoints there are. */
const ANY: Shares = {
  holdsPerAddress: 1,
  holdsPerPrefix: 1,
  bookingsPerPerson: 1,
  bookingsPerContact: 1,
  codesPerContact: 1,
};

/** Every endpoint there is, once. The mount, the OpenAPI page and the test of every role walk this list. */
export function endpointsOf({
  demo,
  proof,
  shares = ANY,
}: {
  readonly demo: boolean;
  readonly proof: boolean;
  readonly shares?: Shares;
}) {
  return [
    ...accountsEndpoints(demo),
    ...clinicEndpoints,
    ...openingsEndpoints,
    ...proofEndpoints,
    ...bookingEndpoints(proof, shares),
    ...verificationEndpoints(proof, shares),
    ...daybookEndpoints,
    ...deskEndpoints,
    ...availabilityEndpoints,
    ...messagesEndpoints(demo),
    ...patientVisitEndpoints,
    ...patientsEndpoints,
    ...patientSearchEndpoints,
    ...intakeEndpoints,
    ...feedsEndpoints,
    ...fhirEndpoints,
    ...identityReviewEndpoints,
    ...todayEndpoints,
    ...setupEndpoints,
    ...coverageEndpoints,
    ...recallsEndpoints,
    ...invitationsEndpoints,
    ...undoEndpoints({
      ...bookingCommands,
      ...daybookCommands,
      ...deskCommands,
      ...availabilityCommands,
      ...feedsCommands,
      ...identityReviewCommands,
      ...todayCommands,
      ...intakeCommands,
      ...patientsCommands,
      ...setupCommands,
      ...coverageCommands,
      ...recallsCommands,
      ...invitationsCommands,
    }),
  ];
}

import { publicClinic, publicPayer, publicProviders, publicVisitTypes, staffClinic } from '@zaguan/contracts/clinic';
import { handle } from '../../platform/endpoint/handler.ts';
import { describeClinic, describeForStaff, describePayer, listProviders, listVisitTypes } from './publicClinic.ts';

export { HOME_ZONE } from './homeZone.sql.ts';
export { clinicRow, siteOf, siteRows, timeZoneOf } from './clinic.repository.ts';
export { type PersonRow, personRows } from './clinic.sql.ts';
export const clinicEndpoints = [
  handle(publicClinic, describeClinic),
  handle(publicVisitTypes, listVisitTypes),
  handle(publicProviders, listProviders),
  handle(publicPayer, describePayer),
  handle(staffClinic, describeForStaff),
];

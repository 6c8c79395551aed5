import { publicClinic, publicProviders, publicVisitTypes, staffClinic } from '@zaguan/contracts/clinic';
import { handle } from '../../platform/endpoint/handler.ts';
import { describeClinic, describeForStaff, listProviders, listVisitTypes } from './publicClinic.ts';

export { clinicRow, type PersonRow, personRows, type SiteRow, siteRows, timeZoneOf } from './clinic.repository.ts';
export const clinicEndpoints = [
  handle(publicClinic, describeClinic),
  handle(publicVisitTypes, listVisitTypes),
  handle(publicProviders, listProviders),
  handle(staffClinic, describeForStaff),
];

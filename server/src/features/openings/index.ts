export { loadPlan, loadSnapshot } from './openings.sql.ts';
export { ResidentClinic } from './residentClinic.ts';
export { openingsEndpoints } from './openings.endpoints.ts';

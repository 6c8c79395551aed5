export { inside, loadPlan, loadSnapshot } from './openings.repository.ts';
export { ResidentClinic } from './residentClinic.ts';
export { openingsEndpoints } from './openings.endpoints.ts';

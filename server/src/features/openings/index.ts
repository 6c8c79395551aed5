export { loadPlan, loadSnapshot, longestWindowDays, namesById, visitsOfPatients } from './openings.sql.ts';
export { heldIds } from './openings.repository.ts';
export { ResidentClinic } from './residentClinic.ts';
export { openingsEndpoints } from './openings.endpoints.ts';

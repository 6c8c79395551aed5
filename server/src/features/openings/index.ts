export { loadSnapshot } from './openings.repository.ts';
export { openingsEndpoints } from './openings.endpoints.ts';

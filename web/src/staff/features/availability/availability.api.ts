import { addWorkingHours, listWorkingHours, removeWorkingHours } from '@zaguan/contracts/availability';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const availabilityApi = api.injectEndpoints({
  endpoints: (build) => ({
    hours: queryOf(build, listWorkingHours, ['Hours']),
    addHours: mutationOf(build, addWorkingHours, ['Hours', 'Day', 'Openings', 'Clinic']),
    removeHours: mutationOf(build, removeWorkingHours, ['Hours', 'Day', 'Openings']),
  }),
});

import { cancelVisit, moveVisit, releaseHoldAtDesk, setStatus } from '@zaguan/contracts/booking';
import { daybookDay, daybookWeek } from '@zaguan/contracts/daybook';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const daybookApi = api.injectEndpoints({
  endpoints: (build) => ({
    day: queryOf(build, daybookDay, ['Day']),
    week: queryOf(build, daybookWeek, ['Day']),
    setStatus: mutationOf(build, setStatus, ['Day', 'Openings']),
    moveVisit: mutationOf(build, moveVisit, ['Day', 'Openings', 'Messages', 'Intake', 'Today']),
    releaseHold: mutationOf(build, releaseHoldAtDesk, ['Day', 'Openings']),
    cancelVisit: mutationOf(build, cancelVisit, ['Day', 'Openings']),
  }),
});

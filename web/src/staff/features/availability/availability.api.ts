import {
  acceptTimes,
  requestTimeOff,
  upcomingChanges,
  decideTimeOff,
  editSchedule,
  keepTime,
  recordCall,
  listTimeOffRequests,
  messagesOfMoves,
  previewSchedule,
  scheduleWeek,
  visitsToMove,
} from '@zaguan/contracts/availability';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

/** What any edit of the schedule may change on other pages. */
const TOUCHED = ['Hours', 'Day', 'Openings', 'Clinic', 'Today', 'Setup'] as const;

export const availabilityApi = api.injectEndpoints({
  endpoints: (build) => ({
    scheduleWeek: queryOf(build, scheduleWeek, ['Hours', 'Day']),
    upcoming: queryOf(build, upcomingChanges, ['Hours']),
    /** What some edits would come to, asked whenever they change. It hangs on no tag: saving them must not ask it again. */
    preview: queryOf(build, previewSchedule, []),
    edit: mutationOf(build, editSchedule, TOUCHED),
    visitsToMove: queryOf(build, visitsToMove, ['Hours', 'Day', 'Today']),
    /** What moving would tell the patients. */
    messagesOfMoves: queryOf(build, messagesOfMoves, []),
    acceptTimes: mutationOf(build, acceptTimes, ['Day', 'Openings', 'Today', 'Hours']),
    keepTime: mutationOf(build, keepTime, ['Today', 'Hours']),
    recordCall: mutationOf(build, recordCall, ['Today', 'Hours']),
    timeOffRequests: queryOf(build, listTimeOffRequests, ['Hours', 'Day']),
    requestTimeOff: mutationOf(build, requestTimeOff, ['Hours']),
    decideTimeOff: mutationOf(build, decideTimeOff, TOUCHED),
  }),
});

import {
  cancelGroup,
  cancelVisit,
  confirmVisit,
  groupOfVisit,
  lookAtVisit,
  moveGroup,
  moveSnapshot,
  moveVisit,
  releaseHoldAtDesk,
  setStatus,
} from '@zaguan/contracts/booking';
import {
  changeNote,
  daybookDay,
  daybookMonth,
  daybookWeek,
  daySheet,
  removeNote,
  setDelay,
  writeNote,
} from '@zaguan/contracts/daybook';
import { mutationOf, queryOf, type TagPart } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

/** The Daybook's page of a date, at all sites. */
export const pageOfDay = (date: string): TagPart => ({ type: 'Day', id: `page/${date}` });
/** What is drawn of one site's date. */
export const siteDayOf = (siteId: string, date: string): TagPart => ({ type: 'Day', id: `${siteId}/${date}` });

export const daybookApi = api.injectEndpoints({
  endpoints: (build) => ({
    day: queryOf(build, daybookDay, [], ({ date }) => [pageOfDay(date)]),
    /** One site of a day, to be put into the page of that day. */
    siteDay: queryOf(build, daybookDay, []),
    week: queryOf(build, daybookWeek, [], ({ days }) =>
      days.flatMap(({ date, sites }) => sites.map((site) => siteDayOf(site.id, date))),
    ),
    month: queryOf(build, daybookMonth, ['Day', 'Openings']),
    daySheet: queryOf(build, daySheet, ['Day']),
    /** What moving one visit on one date depends on, asked anew for each drag. */
    moveSnapshot: queryOf(build, moveSnapshot, []),
    setStatus: mutationOf(build, setStatus, ['Day', 'Openings']),
    confirmVisit: mutationOf(build, confirmVisit, ['Day', 'Intake']),
    moveVisit: mutationOf(build, moveVisit, ['Day', 'Openings', 'Messages', 'Intake', 'Today']),
    lookAtVisit: mutationOf(build, lookAtVisit, []),
    releaseHold: mutationOf(build, releaseHoldAtDesk, ['Day', 'Openings']),
    cancelVisit: mutationOf(build, cancelVisit, ['Day', 'Openings']),
    group: queryOf(build, groupOfVisit, ['Day']),
    moveGroup: mutationOf(build, moveGroup, ['Day', 'Openings', 'Messages', 'Intake', 'Today']),
    cancelGroup: mutationOf(build, cancelGroup, ['Day', 'Openings']),
    setDelay: mutationOf(build, setDelay, ['Day', 'Messages']),
    writeNote: mutationOf(build, writeNote, ['Day']),
    changeNote: mutationOf(build, changeNote, ['Day']),
    removeNote: mutationOf(build, removeNote, ['Day']),
  }),
});

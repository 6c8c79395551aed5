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
  changeView,
  daybookDay,
  daybookLanes,
  daybookMonth,
  daybookViews,
  daybookWeek,
  daySheet,
  orderViews,
  removeNote,
  removeView,
  saveView,
  setDefaultView,
  setDelay,
  unfoldDay,
  unfoldWeek,
  visitInShort,
  writeNote,
} from '@zaguan/contracts/daybook';
import { mutationOf, queryAs, queryOf, type TagPart } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

/** One site's day: news of it is fetched by `refreshSiteDay`. */
const dayOfSite = (siteId: string, date: string): TagPart => ({ type: 'Day', id: `day/${siteId}/${date}` });
/** What a week draws of one site's date. */
export const weekOfSite = (siteId: string, date: string): TagPart => ({ type: 'Day', id: `${siteId}/${date}` });

export const daybookApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** One site's day (or all of them, which no screen asks for). */
    day: queryAs(build, daybookDay, unfoldDay, ({ date, sites }) => sites.map((site) => dayOfSite(site.id, date))),
    week: queryAs(build, daybookWeek, unfoldWeek, ({ days }) =>
      days.flatMap(({ date, sites }) => sites.map((site) => weekOfSite(site.id, date))),
    ),
    visitInShort: queryOf(build, visitInShort, ['Day']),
    month: queryOf(build, daybookMonth, ['Day', 'Openings']),
    daySheet: queryOf(build, daySheet, ['Day']),
    /** What moving one visit on one date depends on, asked anew for each drag. */
    moveSnapshot: queryOf(build, moveSnapshot, []),
    setStatus: mutationOf(build, setStatus, ['Day', 'Openings']),
    confirmVisit: mutationOf(build, confirmVisit, ['Day', 'Intake']),
    moveVisit: mutationOf(build, moveVisit, ['Day', 'Openings', 'Messages', 'Intake', 'Today', 'Bench']),
    lookAtVisit: mutationOf(build, lookAtVisit, []),
    releaseHold: mutationOf(build, releaseHoldAtDesk, ['Day', 'Openings']),
    cancelVisit: mutationOf(build, cancelVisit, ['Day', 'Openings', 'Bench']),
    group: queryOf(build, groupOfVisit, ['Day']),
    moveGroup: mutationOf(build, moveGroup, ['Day', 'Openings', 'Messages', 'Intake', 'Today', 'Bench']),
    cancelGroup: mutationOf(build, cancelGroup, ['Day', 'Openings', 'Bench']),
    setDelay: mutationOf(build, setDelay, ['Day', 'Messages']),
    writeNote: mutationOf(build, writeNote, ['Day']),
    changeNote: mutationOf(build, changeNote, ['Day']),
    removeNote: mutationOf(build, removeNote, ['Day']),
    views: queryOf(build, daybookViews, ['Views']),
    lanes: queryOf(build, daybookLanes, ['Setup']),
    saveView: mutationOf(build, saveView, ['Views']),
    changeView: mutationOf(build, changeView, ['Views']),
    removeView: mutationOf(build, removeView, ['Views']),
    orderViews: mutationOf(build, orderViews, ['Views']),
    setDefaultView: mutationOf(build, setDefaultView, ['Views']),
  }),
});

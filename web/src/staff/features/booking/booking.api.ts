import * as contract from '@zaguan/contracts/desk';
import { findTimes } from '@zaguan/contracts/openings';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

const TOUCHES = ['Day', 'Openings', 'Messages', 'Intake', 'Today', 'Bench', 'Patient'] as const;

export const bookingApi = api.injectEndpoints({
  endpoints: (build) => ({
    context: queryOf(build, contract.contextOfPatient, ['Patient', 'Day']),
    type: queryOf(build, contract.typeAtDesk, ['Setup']),
    timesTogether: queryOf(build, findTimes, ['Openings', 'Day']),
    propose: queryOf(build, contract.proposeAtDesk, ['Openings', 'Day']),
    timesOfDay: queryOf(build, contract.timesOfDay, ['Openings', 'Day']),
    check: queryOf(build, contract.checkAtDesk, ['Openings', 'Day']),
    hold: mutationOf(build, contract.holdAtDesk, []),
    extend: mutationOf(build, contract.extendDeskHold, []),
    release: mutationOf(build, contract.releaseDeskHold, []),
    book: mutationOf(build, contract.bookAtDesk, TOUCHES),
    bookingRequests: queryOf(build, contract.requests, ['Day', 'Today']),
    askRequest: mutationOf(build, contract.askRequest, ['Day', 'Today', 'Patient']),
    withdrawRequest: mutationOf(build, contract.withdrawRequest, ['Day', 'Today', 'Patient']),
    wishes: queryOf(build, contract.wishesOfVisit, ['Patient', 'Day']),
    endWish: mutationOf(build, contract.endWish, ['Patient', 'Day']),
    details: queryOf(build, contract.visitDetails, ['Day', 'Patient']),
    sendDetails: mutationOf(build, contract.sendDetails, ['Messages']),
    bench: queryOf(build, contract.bench, ['Bench']),
    putOnBench: mutationOf(build, contract.putOnBench, TOUCHES),
    ownUnplaced: mutationOf(build, contract.ownUnplaced, ['Today', 'Bench']),
    withdrawUnplaced: mutationOf(build, contract.withdrawUnplaced, ['Today', 'Bench', 'Patient']),
  }),
});

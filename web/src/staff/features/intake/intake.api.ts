import * as intake from '@zaguan/contracts/intake';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const intakeApi = api.injectEndpoints({
  endpoints: (build) => ({
    board: queryOf(build, intake.board, ['Intake']),
    readiness: queryOf(build, intake.readiness, ['Intake']),
    packet: queryOf(build, intake.packetAtDesk, ['Intake']),
    saveForm: mutationOf(build, intake.saveFormAtDesk, []),
    sign: mutationOf(build, intake.signAtDesk, ['Intake', 'Day']),
    checkIn: mutationOf(build, intake.checkIn, ['Intake', 'Day', 'Today']),
    waive: mutationOf(build, intake.waive, ['Intake', 'Day', 'Today']),
    clearFlag: mutationOf(build, intake.clearFlag, ['Intake', 'Day', 'Today', 'WorkCount']),
  }),
});

import {
  decideRecall,
  previewPlan,
  putOnRegister,
  recallCounts,
  recallList,
  registerPeople,
  takeBackChoice,
  takeOffRegister,
  whyRecalled,
} from '@zaguan/contracts/recalls';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const recallsApi = api.injectEndpoints({
  endpoints: (build) => ({
    recallCounts: queryOf(build, recallCounts, ['Recalls']),
    recallPeople: queryOf(build, recallList, ['Recalls']),
    whyRecalled: queryOf(build, whyRecalled, ['Recalls']),
    previewPlan: queryOf(build, previewPlan, ['Recalls']),
    decideRecall: mutationOf(build, decideRecall, ['Recalls']),
    takeBackChoice: mutationOf(build, takeBackChoice, ['Recalls']),
    registerPeople: queryOf(build, registerPeople, ['Recalls']),
    putOnRegister: mutationOf(build, putOnRegister, ['Recalls']),
    takeOffRegister: mutationOf(build, takeOffRegister, ['Recalls']),
  }),
});

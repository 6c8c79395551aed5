import { addRelationship, endRelationship, patientRecord, saveFields } from '@zaguan/contracts/patients';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const patientsApi = api.injectEndpoints({
  endpoints: (build) => ({
    record: queryOf(build, patientRecord, ['Patient', 'Day', 'IdentityReview']),
    saveFields: mutationOf(build, saveFields, ['Patient']),
    addRelationship: mutationOf(build, addRelationship, ['Patient']),
    endRelationship: mutationOf(build, endRelationship, ['Patient']),
  }),
});

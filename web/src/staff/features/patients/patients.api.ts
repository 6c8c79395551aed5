import { patientRecord } from '@zaguan/contracts/patients';
import { queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const patientsApi = api.injectEndpoints({
  endpoints: (build) => ({ record: queryOf(build, patientRecord, ['Day', 'Vestibule']) }),
});

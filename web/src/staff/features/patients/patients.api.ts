import * as contract from '@zaguan/contracts/patients';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

/** A change of one record shows wherever patients and their visits do. */
const TOUCHES = ['Patient', 'Day', 'Intake', 'Today'] as const;

export const patientsApi = api.injectEndpoints({
  endpoints: (build) => ({
    record: queryOf(build, contract.patientRecord, ['Patient', 'Day', 'IdentityReview']),
    list: queryOf(build, contract.listPatients, ['Patient']),
    like: queryOf(build, contract.likePatients, ['Patient']),
    savedLists: queryOf(build, contract.savedPatientLists, ['PatientLists']),
    saveList: mutationOf(build, contract.savePatientList, ['PatientLists']),
    deleteList: mutationOf(build, contract.deletePatientList, ['PatientLists']),
    register: mutationOf(build, contract.registerPatients, TOUCHES),
    saveIdentity: mutationOf(build, contract.saveIdentity, TOUCHES),
    saveDetails: mutationOf(build, contract.saveDetails, TOUCHES),
    saveCodes: mutationOf(build, contract.saveCodes, TOUCHES),
    saveFields: mutationOf(build, contract.saveFields, ['Patient']),
    saveStatus: mutationOf(build, contract.savePatientStatus, TOUCHES),
    addContact: mutationOf(build, contract.addContact, TOUCHES),
    orderContacts: mutationOf(build, contract.orderContacts, TOUCHES),
    removeContact: mutationOf(build, contract.removeContact, TOUCHES),
    noteContact: mutationOf(build, contract.noteContact, TOUCHES),
    addRelationship: mutationOf(build, contract.addRelationship, ['Patient']),
    endRelationship: mutationOf(build, contract.endRelationship, ['Patient']),
    joinHousehold: mutationOf(build, contract.joinHousehold, TOUCHES),
    leaveHousehold: mutationOf(build, contract.leaveHousehold, TOUCHES),
    restrict: mutationOf(build, contract.restrict, TOUCHES),
    openRestricted: mutationOf(build, contract.openRestricted, TOUCHES),
  }),
});

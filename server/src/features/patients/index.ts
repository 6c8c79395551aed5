import * as contract from '@zaguan/contracts/patients';
import { handle } from '../../platform/endpoint/handler.ts';
import { undoWith } from '../../platform/undo/undo.ts';
import { putBack } from './editable.ts';
import * as contacts from './editContacts.ts';
import { putCodesBack, saveCodes, saveDetails } from './editDetails.ts';
import { putIdentityBack, saveIdentity } from './editIdentity.ts';
import { putStatus, savePatientStatus } from './editStatus.ts';
import { joinHousehold, leaveHousehold, putHousehold } from './household.ts';
import { saveOwnFields } from './ownFields.ts';
import { likePatients, registerPatients, takeBackRegistered } from './register.ts';
import { addWhoMayAct, endWhoMayAct, putLastDate, removeWhoMayAct } from './relationships.ts';
import { openRestricted, restrict } from './restrict.ts';
import { showRecord } from './showRecord.ts';

export const patientsEndpoints = [
  handle(contract.patientRecord, showRecord),
  handle(contract.likePatients, likePatients),
  handle(contract.registerPatients, registerPatients),
  handle(contract.saveIdentity, saveIdentity),
  handle(contract.saveDetails, saveDetails),
  handle(contract.saveCodes, saveCodes),
  handle(contract.saveFields, saveOwnFields),
  handle(contract.savePatientStatus, savePatientStatus),
  handle(contract.addContact, contacts.addContact),
  handle(contract.orderContacts, contacts.orderContacts),
  handle(contract.removeContact, contacts.removeContact),
  handle(contract.noteContact, contacts.noteContact),
  handle(contract.addRelationship, addWhoMayAct),
  handle(contract.endRelationship, endWhoMayAct),
  handle(contract.joinHousehold, joinHousehold),
  handle(contract.leaveHousehold, leaveHousehold),
  handle(contract.restrict, restrict),
  handle(contract.openRestricted, openRestricted),
];

/** Commands that may stand as an inverse. */
export const patientsCommands = {
  'patients.putBack': undoWith('patients.edit', putBack),
  'patients.putRestriction': undoWith('patients.restrict', putBack),
  'patients.putIdentityBack': undoWith('patients.edit', putIdentityBack),
  'patients.putCodes': undoWith('patients.edit', putCodesBack),
  'patients.putStatus': undoWith('patients.edit', putStatus),
  'patients.takeBack': undoWith('patients.edit', takeBackRegistered),
  'patients.takeContactOff': undoWith('patients.edit', contacts.takeContactOff),
  'patients.putContactOn': undoWith('patients.edit', contacts.putContactOn),
  'patients.orderContacts': undoWith('patients.edit', contacts.orderBack),
  'patients.forgetNote': undoWith('patients.edit', contacts.forgetNote),
  'patients.putHousehold': undoWith('patients.edit', putHousehold),
  'patients.removeRelationship': undoWith('patients.edit', removeWhoMayAct),
  'patients.putLastDate': undoWith('patients.edit', putLastDate),
};

import type { RequestOf } from '@zaguan/contracts';
import type { registerPatients } from '@zaguan/contracts/patients';

/** Everything of the form, as it is typed. */
export type Typed = RequestOf<typeof registerPatients>;
export type TypedPerson = Typed['people'][number];
export type TypedGuardian = Typed['guardians'][number];

export const NOBODY: TypedPerson = {
  givenName: '',
  familyName: '',
  birthDate: '',
  sex: null,
  preferredName: '',
  contact: '',
};

/** Of a patient's record: who is new, comes, no longer comes, has died, or was merged away. */
export const PATIENT_STATUSES = ['new', 'active', 'inactive', 'deceased', 'archived'] as const;
export type PatientStatus = (typeof PATIENT_STATUSES)[number];

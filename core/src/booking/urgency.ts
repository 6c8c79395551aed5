/** How soon a requested visit is wanted (FHIR R4 request-priority, http://hl7.org/fhir/R4/valueset-request-priority.html). */
export const URGENCIES = ['routine', 'urgent', 'asap', 'stat'] as const;
export type Urgency = (typeof URGENCIES)[number];

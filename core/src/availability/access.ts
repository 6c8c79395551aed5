/**
 * What a site or a room has for people who could not come otherwise. Our own codes; what each asks is common practice,
 * and what "wide" and "adjustable" mean is a standard's: a door 32 inches clear (2010 ADA Standards §404.2.3, from
 * memory), a table that goes down to 17 inches (36 CFR part 1195, from memory).
 */
export const ACCESS = [
  'step-free',
  'wide-door',
  'adjustable-table',
  'patient-lift',
  'hearing-loop',
  'quiet-room',
] as const;
export type Access = (typeof ACCESS)[number];

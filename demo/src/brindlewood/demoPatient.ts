import type { LocalDate } from '@zaguan/core/time';
import type { SiteKey } from './sites.ts';

/** Somebody invented, before any visit. */
export interface DemoPatient {
  readonly id: string;
  readonly given: string;
  readonly family: string;
  readonly birthDate: LocalDate;
  readonly language: 'en' | 'es';
  readonly household: number;
  readonly site: SiteKey;
  readonly recordNumber: string;
  status: 'new' | 'active' | 'inactive' | 'deceased';
  readonly restricted: boolean;
}

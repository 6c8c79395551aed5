import type { VisitPlan } from '@zaguan/core/booking';
import type { DemoPatient } from './demoPatient.ts';
import type { TypeKey } from './visitTypeData.ts';

/** What became of a visit, or will, once its time is over. */
export type Past = 'fulfilled' | 'noshow';

/** One visit of the demo's history, planned by the rules. */
export interface DemoVisit {
  readonly type: TypeKey;
  readonly siteId: string;
  readonly providerId: string | null;
  readonly patient: DemoPatient;
  readonly kind: 'new' | 'established';
  readonly plan: VisitPlan;
  readonly afterMin: number;
  readonly leadDays: number;
  readonly outcome: Past;
  readonly n: number;
}

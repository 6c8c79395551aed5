import type { Action } from '@zaguan/contracts';

/** The places of the rail, in their order, and what somebody must be allowed to enter them. */
export const PLACES = [
  { place: 'today', needs: 'today.work' },
  { place: 'daybook', needs: 'daybook.view' },
  { place: 'patients', needs: 'patients.view' },
  { place: 'identity-review', needs: 'identityReview.decide' },
  { place: 'outreach', needs: 'recalls.view' },
  { place: 'intake', needs: 'intake.view' },
  { place: 'availability', needs: 'availability.view' },
  { place: 'setup', needs: 'setup.view' },
  { place: 'simulated-carriers', needs: 'simulatedCarriers.use' },
] as const satisfies readonly { place: string; needs: Action }[];

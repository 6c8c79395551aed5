import { findsAny, type InvitationSearch } from '../invitations/index.ts';
import { ClinicIndex, type ClinicStore } from '../openings/index.ts';
import type { EpochMinute } from '../time/index.ts';

/** Open invitations of one template. */
export interface OpenInvitations {
  readonly rules: InvitationSearch;
  readonly open: number;
}

/** How many open invitations would find nothing after a change that find something now. */
export function invitationsEmptied(
  { before, after, now }: { before: ClinicStore; after: ClinicStore; now: EpochMinute },
  templates: readonly OpenInvitations[],
): number {
  const finds = (store: ClinicStore, rules: InvitationSearch) => findsAny(new ClinicIndex(store, now), rules);
  return templates
    .filter(({ open, rules }) => open > 0 && finds(before, rules) && !finds(after, rules))
    .reduce((sum, { open }) => sum + open, 0);
}

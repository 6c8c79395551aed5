/** How an invitation ended; one that ran out is not ended by anybody. */
export const INVITATION_ENDS = ['used', 'withdrawn', 'declined', 'later', 'done-elsewhere', 'expired'] as const;
export type InvitationEnd = (typeof INVITATION_ENDS)[number];

/** What happened to an invitation, in the order in which it is written down. */
export const INVITATION_EVENTS = [
  'planned',
  'opened',
  'looked',
  'booked',
  'locked',
  'later',
  'declined',
  'done-elsewhere',
  'withdrawn',
  'restored',
] as const;
export type InvitationEvent = (typeof INVITATION_EVENTS)[number];

/** Where an invitation stands. */
export const INVITATION_STATES = [
  'planned',
  'sent',
  'delivered',
  'opened',
  'looked',
  'booked',
  'later',
  'declined',
  'done-elsewhere',
  'expired',
  'withdrawn',
  'not-reached',
] as const;
export type InvitationState = (typeof INVITATION_STATES)[number];

export interface InvitationFacts {
  readonly endedAs: InvitationEnd | null;
  readonly isOver: boolean;
  readonly events: readonly InvitationEvent[];
  /** What became of its message. */
  readonly message: 'planned' | 'sent' | 'delivered' | 'failed' | 'withdrawn' | 'dropped';
}

/** Where an invitation stands, by the furthest that is known of it. */
export function invitationState({ endedAs, isOver, events, message }: InvitationFacts): InvitationState {
  if (events.includes('booked')) return 'booked';
  if (endedAs === 'later' || endedAs === 'declined' || endedAs === 'done-elsewhere') return endedAs;
  if (endedAs === 'withdrawn') return 'withdrawn';
  if (endedAs === 'expired' || isOver) return 'expired';
  if (events.includes('looked')) return 'looked';
  if (events.includes('opened')) return 'opened';
  if (message === 'failed' || message === 'dropped') return 'not-reached';
  return message === 'withdrawn' ? 'planned' : message;
}

/** The steps of a plan's funnel: each is a part of the one before it. */
export const FUNNEL_STEPS = ['invited', 'delivered', 'opened', 'looked', 'booked', 'came'] as const;
export type FunnelStep = (typeof FUNNEL_STEPS)[number];

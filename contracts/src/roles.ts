/** Who may do what. The server asks this table at every call; the web asks it only to draw. */
export const ROLES = ['manager', 'coordinator', 'front-desk', 'provider', 'read-only'] as const;
export type Role = (typeof ROLES)[number];

export const ACTIONS = [
  'daybook.view',
  'availability.view',
  'availability.edit',
  'appointment.status',
  'appointment.cancel',
  'openings.search',
  'docs.view',
  'messages.view',
  'postroom.use',
  'vestibule.decide',
  'today.work',
  'patients.view',
] as const;
export type Action = (typeof ACTIONS)[number];

/** `all`: everywhere; `own-sites`: at the sites of the account (all if none are set); `own-hours`: the account's own provider only; `no`: not at all. */
export type Scope = 'all' | 'own-sites' | 'own-hours' | 'no';

const RIGHTS = {
  manager: {
    'daybook.view': 'all',
    'availability.view': 'all',
    'availability.edit': 'all',
    'appointment.status': 'all',
    'appointment.cancel': 'all',
    'openings.search': 'all',
    'docs.view': 'all',
    'messages.view': 'all',
    'postroom.use': 'all',
    'vestibule.decide': 'all',
    'today.work': 'all',
    'patients.view': 'all',
  },
  coordinator: {
    'daybook.view': 'all',
    'availability.view': 'all',
    'availability.edit': 'all',
    'appointment.status': 'all',
    'appointment.cancel': 'all',
    'openings.search': 'all',
    'docs.view': 'all',
    'messages.view': 'all',
    'postroom.use': 'all',
    'vestibule.decide': 'all',
    'today.work': 'all',
    'patients.view': 'all',
  },
  'front-desk': {
    'daybook.view': 'own-sites',
    'availability.view': 'own-sites',
    'availability.edit': 'no',
    'appointment.status': 'own-sites',
    'appointment.cancel': 'own-sites',
    'openings.search': 'own-sites',
    'docs.view': 'all',
    'messages.view': 'own-sites',
    'postroom.use': 'no',
    'vestibule.decide': 'no',
    'today.work': 'own-sites',
    'patients.view': 'all',
  },
  provider: {
    'daybook.view': 'all',
    'availability.view': 'all',
    'availability.edit': 'own-hours',
    'appointment.status': 'all',
    'appointment.cancel': 'no',
    'openings.search': 'all',
    'docs.view': 'all',
    'messages.view': 'all',
    'postroom.use': 'no',
    'vestibule.decide': 'no',
    'today.work': 'no',
    'patients.view': 'all',
  },
  'read-only': {
    'daybook.view': 'all',
    'availability.view': 'all',
    'availability.edit': 'no',
    'appointment.status': 'no',
    'appointment.cancel': 'no',
    'openings.search': 'all',
    'docs.view': 'all',
    'messages.view': 'all',
    'postroom.use': 'no',
    'vestibule.decide': 'no',
    'today.work': 'no',
    'patients.view': 'all',
  },
} as const satisfies Record<Role, Record<Action, Scope>>;

/** How far a role may do something. */
export function scopeOf(role: Role, action: Action): Scope {
  return RIGHTS[role][action];
}

import type { Action } from '@zaguan/contracts';

/** A code as a key of words, which has no dots of its own. */
export type Dashed<Code> = Code extends `${infer Left}.${infer Right}` ? `${Left}-${Right}` : Code;

/** What each role may do, for the page of roles in Setup. */
export const roleWords = {
  roleNote: {
    manager: 'Everything, and the accounts.',
    coordinator: 'Everything but accounts and clinical decisions.',
    'front-desk': 'The day at their own sites: receive, move, cancel, check in.',
    provider: 'See the day, their own hours, clear red flags.',
    'read-only': 'Look, nothing else.',
  },
  scope: { all: 'yes', 'own-sites': 'own sites', 'own-hours': 'own hours', no: '–' },
  actions: {
    'daybook-view': 'See the Daybook',
    'daybook-annotate': 'Write notes on a day, say who runs late',
    'daybook-share-views': 'Make Lenses for a site or everyone',
    'availability-view': 'See working hours',
    'availability-edit': 'Change working hours',
    'appointment-status': 'Set a visit’s status',
    'appointment-cancel': 'Cancel visits',
    'appointment-move': 'Move visits',
    'appointment-book': 'Book visits at the desk',
    'appointment-book-against-rules': 'Book against a rule, with a reason',
    'bookingRequest-ask': 'Ask that a patient be booked',
    'openings-search': 'Search for times, ask Why not?',
    'docs-view': 'Read the help',
    'messages-view': 'See messages',
    'simulatedCarriers-use': 'Use the Postroom',
    'identityReview-decide': 'Say who a booking is',
    'today-work': 'Work on Today',
    'patients-view': 'See patients’ records',
    'patients-edit': 'Register patients and change their records',
    'patients-restrict': 'Restrict records',
    'patients-open-restricted': 'Open a restricted record with a reason',
    'intake-view': 'See intake',
    'intake-check-in': 'Check in',
    'intake-waive': 'Let something missing through, with a reason',
    'red-flag-clear': 'Clear a red flag',
    'fhir-read': 'Read over FHIR',
    'recalls-view': 'See recall plans and who is due',
    'recalls-decide': 'Invite patients, and note what they want of a recall',
    'recalls-edit': 'Change recall plans and registers',
    'setup-view': 'See how the clinic is set up',
    'setup-edit': 'Change how the clinic is set up',
    'accounts-manage': 'Invite staff, change roles',
  } satisfies Record<Dashed<Action>, string>,
};

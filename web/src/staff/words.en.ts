/** Staff words, American English. */
export const en = {
  product: 'Zaguan', loading: 'Loading…', tryAgain: 'Try again', close: 'Close', undo: 'Undo', undone: 'Undone.', cancelIt: 'Keep it', save: 'Save', signOut: 'Sign out', none: 'None',
  away: 'The server can’t be reached just now. Nothing is lost; this page tries again by itself.',
  nav: { daybook: 'Daybook', availability: 'Availability', label: 'Main', skip: 'Skip to the page' },
  signIn: { title: 'Sign in', email: 'E-mail', password: 'Password', go: 'Sign in', demo: 'Demo only: sign in as', demoNote: 'These buttons exist because this server runs the demo clinic.' },
  role: { manager: 'Manager', coordinator: 'Coordinator', 'front-desk': 'Front desk', provider: 'Provider', 'read-only': 'Read-only' },
  noRight: 'Your role may not see this page. A manager or coordinator can.',
  daybook: {
    title: 'Daybook', previous: 'Day before', next: 'Day after', today: 'Today', allSites: 'All sites', site: 'Site', legend: 'Legend', whyNot: 'Why not?',
    visits_one: '{{count}} visit', visits_other: '{{count}} visits', held_one: '{{count}} time being booked', held_other: '{{count}} times being booked', unknown_one: '{{count}} person not known yet', unknown_other: '{{count}} people not known yet',
    full: '{{share}} % full', noHours: 'no hours', now: 'now', onlineStrip: 'Shown online {{times}}', deskStrip: 'Desk only', away: 'Away', keptFree: 'Kept free', closed: 'Closed', hours: 'Working {{from}} to {{until}}',
    emptyTitle: 'Nobody works here this day.', emptyHint: 'Add working hours in Availability, or choose another day.', hold: 'Being booked', laneLabel: '{{name}}, {{site}}', askAt: 'Ask about {{time}}, {{lane}}', accepts: { new: 'New only', established: 'Established only', invited: 'Invited only', types: 'Some visit types' },
  },
  visit: {
    status: { proposed: 'Proposed', pending: 'Pending', booked: 'Booked', arrived: 'Arrived', 'checked-in': 'Checked in', fulfilled: 'Fulfilled', cancelled: 'Cancelled', noshow: 'No-show', waitlist: 'Waitlist', 'entered-in-error': 'Entered in error' },
    confirmed: 'Confirmed', held: 'Held for a patient', notKnown: 'Person not known yet', with: 'with {{name}}', kind: { new: 'New patient', established: 'Established patient' },
    origin: { desk: 'Booked at the desk', self: 'Booked online', invitation: 'Booked by invitation', waitlist: 'From the waitlist', import: 'Imported' }, originShort: { desk: 'desk', self: 'online', invitation: 'invited', waitlist: 'waitlist', import: 'import' },
    reason: 'Reason', noReason: 'No reason was given.', act: { booked: 'Back to booked', arrived: 'Arrived', 'checked-in': 'Checked in', fulfilled: 'Fulfilled', noshow: 'No-show' } as Record<string, string>,
    moved: '{{name}}: {{status}}.', cancel: 'Cancel visit…', cancelTitle: 'Cancel this visit', why: 'Why?', note: 'Note (for staff)', doCancel: 'Cancel visit', cancelled: 'Visit cancelled; its time is free.', noStatusRight: 'Your role may look, but not change the status.',
    cancelReason: { 'patient-asked': 'The patient asked', 'provider-away': 'The provider is away', 'site-closed': 'The site is closed', 'not-genuine': 'Not a genuine booking', 'booked-wrongly': 'Booked by mistake', other: 'Another reason' },
    gone: 'This visit is no longer on this day.', unknownNote: 'Booked online by someone we don’t know for sure. The time is kept.',
    parts: 'Times in this lane',
  },
  hours: {
    title: 'Availability', week: 'Working hours, week by week', add: 'Add working hours', who: 'Who', where: 'Site', days: 'On', from: 'From', until: 'To', every: 'Repeats', everyN_one: 'Every week', everyN_other: 'Every {{count}} weeks', since: 'First date', last: 'Last date', lastHint: 'Leave empty for no end.',
    accepts: 'Accepts', anyType: 'Any visit type', someTypes: 'Only these', anyKind: 'All patients', newOnly: 'New patients only', establishedOnly: 'Established patients only', invitedOnly: 'Invited patients only', online: 'Show these times online', onlineHint: 'Patients see them where the visit type’s own rules allow it.', places: 'Visits at once',
    saved: 'Working hours saved. First date: {{date}}.', savedNever: 'Working hours saved, but no date falls into them.', removed: 'Working hours removed.', remove: 'Remove', empty: 'No working hours yet. Self-booking needs them: add the first ones.', none: '—', noRight: 'Your role may look, but not change working hours.', ownOnly: 'You can change your own hours.',
    chip: '{{from}} to {{until}}, {{what}}, {{online}}', shown: 'shown online', desk: 'desk only', everyShort: 'every {{count}} wk', untilDate: 'until {{date}}', fromDate: 'from {{date}}',
  },
  fault: {
    'no-weekday': 'Choose at least one day.', 'across-midnight': 'The end is before the start. Hours over midnight are made as two stretches: one to 12:00 am, one from it.', 'empty-stretch': 'Start and end are the same.', 'until-before-from': 'The last date is before the first.', 'no-such-date': 'There is no such date.', 'no-type': 'Choose at least one visit type, or any.',
    needed: 'Please choose.', overlap: 'On {{date}} these hours overlap {{from}} to {{until}} at {{site}}. Change one of both; nothing was saved.', time: 'Write a time like 8:30 am, in steps of five minutes.',
  } as Record<string, string>,
  whyNot: {
    title: 'Why not?', ask: 'Would a patient find {{time}} with {{lane}}?', type: 'Visit type', kind: 'Patient', offered: 'Yes. This start is offered online.', hidden_one: 'No. One rule hides it:', hidden_other: 'No. {{count}} rules hide it:', passed: 'Rules that are met ({{count}})', time: 'Start', lane: 'Lane', pickLane: 'This lane is no provider’s. Visit types are asked for by provider.', at: 'Time at the site',
    code: {
      past: 'It is over', 'not-performed': 'Not done by this provider or at this site', 'site-closed': 'The site is closed', 'outside-site-hours': 'Outside the site’s opening hours', 'not-offered': 'The visit type is not offered online here', 'kind-not-offered': 'Not offered online to these patients', 'not-bookable-online': 'Provider or site is left out of self-booking',
      'too-soon': 'Less notice than the lead time asks', 'too-far': 'Beyond the booking window', 'off-grid': 'Not on the start-time grid', 'not-before': 'Allowed only from a later date', 'no-hours': 'No working hours', 'changed-that-date': 'The hours were changed for this date', 'time-off': 'Away', 'kept-free': 'Kept free', 'type-not-accepted': 'The hours accept other visit types', 'kind-not-accepted': 'The hours accept other patients',
      'invited-only': 'The hours are for invited patients', 'desk-only': 'Desk only: not shown online', busy: 'Taken', 'gap-too-short': 'Too close to the provider’s other visit', 'cap-reached': 'The day’s limit is reached', 'nobody-present': 'Nobody able to treat is there until the end', 'patient-elsewhere': 'The patient has another visit then', spacing: 'Too close to the patient’s other visits', 'never-together': 'Each is free alone, but never together',
    } as Record<string, string>,
  },
  legend: { title: 'What the marks mean', outline: 'Booked', threshold: 'Confirmed', half: 'Arrived', figure: 'Checked in', filled: 'Fulfilled', dotted: 'Held, or waiting for approval', question: 'Person not known', struck: 'Cancelled', leaning: 'No-show', online: 'Shown online', desk: 'Desk only', present: 'Colored edge: the minutes really spent there' },
};

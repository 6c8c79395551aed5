/** Patients' words, English: plain, at a reading age of about eleven. */
export const en = {
  otherLanguage: 'Español', back: 'Back', loading: 'One moment…', tryAgain: 'Try again', call: 'Call {{phone}}', required: 'needed', optional: 'if you like',
  title: 'Book a visit',
  been: { question: 'Have you been here before?', yes: 'Yes', no: 'No', unsure: 'Not sure', why: 'This helps us keep enough time for you.' },
  site: { question: 'Where do you want to come?' },
  what: { question: 'What is the visit for?', minutes_one: '{{count}} minute', minutes_other: '{{count}} minutes', none: 'Nothing can be booked online here. Please call us.' },
  who: { question: 'Who do you want to see?', anyone: 'Anyone', anyoneWhy: 'You get the most times to choose from.', first: 'First free day: {{date}}', noneSoon: 'No free day in the next weeks', speaksSpanish: 'Speaks Spanish' },
  when: {
    question: 'When suits you?', first: 'First time free', take: 'Take it', span: '{{from}} to {{until}}', daysWith_one: '{{count}} day has times', daysWith_other: '{{count}} days have times',
    leftWord_one: 'time', leftWord_other: 'times', left_one: '{{count}} time', left_other: '{{count}} times', none: 'no times', zone: 'Times are in {{zone}}, where the clinic is.', pick: 'Pick a day to see its times.', noneAtAll: 'There is no free time between {{from}} and {{until}}. Please call us: we may still find one.',
    with: 'with {{name}}', others: 'Other times close by', dayLabel: '{{date}}: {{left}}', earlier: 'Earlier days', later: 'Later days',
  },
  you: {
    question: 'Who is coming?', kept: 'Kept for you for {{time}}', keptFor: 'We keep this time for you', more: '10 more minutes', gone: 'We could no longer keep this time. What you typed is still here.', again: 'Keep it again',
    given: 'First name', family: 'Last name', birth: 'Date of birth', birthHint: 'For example March 4, 1987', birthRead: 'Born {{date}}', birthAsk: 'Which date do you mean?', phone: 'Cell phone', phoneHint: 'We call this number if something changes.',
    reason: 'What is the reason for the visit?', reasonHint: 'In your own words. Leave it empty if you prefer.', book: 'Book this visit', booking: 'Booking…', change: 'Change the time', oneName: 'If you have only one name, fill in one of both.',
  },
  fault: {
    'name-empty': 'Please write a name.', 'name-too-long': 'This is longer than a name can be here ({{most}} letters). Please shorten it.', 'name-no-letters': 'Please write a name with letters.',
    'birth-empty': 'Please write the date of birth.', 'birth-not-a-date': 'We can’t read this as a date. Write it like March 4, 1987.', 'birth-no-such-day': 'There is no such day. Please check it.',
    'birth-in-future': 'This day is still to come. Please check the year.', 'birth-too-long-ago': 'This is very long ago. Please check the year.', 'birth-ambiguous': 'This could be more than one day. Please choose below.',
    'phone-empty': 'Please write a cell phone number.', 'phone-not-a-phone': 'This is not a phone number we can call. Write it with the area code, like 312 555 0142.', 'reason-too-long': 'Please shorten this to 500 letters.',
  } as Record<string, string>,
  done: {
    title: 'You are booked', calendar: 'Add to my calendar', where: 'Where', call: 'To change or cancel it, call {{phone}}.', another: 'Book another visit', next: 'We look forward to seeing you.',
  },
  away: 'We can’t reach our booking system right now. Nothing you typed is lost. We keep trying by ourselves.',
  failed: 'This page could not be loaded.',
};
export type PatientWords = typeof en;

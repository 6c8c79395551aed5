/** The box at the top of every page. */
export const finderWords = {
  finder: {
    open: 'Find a patient, a page or something to do',
    keys: 'Ctrl K  or  /',
    hint: 'Name, date of birth, phone, record number …',
    found: 'What was found',
    noPatient: 'No patient found. Try fewer letters, or a date of birth.',
    more: 'There are more. Type another word, a birth year or the last digits of a phone.',
    former: 'formerly {{name}}',
    born: 'born {{date}}, age {{count}}',
    phone: 'phone ends in {{digits}}',
    last: 'last visit {{date}}',
    next: 'next visit {{date}}',
    group: {
      patients: 'Patients',
      visits: 'Visits',
      people: 'People',
      sites: 'Sites',
      acts: 'Do something',
      pages: 'Pages',
      settings: 'Setup',
      help: 'Help',
    },
    act: {
      register: 'Register a patient',
      addHours: 'Add working hours',
      timeOff: 'Time off',
      closeSite: 'Close a site',
      visitsToMove: 'Visits to move',
      findTime: 'Find a time',
    },
  },
};

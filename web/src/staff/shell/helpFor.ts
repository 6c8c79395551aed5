/** Where the handbook speaks of a screen; the first that the address begins with. */
const HELP: readonly (readonly [screen: string, section: string])[] = [
  ['/setup/site', 'setup#sites'],
  ['/setup/person', 'setup#people'],
  ['/setup/account', 'setup#people'],
  ['/setup/visit-type', 'setup#visit-types'],
  ['/setup/online', 'setup#visit-types'],
  ['/setup/payer', 'setup#payers'],
  ['/setup/field', 'setup#fields-and-questions'],
  ['/setup/roles', 'roles'],
  ['/setup/guide', 'setup#the-order'],
  ['/setup', 'setup#records'],
  ['/availability', 'availability'],
  ['/today', 'daybook#today'],
  ['/identity-review', 'daybook#vestibule'],
  ['/patients/new', 'patients#register'],
  ['/patients', 'patients'],
  ['/outreach', 'outreach'],
  ['/intake', 'intake'],
  ['/simulated-carriers', 'messages'],
  ['/daybook', 'daybook'],
];

/** The address of the help that is about a screen; the handbook's first page where there is none. */
export function helpFor(pathname: string): string {
  const section = HELP.find(([screen]) => pathname === screen || pathname.startsWith(`${screen}/`))?.[1];
  return section ? `/help/${section}` : '/help';
}

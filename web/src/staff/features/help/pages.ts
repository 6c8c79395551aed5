import availability from '../../../../../docs/help/availability.md?raw';
import daybook from '../../../../../docs/help/daybook.md?raw';
import intake from '../../../../../docs/help/intake.md?raw';
import messages from '../../../../../docs/help/messages.md?raw';
import patients from '../../../../../docs/help/patients.md?raw';
import roles from '../../../../../docs/help/roles.md?raw';
import outreach from '../../../../../docs/help/outreach.md?raw';
import setup from '../../../../../docs/help/setup.md?raw';
import type { HelpText } from './sections.ts';

function helpText(id: string, text: string): HelpText {
  return { id, title: /^# (.+)$/m.exec(text)?.[1] ?? id, text };
}

/** The help for who works with Zaguan; what is beside its folder in `docs/` is for who runs or builds it. */
export const PAGES: readonly HelpText[] = [
  helpText('daybook', daybook),
  helpText('patients', patients),
  helpText('outreach', outreach),
  helpText('setup', setup),
  helpText('availability', availability),
  helpText('messages', messages),
  helpText('intake', intake),
  helpText('roles', roles),
];

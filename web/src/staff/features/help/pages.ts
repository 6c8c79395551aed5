import availability from '../../../../../docs/availability.md?raw';
import daybook from '../../../../../docs/daybook.md?raw';
import intake from '../../../../../docs/intake.md?raw';
import messages from '../../../../../docs/messages.md?raw';
import roles from '../../../../../docs/roles.md?raw';
import setup from '../../../../../docs/setup.md?raw';
import type { HelpText } from './sections.ts';

function helpText(id: string, text: string): HelpText {
  return { id, title: /^# (.+)$/m.exec(text)?.[1] ?? id, text };
}

/** The pages of the handbook that concern who works with Zaguan; the others are for who runs or builds it. */
export const PAGES: readonly HelpText[] = [
  helpText('daybook', daybook),
  helpText('setup', setup),
  helpText('availability', availability),
  helpText('messages', messages),
  helpText('intake', intake),
  helpText('roles', roles),
];

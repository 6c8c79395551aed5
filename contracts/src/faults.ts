import type { z } from 'zod';

/**
 * What is wrong with an input, as a code that both the server's refusal and a form's field give words to: the contract's
 * own code where it has one, else one for what Zod found. Never the value that was sent.
 */
export function faultCode(issue: z.core.$ZodIssue): string {
  if (issue.code === 'custom' || /^[a-z][a-z-]*$/.test(issue.message)) return issue.message;
  // A form tells what was there; a request's value is not looked at again.
  if ('input' in issue && (issue.input === null || issue.input === '' || Number.isNaN(issue.input))) return 'needed';
  if (issue.code === 'too_small' && issue.origin === 'string' && Number(issue.minimum) <= 1) return 'needed';
  if (issue.code === 'too_big' && issue.origin === 'string') return 'too-long';
  return issue.code;
}

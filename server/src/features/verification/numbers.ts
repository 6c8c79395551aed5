import parsePhoneNumber from 'libphonenumber-js/max';

/** Numbers that nobody carries with them, or that cost whoever writes to them. */
const NO_PHONES = new Set([
  ...['PREMIUM_RATE', 'SHARED_COST', 'TOLL_FREE', 'PAGER', 'UAN', 'VOICEMAIL', 'PERSONAL_NUMBER'],
  // Of some countries a landline is told from a cell phone; of the United States it is not.
  'FIXED_LINE',
]);

/**
 * Why no code is sent to a number: it belongs to a country the clinic does not write to, or it is of a kind that takes no
 * texts, or dear ones. `null`: it is.
 *
 * @param countries ISO 3166-1 codes
 */
export function whyNoText(e164: string, countries: readonly string[]): 'phone-country' | 'phone-kind' | null {
  const parsed = parsePhoneNumber(e164);
  // Numbers of the fiction range belong to no area that the tables know a type of, but to the North American plan.
  const country = parsed?.country ?? (e164.startsWith('+1') ? 'US' : undefined);
  if (!country || !countries.includes(country)) return 'phone-country';
  return NO_PHONES.has(parsed?.getType() ?? '') ? 'phone-kind' : null;
}

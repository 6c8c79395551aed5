/** What stands before an NPI when its check digit is reckoned: the card issuer prefix for US health applications. */
const PREFIX = '80840';

/**
 * The check digit of the first nine digits of a National Provider Identifier.
 *
 * Source: CMS, "Requirements for NPI and NPI Check Digit": Luhn (ISO/IEC 7812-1) over 80840 and the nine digits.
 *
 * @param nine nine digits; throws `RangeError` for anything else
 */
export function npiCheckDigit(nine: string): string {
  if (!/^\d{9}$/.test(nine)) throw new RangeError('Nine digits are needed.');
  const sum = [...`${PREFIX}${nine}`].reduceRight((total, digit, at, all) => {
    const doubled = (all.length - 1 - at) % 2 === 0 ? Number(digit) * 2 : Number(digit);
    return total + (doubled > 9 ? doubled - 9 : doubled);
  }, 0);
  return String((10 - (sum % 10)) % 10);
}

/** Whether a text is an NPI: ten digits, the first 1 or 2, the last one right. Spaces are not taken away. */
export function isNpi(text: string): boolean {
  return /^[12]\d{9}$/.test(text) && npiCheckDigit(text.slice(0, 9)) === text[9];
}

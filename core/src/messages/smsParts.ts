/** GSM 7-bit default alphabet, 3GPP TS 23.038 section 6.2.1. */
const BASIC = new Set(
  '@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà',
);
/** Extension table, section 6.2.1.1: an escape and a second septet each. */
const EXTENSION = new Set('\f^{}\\[~]|€');

export interface SmsLength {
  readonly alphabet: 'GSM-7' | 'UCS-2';
  /** Septets or UTF-16 units. */
  readonly units: number;
  readonly parts: number;
}

/** 140 octets a message; a concatenated part gives 6 of them to its header (TS 23.040 section 9.2.3.24.1). */
const ROOM = { 'GSM-7': { alone: 160, joined: 153 }, 'UCS-2': { alone: 70, joined: 67 } } as const;

/** Whether all of a text is in the GSM alphabet. */
export function isGsm(text: string): boolean {
  return [...text].every((each) => BASIC.has(each) || EXTENSION.has(each));
}

/**
 * How many text messages a text takes. One character outside the GSM alphabet turns the whole into UCS-2. A part never
 * ends inside an escape pair or a surrogate pair, so a long text may need one part more than its length alone says.
 */
export function smsLength(text: string): SmsLength {
  const characters = [...text];
  const gsm = isGsm(text);
  const alphabet = gsm ? 'GSM-7' : 'UCS-2';
  const sizes = characters.map((each) => (gsm ? (EXTENSION.has(each) ? 2 : 1) : each.length));
  const units = sizes.reduce((sum, size) => sum + size, 0);
  const { alone, joined } = ROOM[alphabet];
  if (units <= alone) return { alphabet, units, parts: 1 };
  let parts = 1;
  let filled = 0;
  for (const size of sizes) {
    if (filled + size > joined) {
      parts++;
      filled = 0;
    }
    filled += size;
  }
  return { alphabet, units, parts };
}

import { hash, verify } from '@node-rs/argon2';

/** Argon2id with 19 MiB, 2 passes, 1 lane: the least that OWASP's Password Storage Cheat Sheet accepts (from memory). */
const OPTIONS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export function hashPassword(password: string): Promise<string> {
  return hash(password, OPTIONS);
}

export function passwordMatches(stored: string, password: string): Promise<boolean> {
  return verify(stored, password);
}

let nobody: Promise<string> | null = null;

/** Takes as long as a real check, so that an unknown e-mail can't be told by the clock. */
export async function imitatePasswordCheck(password: string): Promise<false> {
  nobody ??= hashPassword('nobody has this password');
  await passwordMatches(await nobody, password);
  return false;
}

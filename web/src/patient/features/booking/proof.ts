import { toRequest } from '../../../shared/api/contractApi.ts';
import { proofChallenge } from '../../remotes.ts';

let next: Promise<string | undefined> | null = null;

async function solve(): Promise<string | undefined> {
  const { url, init } = toRequest({ endpoint: proofChallenge, input: {} }, '');
  const answer = await fetch(url, { ...init, credentials: 'same-origin' });
  const { challenge } = (await answer.json()) as { challenge: object };
  const worker = new Worker(new URL('./proof.worker.ts', import.meta.url), { type: 'module' });
  try {
    return await new Promise<string | undefined>((resolve) => {
      worker.onmessage = ({ data }: MessageEvent<string | null>) => resolve(data ?? undefined);
      worker.onerror = () => resolve(undefined);
      worker.postMessage(challenge);
    });
  } finally {
    worker.terminate();
  }
}

/** Begins the work while the patient still chooses; by the time they take one it is done. */
export function prepareProof(): void {
  // Without it the hold is refused with its own words; the next try begins anew.
  next ??= solve().catch(() => undefined);
}

/** Work done now, whatever was prepared: what had run out, or was begun when it was asked for less, opens nothing. */
export async function takeFreshProof(): Promise<string | undefined> {
  next = null;
  return takeProof();
}

/** The finished work, for one hold; the next one is begun at once. */
export async function takeProof(): Promise<string | undefined> {
  prepareProof();
  const proof = (await next) ?? undefined;
  next = null;
  prepareProof();
  return proof;
}

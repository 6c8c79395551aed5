import { type Challenge, solveChallenge } from 'altcha-lib';
import { deriveKey } from 'altcha-lib/algorithms/web/pbkdf2';

/** Works on a puzzle beside the page, so that nothing on it waits. */
self.onmessage = async ({ data: challenge }: MessageEvent<Challenge>) => {
  const solution = await solveChallenge({ challenge, deriveKey }).catch(() => null);
  self.postMessage(solution && btoa(JSON.stringify({ challenge, solution })));
};

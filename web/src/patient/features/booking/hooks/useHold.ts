import type { RequestOf } from '@zaguan/contracts';
import type { Hold, placeHold } from '@zaguan/contracts/booking';
import { useState } from 'react';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { useCountdown } from '../../../../shared/time/useCountdown.ts';
import { bookingApi } from '../booking.api.ts';
import { takeFreshProof, takeProof } from '../proof.ts';

type HoldInput = Omit<RequestOf<typeof placeHold>, 'proof'>;

/** The hold of this page, as the last answer gave it. */
export function useHold(): {
  hold: Hold | null;
  secondsLeft: number;
  place: (requested: HoldInput) => Promise<{ data?: { hold: Hold }; error?: unknown }>;
  placing: boolean;
  error: unknown;
  extend: (id: string) => void;
  reset: () => void;
} {
  const [send, placed] = bookingApi.usePlaceHoldMutation({ fixedCacheKey: 'hold' });
  const [extend, extended] = bookingApi.useExtendHoldMutation({ fixedCacheKey: 'extend' });
  const latest = extended.data && extended.data.hold.id === placed.data?.hold.id ? extended : placed;
  const [kept, setKept] = useState<Hold | null>(null);
  const answered = latest.data?.hold ?? null;
  if (answered && answered !== kept) setKept(answered);
  // While another time is asked for there is no answer; the page goes on showing the last one.
  const hold = answered ?? kept;
  const secondsLeft = useCountdown(answered?.secondsLeft ?? 0, latest.fulfilledTimeStamp ?? 0);
  // The proof takes its time before anything is sent: until then the page must not show the last answer as if it held.
  const [proving, setProving] = useState(false);
  const place = async (requested: HoldInput) => {
    setProving(true);
    try {
      const first = await send({ ...requested, proof: await takeProof() });
      // A proof may have run out while the page lay open, or more is asked by now; a fresh one is made unseen.
      return apiError(first.error)?.tag === 'ProofNeeded'
        ? await send({ ...requested, proof: await takeFreshProof() })
        : first;
    } finally {
      setProving(false);
    }
  };
  return {
    hold,
    secondsLeft,
    place,
    placing: proving || placed.isLoading,
    error: placed.error,
    extend: (id) => void extend({ id }),
    reset: () => {
      placed.reset();
      extended.reset();
    },
  };
}

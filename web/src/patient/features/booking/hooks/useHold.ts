import type { RequestOf } from '@zaguan/contracts';
import type { Hold, placeHold } from '@zaguan/contracts/booking';
import { useState } from 'react';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { useCountdown } from '../../../../shared/time/useCountdown.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { choices } from '../choices.slice.ts';
import { takeFreshProof, takeProof } from '../proof.ts';

type HoldInput = Omit<RequestOf<typeof placeHold>, 'proof'>;

/** The time that is kept for this browser, as the last answer gave it: also after a reload, for the hold is the browser's. */
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
  const [extend] = bookingApi.useExtendHoldMutation();
  const dispatch = useAppDispatch();
  const held = useAppSelector((state) => state.choices.held);
  const keep = <Answer extends { data?: { hold: Hold } }>(answer: Answer): Answer => {
    if (answer.data) dispatch(choices.actions.held({ hold: answer.data.hold, at: Date.now() }));
    return answer;
  };
  // The proof takes its time before anything is sent: until then the page must not show the last answer as if it held.
  const [proving, setProving] = useState(false);
  const placing = proving || placed.isLoading;
  const left = useCountdown(held?.hold.secondsLeft ?? 0, held?.at ?? 0);
  const place = async (requested: HoldInput) => {
    setProving(true);
    try {
      const first = await send({ ...requested, proof: await takeProof() });
      // A proof may have run out while the page lay open, or more is asked by now; a fresh one is made unseen.
      return keep(
        apiError(first.error)?.tag === 'ProofNeeded'
          ? await send({ ...requested, proof: await takeFreshProof() })
          : first,
      );
    } finally {
      setProving(false);
    }
  };
  return {
    hold: held?.hold ?? null,
    // While another time is asked for, the last one is shown and not counted.
    secondsLeft: placing ? 0 : left,
    place,
    placing,
    error: placed.error,
    extend: (id) => void extend({ id }).then(keep),
    reset: () => {
      dispatch(choices.actions.held(null));
      placed.reset();
    },
  };
}

import { MIN_WAIVE_REASON } from '@zaguan/contracts/booking';
import type { OutputOf } from '@zaguan/contracts';
import type { bookAtDesk, contextOfPatient } from '@zaguan/contracts/desk';
import type { Code } from '@zaguan/core/openings';
import type { GroupKind } from '@zaguan/core/visits';
import { type RefObject, useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { TextField, TickField } from '../../../shared/ui/inputs.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { bookingApi } from './booking.api.ts';
import { bookingOf, type ChosenTime, type Flow, visitsOf, type Wanted } from './flow.ts';
import { Held, Refused } from './Held.tsx';
import type { SetFlow } from './useFlow.ts';
import { useNames } from './useNames.ts';

export type Booked = OutputOf<typeof bookAtDesk>;

interface Props {
  readonly flow: Flow;
  readonly set: SetFlow;
  readonly wanted: Wanted;
  readonly kind: GroupKind | null;
  readonly context: OutputOf<typeof contextOfPatient>['context'];
  /** A time was pressed here: the next key books it. */
  readonly isPressed: RefObject<boolean>;
  readonly onBooked: (booked: Booked) => void;
}

/** The chosen time, or times: what they would break, that they are kept, and the button that books them. */
export function Settle({ flow, set, wanted, kind, context, isPressed, onBooked }: Props) {
  const { t } = useTranslation();
  const { whenOf } = useNames();
  const [book, booking] = bookingApi.useBookMutation();
  const visits = visitsOf(flow, wanted, kind);
  const check = bookingApi.useCheckQuery({ visits, flowId: flow.flowId } as never, { skip: !visits.length });
  const judged = visits.length ? check.currentData?.visits : [];
  const isJudged = Boolean(judged);
  const broken = (judged ?? []).map((each) => each.broken.map(({ code }) => code));
  const codes = [...new Set(broken.flat())];
  const mayWaive = (judged ?? []).every((each) => each.broken.every((one) => one.mayWaive));
  const box = useRef<HTMLElement>(null);
  const isAgainst = codes.length > 0;
  // Brought into sight at once, not when the server has answered: what is pressed meanwhile must not slip away.
  const chosen = JSON.stringify(visits);
  // biome-ignore lint/correctness/useExhaustiveDependencies: at each choice
  useEffect(() => {
    if (isPressed.current) box.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen, isPressed]);
  // Once it can be pressed, the button has the focus; where a reason is asked first, its field, which is new.
  useEffect(() => {
    if (!isJudged || !isPressed.current) return;
    isPressed.current = false;
    const next = box.current?.querySelector<HTMLElement>('[name="because"], [data-book]:enabled');
    next?.focus({ preventScroll: true });
    if (isAgainst) box.current?.scrollIntoView({ block: 'nearest' });
  }, [isJudged, isAgainst, isPressed]);
  const refused = apiError(booking.error);
  const onChoose = (at: number, time: ChosenTime) => {
    isPressed.current = true;
    set(kind === null ? { time } : { group: changedAt(flow, at, time) });
  };
  const askedBy = (patientId: string) => whoAsks(context, flow.askedBy, patientId);
  const onBook = async () => {
    const { data } = await book(bookingOf(flow, wanted, kind, { broken, askedBy }) as never);
    if (data) onBooked(data);
  };
  const isWaiting = codes.length > 0 && (!mayWaive || flow.because.trim().length < MIN_WAIVE_REASON);
  return (
    <section
      ref={box}
      aria-label={t('book.settle')}
      className="flex scroll-mb-16 flex-col gap-2 border-t border-line pt-3"
    >
      {codes.length > 0 && (
        <Against broken={broken} times={visits.map(whenOf)} mayWaive={mayWaive} flow={flow} set={set} />
      )}
      {refused && <Refused refused={refused} asked={visits} tone="danger" onChoose={onChoose} />}
      <Button
        look="primary"
        data-book
        disabled={booking.isLoading || !isJudged || isWaiting}
        onClick={() => void onBook()}
      >
        {kind === null && flow.time
          ? t('book.book', { when: whenOf(flow.time) })
          : t(visits.length ? 'book.bookAll' : 'book.benchAll', { count: visits.length })}
      </Button>
      {isJudged && codes.length === 0 && visits.length > 0 && (
        <Held flowId={flow.flowId} asked={visits} onChoose={onChoose} />
      )}
    </section>
  );
}

/** Who asks for one of the household: whoever asks for the first, if they may; else somebody who may; an adult for themselves. */
function whoAsks({ patient, mayBook, household }: Props['context'], askedBy: string, patientId: string): string | null {
  const asking = mayBook.find(({ id }) => id === askedBy) ?? mayBook[0];
  if (patientId === patient.id) return patient.isMinor ? (asking?.id ?? null) : null;
  const may = household.find(({ id }) => id === patientId)?.mayBook ?? [];
  const name = patient.isMinor ? asking?.name : patient.name;
  return (may.find((each) => each.name === name) ?? may[0])?.id ?? null;
}

/** The chosen times with another one for the visit at this place among those that are to be booked. */
function changedAt({ group }: Flow, at: number, time: ChosenTime): Flow['group'] {
  const places = (group ?? []).flatMap(({ toBench }, i) => (toBench ? [] : [i]));
  return (group ?? []).map((visit, i) => (i === places[at] ? { ...visit, ...time } : visit));
}

/** The rules times break, and why they are booked all the same. */
function Against({
  broken,
  times,
  mayWaive,
  flow,
  set,
}: {
  broken: readonly (readonly Code[])[];
  times: readonly string[];
  mayWaive: boolean;
  flow: Flow;
  set: SetFlow;
}) {
  const { t } = useTranslation();
  const all = broken.flat();
  return (
    <>
      <Notice tone="warning">
        <p className="font-bold">{t('book.against')}</p>
        <ul>
          {broken.flatMap((codes, at) =>
            codes.map((code) => (
              <li key={`${times[at]} ${code}`}>
                {times.length > 1 && <b>{times[at]}: </b>}
                {t(`whyNot.code.${code}`)}
              </li>
            )),
          )}
        </ul>
        {!mayWaive && <p>{t('book.cannotWaive')}</p>}
      </Notice>
      {(all.includes('referral-needed') || flow.hasReferral) && (
        <TickField checked={flow.hasReferral} onChange={(event) => set({ hasReferral: event.target.checked })}>
          {t('book.hasReferral')}
        </TickField>
      )}
      {(all.includes('authorization-needed') || flow.hasAuthorization) && (
        <TickField
          checked={flow.hasAuthorization}
          onChange={(event) => set({ hasAuthorization: event.target.checked })}
        >
          {t('book.hasAuthorization')}
        </TickField>
      )}
      {mayWaive && (
        <TextField
          label={t('book.because')}
          name="because"
          maxLength={200}
          value={flow.because}
          onChange={(event) => set({ because: event.target.value })}
        />
      )}
    </>
  );
}

import type { TFunction } from 'i18next';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { dateAt } from '../../../shared/time/format.ts';
import { KeptTyping, Resumed } from '../../forms/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { bookingApi } from './booking.api.ts';
import { boundsOf, type Flow, groupKindOf, type Wanted, wantedOf } from './flow.ts';
import { Group } from './Group.tsx';
import { More } from './More.tsx';
import { type Booked, Settle } from './Settle.tsx';
import { Together } from './Together.tsx';
import { type FlowStart, useFlow } from './useFlow.ts';
import { useLitTimes } from './useLitTimes.ts';
import { useNames } from './useNames.ts';
import { SELF, What } from './What.tsx';
import { When } from './When.tsx';
import { Who } from './Who.tsx';

interface Props extends FlowStart {
  /** The date that is looked at: times are looked for from it on. */
  readonly date: string;
  /** The site that is looked at; `null`: all. */
  readonly siteId: string | null;
  readonly onBooked: (booked: Booked) => void;
}

/** Books a visit: who, what and when in any order, one panel beside the Daybook. */
export function BookPanel(props: Props) {
  const { time, found } = props;
  const at = time ? `${time.siteId} ${time.providerId} ${time.start}` : '';
  const times = found?.group?.map(({ start, patientId }) => `${patientId} ${start}`).join() ?? '';
  return (
    <KeptTyping as={`book ${props.patientId ?? ''} ${props.use ?? ''} ${at}${times}`}>
      <Booking {...props} />
    </KeptTyping>
  );
}

function Booking({ date, siteId, onBooked, ...start }: Props) {
  const { t } = useTranslation();
  const { flow, set, forget } = useFlow(start);
  const { clinic, whenOf } = useNames();
  const undoToast = useUndoToast();
  const box = useRef<HTMLDivElement>(null);
  const context = useContextOf(flow.patientId);
  const type = bookingApi.useTypeQuery({ id: flow.visitTypeId as never }, { skip: !flow.visitTypeId }).currentData;
  const wanted = context && wantedWith(flow, context.patient.payerId);
  const today = clinic ? dateAt(clinic.now, clinic.sites[0]?.timeZone ?? 'UTC') : date;
  const focusOn = useFocusIn(box);
  useFirstFocus(flow, focusOn);
  useProposalKeys(box);
  // A time that was pressed here is to be booked by the next key; one that was brought along waits for who and what.
  const isPressed = useRef(false);
  const choose = (change: Partial<Flow>) => {
    isPressed.current = true;
    set(change);
  };
  const kind = groupKindOf(flow, type?.follows ?? []);
  // The proposals come first; what lights up beside them may come a moment later.
  const [proposedFor, setProposedFor] = useState<string | null>(null);
  const what = JSON.stringify(wanted ?? null);
  const onProposed = useCallback(() => setProposedFor(what), [what]);
  const isLit = wanted && kind === null && proposedFor === what;
  // Several visits get their times in the panel, one by one.
  useLitTimes(flow.flowId, isLit ? wanted : null, (time) => kind === null && choose({ time }));
  const request = context?.requests.find(({ id }) => id === flow.requestId);
  const from = date < today ? today : date;
  const isChosen = kind === null ? flow.time !== null : flow.group !== null;
  return (
    <div ref={box} data-testid="book" className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">{t('book.title')}</h2>
      <Resumed />
      <Who flow={flow} set={set} use={start.use ?? null} />
      <What {...{ clinic, type, flow, set, focusOn }} payerId={context?.patient.payerId ?? null} />
      {context && wanted && (
        <More household={context.household} visitTypes={clinic?.visitTypes ?? []} flow={flow} set={set} />
      )}
      {wanted && kind === null && (
        <When
          {...{ flow, wanted, onProposed }}
          bounds={boundsOf(from, request)}
          isSettled={type !== undefined}
          onChoose={(time) => choose({ time })}
        />
      )}
      {context && wanted && type && kind !== null && (
        <Together {...{ flow, wanted, context, from, siteId }} onChoose={(group) => choose({ group })} />
      )}
      {context && wanted && kind !== null && flow.group && (
        <Group {...{ flow, wanted, context }} group={flow.group} onChange={(group) => set({ group })} />
      )}
      {context && wanted && type && isChosen && (
        <Settle
          {...{ flow, set, wanted, kind, context, isPressed }}
          onBooked={(booked) => {
            forget();
            const [first] = booked.visits;
            undoToast(bookedWords(t, booked, first && whenOf(first)), booked.undo.id);
            onBooked(booked);
          }}
        />
      )}
      {!wanted && flow.time && <p className="text-muted">{t('book.timeChosen', { when: whenOf(flow.time) })}</p>}
    </div>
  );
}

function bookedWords(t: TFunction, { visits }: Booked, when: string | undefined): string {
  if (!when) return t('book.benched');
  return visits.length === 1 ? t('book.booked', { when }) : t('book.bookedAll', { count: visits.length, when });
}

function useContextOf(patientId: string | null) {
  return bookingApi.useContextQuery({ id: patientId as never }, { skip: patientId === null }).currentData?.context;
}

/** With who pays as it was said last, unless it is said otherwise now. */
function wantedWith(flow: Flow, knownPayerId: string | null): Wanted | null {
  const payerId = flow.payerId || knownPayerId || SELF;
  return wantedOf({ ...flow, payerId: payerId === SELF ? '' : payerId });
}

/** Who, then what; a found time that brings both along asks for the reason. */
function useFirstFocus({ patientId, visitTypeId }: Flow, focusOn: (selector: string) => void): void {
  const brought = useRef(patientId !== null && visitTypeId !== '');
  const isKnown = patientId !== null;
  useEffect(() => {
    focusOn(!isKnown ? 'input' : brought.current ? 'input[name="reason"]' : 'select[name="visitType"]');
  }, [focusOn, isKnown]);
}

/** How long somebody waits for what they asked to go to. */
const FOCUS_WAIT_MS = 3000;

/** Leads the keyboard to something in the box, once it is there and can be pressed; not after somebody has gone elsewhere. */
function useFocusIn(box: RefObject<HTMLElement | null>): (selector: string) => void {
  return useCallback(
    (selector) => {
      const [from, until] = [document.activeElement, Date.now() + FOCUS_WAIT_MS];
      const attempt = () => {
        const found = box.current?.querySelector<HTMLElement>(selector);
        const isElsewhere = document.activeElement !== from && document.activeElement !== document.body;
        if (found && !found.matches(':disabled')) found.focus();
        else if (!isElsewhere && Date.now() < until) setTimeout(attempt, 40);
      };
      setTimeout(attempt);
    },
    [box],
  );
}

/** The figure beside a proposal chooses it, wherever nothing is typed. */
function useProposalKeys(box: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const pressed = ({ target, key, ctrlKey, metaKey, altKey }: KeyboardEvent) => {
      const isTyping =
        target instanceof Element && target.closest('input:not([type="checkbox"], [type="radio"]), textarea, select');
      if (isTyping || ctrlKey || metaKey || altKey || !/^[1-9]$/.test(key)) return;
      box.current?.querySelector<HTMLElement>(`[data-proposal="${key}"]`)?.click();
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, [box]);
}

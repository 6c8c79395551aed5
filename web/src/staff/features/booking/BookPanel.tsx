import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import type { Code } from '@zaguan/core/openings';
import { type RefObject, useCallback, useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { dateAt, formatPhone, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { SelectField, TextField } from '../../../shared/ui/inputs.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { KeptTyping, Resumed } from '../../forms/index.ts';
import { accountsApi } from '../accounts/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { bookingApi } from './booking.api.ts';
import { Held } from './Held.tsx';
import { Nearest } from './Nearest.tsx';
import { type ChosenTime, type Flow, type FlowStart, useFlow } from './useFlow.ts';
import { type Wanted, wantedOf } from './wanted.ts';
import { When } from './When.tsx';
import { Who } from './Who.tsx';

interface Props extends FlowStart {
  /** The date that is looked at: times are looked for from it on. */
  readonly date: string;
  readonly onClose: () => void;
}

/** Books a visit: who, what and when in any order, one panel beside the Daybook. */
export function BookPanel(props: Props) {
  const { time } = props;
  return (
    <KeptTyping
      as={`book ${props.patientId ?? ''} ${props.use ?? ''} ${time ? `${time.siteId} ${time.providerId} ${time.start}` : ''}`}
    >
      <Booking {...props} />
    </KeptTyping>
  );
}

function Booking({ date, onClose, ...start }: Props) {
  const { t } = useTranslation();
  const { flow, set, forget } = useFlow(start);
  const { data: clinic } = accountsApi.useClinicQuery({});
  const box = useRef<HTMLDivElement>(null);
  const wanted = wantedOf(flow);
  const today = clinic ? dateAt(clinic.now, clinic.sites[0]?.timeZone ?? 'UTC') : date;
  const focusOn = useCallback(
    (selector: string) => void setTimeout(() => box.current?.querySelector<HTMLElement>(selector)?.focus()),
    [],
  );
  const isKnown = flow.patientId !== null;
  useEffect(() => {
    focusOn(isKnown ? 'select[name="visitType"]' : 'input');
  }, [focusOn, isKnown]);
  useProposalKeys(box);
  // A time that was pressed here is to be booked by the next key; one that was brought along waits for who and what.
  const isPressed = useRef(false);
  const choose = (time: ChosenTime) => {
    isPressed.current = true;
    set({ time });
  };
  return (
    <div ref={box} data-testid="book" className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">{t('book.title')}</h2>
      <Resumed />
      <Who flow={flow} set={set} use={start.use ?? null} />
      <SelectField
        label={t('book.what')}
        name="visitType"
        value={flow.visitTypeId}
        none={t('book.chooseType')}
        options={clinic?.visitTypes ?? []}
        onChange={(event) => set({ visitTypeId: event.target.value })}
        onKeyDown={(event) => event.key === 'Enter' && focusOn('input[name="reason"]')}
      />
      <TextField
        label={t('book.reason')}
        name="reason"
        maxLength={500}
        value={flow.reason}
        onChange={(event) => set({ reason: event.target.value })}
        onKeyDown={(event) => event.key === 'Enter' && focusOn(flow.time ? '[data-book]' : '[data-proposal="1"]')}
      />
      {wanted && <When flow={flow} wanted={wanted} from={date < today ? today : date} onChoose={choose} />}
      {wanted && flow.time && (
        <Settle
          flow={flow}
          set={set}
          wanted={wanted}
          time={flow.time}
          isPressed={isPressed}
          onChoose={choose}
          onBooked={() => {
            forget();
            onClose();
          }}
        />
      )}
      {!wanted && flow.time && (
        <p className="text-muted">{t('book.timeChosen', { when: whenOf(flow.time, clinic) })}</p>
      )}
    </div>
  );
}

/** The figure beside a proposal chooses it, wherever nothing is typed. */
function useProposalKeys(box: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const pressed = ({ target, key, ctrlKey, metaKey, altKey }: KeyboardEvent) => {
      const isTyping = target instanceof Element && target.closest('input, textarea, select');
      if (isTyping || ctrlKey || metaKey || altKey || !/^[1-9]$/.test(key)) return;
      box.current?.querySelector<HTMLElement>(`[data-proposal="${key}"]`)?.click();
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, [box]);
}

type Clinic = OutputOf<typeof staffClinic> | undefined;

function whenOf({ siteId, start }: ChosenTime, clinic: Clinic): string {
  const site = clinic?.sites.find(({ id }) => id === siteId);
  const zone = site?.timeZone ?? 'UTC';
  return `${shortDate(dateAt(start, zone))}, ${timeOf(start, zone)}`;
}

/** The chosen time: what it would break, that it is kept, and the button that books it. */
function Settle({
  flow,
  set,
  wanted,
  time,
  isPressed,
  onChoose,
  onBooked,
}: {
  flow: Flow;
  set: (change: Partial<Flow>) => void;
  wanted: Wanted;
  time: ChosenTime;
  isPressed: RefObject<boolean>;
  onChoose: (time: ChosenTime) => void;
  onBooked: () => void;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const undoToast = useUndoToast();
  const [book, booking] = bookingApi.useBookMutation();
  const asked = { ...wanted, ...time };
  const check = bookingApi.useCheckQuery({ ...asked, flowId: flow.flowId } as never);
  const context = bookingApi.useContextQuery({ id: wanted.patientId as never }).currentData?.context;
  const broken = check.currentData?.broken ?? [];
  const mayWaive = broken.every((each) => each.mayWaive);
  const box = useRef<HTMLElement>(null);
  const isJudged = Boolean(check.currentData);
  // Once it can be pressed, the button has the focus; where a reason is asked first, its field.
  useEffect(() => {
    if (!isJudged || !isPressed.current) return;
    isPressed.current = false;
    box.current?.querySelector<HTMLElement>('input, button:enabled')?.focus();
    box.current?.scrollIntoView({ block: 'nearest' });
  }, [isJudged, isPressed]);
  const refused = apiError(booking.error);
  const when = whenOf(time, clinic);
  const askedBy = context?.patient.isMinor ? flow.askedBy || (context.mayBook[0]?.id ?? null) : null;
  const onBook = async () => {
    const visit = {
      ...asked,
      reason: flow.reason,
      waive: broken.length ? { codes: broken.map(({ code }) => code), reason: flow.because } : null,
      ...{ askedBy, requestId: flow.requestId, unplacedId: flow.unplacedId },
    };
    const { data } = await book({ key: flow.key, flowId: flow.flowId, group: null, visits: [visit] } as never);
    if (!data) return;
    const { told } = data.visits[0];
    const words = told
      ? t('book.told', {
          contact: told.contact.startsWith('+') ? formatPhone(told.contact) : told.contact,
          language: t(`book.in.${told.language}`),
          count: told.reminders,
        })
      : t('book.toldNothing');
    onBooked();
    undoToast(t('book.booked', { when }), data.undo.id, [words]);
  };
  return (
    <section
      ref={box}
      aria-label={t('book.settle')}
      className="flex scroll-mb-16 flex-col gap-2 border-t border-line pt-3"
    >
      {broken.length > 0 && (
        <Against codes={broken.map(({ code }) => code)} mayWaive={mayWaive} flow={flow} set={set} />
      )}
      {refused && (
        <Notice tone="danger" live="assertive">
          <p>{t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}</p>
          <Nearest times={refused.nearest ?? []} siteId={time.siteId} onChoose={onChoose} />
        </Notice>
      )}
      <Button
        look="primary"
        data-book
        disabled={
          booking.isLoading ||
          !check.currentData ||
          (broken.length > 0 && (!mayWaive || flow.because.trim().length < 3))
        }
        onClick={() => void onBook()}
      >
        {t('book.book', { when })}
      </Button>
      {check.currentData && broken.length === 0 && <Held flowId={flow.flowId} asked={asked} onChoose={onChoose} />}
    </section>
  );
}

/** The rules a time breaks, and why it is booked all the same. */
function Against({
  codes,
  mayWaive,
  flow,
  set,
}: {
  codes: readonly Code[];
  mayWaive: boolean;
  flow: Flow;
  set: (change: Partial<Flow>) => void;
}) {
  const { t } = useTranslation();
  return (
    <>
      <Notice tone="warning">
        <p className="font-bold">{t('book.against')}</p>
        <ul>
          {codes.map((code) => (
            <li key={code}>{t(`whyNot.code.${code}`)}</li>
          ))}
        </ul>
        {!mayWaive && <p>{t('book.cannotWaive')}</p>}
      </Notice>
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

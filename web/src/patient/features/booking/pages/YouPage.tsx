import type { OutputOf } from '@zaguan/contracts';
import type { publicClinic } from '@zaguan/contracts/clinic';
import { type Hold, personFaults } from '@zaguan/contracts/booking';
import { readBirthDate } from '@zaguan/core/patients';
import { type ReactNode, useMemo } from 'react';
import { type Resolver, useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Navigate } from 'react-router';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, formatDate, timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { CodeStep } from '../components/CodeStep.tsx';
import { HoldBar } from '../components/HoldBar.tsx';
import { Loaded } from '../components/Loaded.tsx';
import { PersonFields } from '../components/PersonFields.tsx';
import { Step } from '../components/Step.tsx';
import { questionFaults, Questions, useMissingAnswers } from '../components/Questions.tsx';
import { TakenNotice } from '../components/TakenNotice.tsx';
import { useHold } from '../hooks/useHold.ts';
import { useLanguage } from '../hooks/useLanguage.ts';
import { usePaid } from '../hooks/usePaid.ts';
import { useTrail } from '../hooks/useTrail.ts';
import { type TypedPerson, choices } from '../choices.slice.ts';

type Clinic = OutputOf<typeof publicClinic>;

/** Who is coming. The time is kept meanwhile; whatever happens to it, what was typed stays. */
export function YouPage() {
  const { t } = useTranslation();
  const language = useLanguage();
  const trail = useTrail();
  const query = bookingApi.useClinicQuery({ language });
  const { hold } = useHold();
  const { kind, booked } = useAppSelector((state) => state.choices);
  if (booked) return <Navigate to="/done" replace />;
  if (!hold || !kind) return <Navigate to="/when" replace />;
  return (
    <Step question={t('you.question')} trail={trail}>
      {/* No time can be said before it is known in which zone its site is. */}
      <Loaded query={{ ...query, currentData: query.data }}>
        {(known) => <You clinic={known} hold={hold} kind={kind} />}
      </Loaded>
    </Step>
  );
}

function You({ clinic: { sites, now }, hold, kind }: { clinic: Clinic; hold: Hold; kind: 'new' | 'established' }) {
  const { t } = useTranslation();
  const language = useLanguage();
  const dispatch = useAppDispatch();
  const paid = usePaid();
  const { typed, by, answers } = useAppSelector((state) => state.choices);
  const missing = useMissingAnswers();
  const { secondsLeft, place, placing, error: holdError, extend } = useHold();
  const [book, booking] = bookingApi.useBookMutation({ fixedCacheKey: 'book' });
  const zone = sites.find((site) => site.id === hold.siteId)?.timeZone ?? sites[0].timeZone;
  const today = dateAt(now, zone);
  const order = language === 'es' ? 'day-first' : 'month-first';
  const form = useForm<TypedPerson>({
    defaultValues: typed,
    mode: 'onBlur',
    resolver: useMemo(() => resolver(order, today, by), [order, today, by]),
  });
  const requested = {
    siteId: hold.siteId,
    visitTypeId: hold.visitTypeId,
    providerId: hold.providerId,
    start: hold.start,
    kind,
    ...paid,
  };
  const submit = form.handleSubmit(async (values) => {
    if (missing) return;
    const read = readBirthDate(values.birthDate, order, today);
    if (!read.ok) return;
    const result = await book({
      holdId: hold.id,
      requested,
      language,
      person: { ...values, birthDate: read.date },
      answers,
    });
    if (result.data) dispatch(choices.actions.booked(result.data.visit));
  });
  const take = (start: string, providerId: string | null) => {
    booking.reset();
    void place({ ...requested, start, providerId });
  };
  const answer = apiError(booking.error);
  const needsCode = answer?.tag === 'NotVerified';
  const refused = (needsCode ? null : answer) ?? apiError(holdError);
  const gone = secondsLeft === 0 && !refused && !placing;
  return (
    <>
      <HeldTime hold={hold} zone={zone} placing={placing}>
        {!gone && !refused && !placing && (
          <HoldBar secondsLeft={secondsLeft} mayExtend={hold.mayExtend} onExtend={() => extend(hold.id)} />
        )}
      </HeldTime>
      <div className="mb-4 flex flex-col gap-3 empty:hidden">
        {refused && !placing && !booking.isLoading && <TakenNotice error={refused} timeZone={zone} onTake={take} />}
        {gone && <Gone onAgain={() => take(hold.start, hold.providerId)} />}
      </div>
      {needsCode && (
        <CodeStep
          contact={form.getValues('contact')}
          onVerified={() => void submit()}
          onChangeNumber={() => booking.reset()}
        />
      )}
      <form
        noValidate
        hidden={needsCode}
        className="flex flex-col gap-4 [&[hidden]]:hidden"
        onSubmit={(event) => void submit(event)}
      >
        <PersonFields form={form} today={today} />
        <Questions faults={questionFaults(answer?.issues)} checked={form.formState.submitCount > 0} />
        <Button
          look="accent"
          type="submit"
          className="min-h-12 text-lg"
          disabled={booking.isLoading || gone || placing}
        >
          {booking.isLoading ? t('you.booking') : t('you.book')}
        </Button>
      </form>
    </>
  );
}

/** The time that is kept, and how long it is. */
function HeldTime(props: { hold: Hold; zone: string; placing: boolean; children: ReactNode }) {
  const { t } = useTranslation();
  const language = useLanguage();
  const { start } = props.hold;
  return (
    <div className="mb-4 rounded-md bg-accent-subtle px-4 py-3">
      {props.placing ? (
        <p role="status">{t('you.keeping')}</p>
      ) : (
        <p className="text-lg font-bold" data-testid="held-time">
          {formatDate(dateAt(start, props.zone), language)}, {timeOf(start, props.zone, language)}
        </p>
      )}
      {props.children}
    </div>
  );
}

/** The time was released; it may still be free. */
function Gone({ onAgain }: { onAgain: () => void }) {
  const { t } = useTranslation();
  return (
    <Notice tone="warning" live="assertive">
      <p>{t('you.gone')}</p>
      <Button look="accent" className="mt-2 min-h-11" onClick={onAgain}>
        {t('you.again')}
      </Button>
    </Notice>
  );
}

/** The contract's own rules, each field's first fault. */
function resolver(order: 'month-first' | 'day-first', today: string, by: 'phone' | 'email'): Resolver<TypedPerson> {
  return (values) => {
    const found = personFaults(values, order, today);
    // Something without an at sign reads as a number; whoever was asked for an address hears about that.
    if (by === 'email' && found.contact) found.contact = values.contact.trim() ? 'email-not-an-address' : 'email-empty';
    const faults = Object.entries(found);
    return faults.length
      ? {
          values: {},
          errors: Object.fromEntries(faults.map(([field, message]) => [field, { type: 'contract', message }])),
        }
      : { values, errors: {} };
  };
}

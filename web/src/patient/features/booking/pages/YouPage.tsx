import { MAX_NAME_LENGTH, personFaults } from '@zaguan/contracts/booking';
import { readBirthDate } from '@zaguan/core/patients';
import { useMemo } from 'react';
import { Controller, type Resolver, useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Navigate } from 'react-router';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, formatDate, timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { BirthDateField } from '../components/BirthDateField.tsx';
import { CodeStep } from '../components/CodeStep.tsx';
import { HoldBar } from '../components/HoldBar.tsx';
import { Step } from '../components/Step.tsx';
import { questionFaults, Questions, useMissingAnswers } from '../components/Questions.tsx';
import { TakenNotice } from '../components/TakenNotice.tsx';
import { CommonReasons } from '../components/CommonReasons.tsx';
import { useHold } from '../hooks/useHold.ts';
import { useLanguage } from '../hooks/useLanguage.ts';
import { usePaid } from '../hooks/usePaid.ts';
import { useTrail } from '../hooks/useTrail.ts';
import { type TypedPerson, choices } from '../choices.slice.ts';

/** Who is coming. The time is kept meanwhile; whatever happens to it, what was typed stays. */
export function YouPage() {
  const { t } = useTranslation();
  const language = useLanguage();
  const trail = useTrail();
  const dispatch = useAppDispatch();
  const paid = usePaid();
  const { kind, typed, by, answers, booked } = useAppSelector((state) => state.choices);
  const missing = useMissingAnswers();
  const { hold, secondsLeft, place, placing, error: holdError, extend } = useHold();
  const [book, booking] = bookingApi.useBookMutation({ fixedCacheKey: 'book' });
  const { data: clinic } = bookingApi.useClinicQuery({ language });
  const zone = clinic?.sites.find((site) => site.id === hold?.siteId)?.timeZone ?? 'UTC';
  const today = dateAt(clinic?.now ?? new Date().toISOString(), zone);
  const order = language === 'es' ? 'day-first' : 'month-first';
  const form = useForm<TypedPerson>({
    defaultValues: typed,
    mode: 'onBlur',
    resolver: useMemo(() => resolver(order, today, by), [order, today, by]),
  });
  if (booked) return <Navigate to="/done" replace />;
  if (!hold || !kind) return <Navigate to="/when" replace />;

  const requested = {
    siteId: hold.siteId,
    visitTypeId: hold.visitTypeId,
    providerId: hold.providerId,
    start: hold.start,
    kind,
    ...paid,
  };
  const keep = (field: keyof TypedPerson) => dispatch(choices.actions.typed({ [field]: form.getValues(field) }));
  const fault = (field: keyof TypedPerson) => {
    const code = form.formState.errors[field]?.message;
    return code ? codeWords(t, 'fault', code, { max: MAX_NAME_LENGTH }, t('fault.unusable')) : undefined;
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
    <Step question={t('you.question')} trail={trail}>
      <div className="mb-4 rounded-md bg-accent-subtle px-4 py-3">
        {placing ? (
          <p role="status">{t('you.keeping')}</p>
        ) : (
          <p className="text-lg font-bold" data-testid="held-time">
            {formatDate(dateAt(hold.start, zone), language)}, {timeOf(hold.start, zone, language)}
          </p>
        )}
        {!gone && !refused && !placing && (
          <HoldBar secondsLeft={secondsLeft} mayExtend={hold.mayExtend} onExtend={() => extend(hold.id)} />
        )}
      </div>
      <div className="mb-4 flex flex-col gap-3 empty:hidden">
        {refused && !placing && !booking.isLoading && <TakenNotice error={refused} timeZone={zone} onTake={take} />}
        {gone && (
          <Notice tone="warning" live="assertive">
            <p>{t('you.gone')}</p>
            <Button look="accent" className="mt-2 min-h-11" onClick={() => take(hold.start, hold.providerId)}>
              {t('you.again')}
            </Button>
          </Notice>
        )}
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
        <div>
          <div className="grid grid-cols-2 gap-3">
            <Field label={t('you.given')} error={fault('givenName')}>
              {(controlProps) => (
                <input
                  {...controlProps}
                  autoComplete="given-name"
                  className={`${CONTROL} min-h-11`}
                  {...form.register('givenName', { onBlur: () => keep('givenName') })}
                />
              )}
            </Field>
            <Field label={t('you.family')} error={fault('familyName')}>
              {(controlProps) => (
                <input
                  {...controlProps}
                  autoComplete="family-name"
                  className={`${CONTROL} min-h-11`}
                  {...form.register('familyName', { onBlur: () => keep('familyName') })}
                />
              )}
            </Field>
          </div>
          <p className="mt-1 text-muted">{t('you.oneName')}</p>
        </div>
        <Controller
          control={form.control}
          name="birthDate"
          render={({ field }) => (
            <BirthDateField
              value={field.value}
              today={today}
              error={fault('birthDate')}
              onChange={(text) => {
                field.onChange(text);
                dispatch(choices.actions.typed({ birthDate: text }));
                if (form.formState.errors.birthDate) void form.trigger('birthDate');
              }}
              onBlur={field.onBlur}
            />
          )}
        />
        <div className="flex flex-col items-start gap-1 [&>:first-child]:w-full">
          <Field
            key={by}
            label={t(`you.${by}`)}
            required={t('required')}
            hint={t(`you.${by}Hint`)}
            error={fault('contact')}
          >
            {(controlProps) => (
              <input
                {...controlProps}
                type={by === 'email' ? 'email' : 'tel'}
                autoComplete={by === 'email' ? 'email' : 'tel'}
                className={`${CONTROL} min-h-11`}
                {...form.register('contact', { onBlur: () => keep('contact') })}
              />
            )}
          </Field>
          <button
            type="button"
            className="min-h-11 underline"
            onClick={() => {
              dispatch(choices.actions.choseWay(by === 'phone' ? 'email' : 'phone'));
              form.setValue('contact', '');
              form.clearErrors('contact');
            }}
          >
            {t(by === 'phone' ? 'you.noPhone' : 'you.havePhone')}
          </button>
        </div>
        <Field label={t('you.reason')} required={t('optional')} hint={t('you.reasonHint')} error={fault('reason')}>
          {(controlProps) => (
            <textarea
              {...controlProps}
              rows={3}
              className={CONTROL}
              {...form.register('reason', { onBlur: () => keep('reason') })}
            />
          )}
        </Field>
        <CommonReasons
          onPick={(reason) => {
            const before = form.getValues('reason').trim();
            if (before.includes(reason)) return;
            form.setValue('reason', before ? `${before}; ${reason}` : reason, {
              shouldDirty: true,
              shouldValidate: true,
            });
            keep('reason');
          }}
        />
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
    </Step>
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

import { type Role, scopeOf } from '@zaguan/contracts';
import { checkIn, type VisitReadiness } from '@zaguan/contracts/intake';
import { type Identifier, MIN_IDENTIFIERS } from '@zaguan/core/intake';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { TickField } from '../../../shared/ui/inputs.tsx';
import { apiError } from '../../../shared/api/contractApi.ts';
import { formatBirthDate, formatDate, formatPhone } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { ContractForm, useContractForm } from '../../forms/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { DeskDocument } from './DeskDocument.tsx';
import { FlagBox } from './FlagBox.tsx';
import { intakeApi } from './intake.api.ts';
import { ReadinessList } from './ReadinessList.tsx';

interface Props {
  readonly visitId: string;
  readonly name: string;
  readonly role: Role;
}

/** Readiness of one visit and check-in: what is missing is done here or let through, then two identifiers. */
export function CheckInPanel({ visitId, name, role }: Props) {
  const { t } = useTranslation();
  const { currentData, error, refetch } = intakeApi.useReadinessQuery({ id: visitId });
  const [filling, setFilling] = useState<string | null>(null);
  const refused = apiError(error);
  if (!currentData)
    return refused ? (
      <Notice tone="danger">
        {t(`error.${refused.tag}`, { requestId: refused.requestId })}{' '}
        <Button onClick={() => void refetch()}>{t('tryAgain')}</Button>
      </Notice>
    ) : (
      <div role="status" aria-label={t('loading')} className="h-24 animate-pulse rounded-md bg-highlight" />
    );
  const { readiness } = currentData;
  const mayCheckIn = scopeOf(role, 'intake.check-in') !== 'no';
  const before = readiness.status === 'booked' || readiness.status === 'arrived' || readiness.status === 'pending';
  if (filling) return <DeskDocument visitId={visitId} documentId={filling} onLeave={() => setFilling(null)} />;
  return (
    <section aria-label={t('readiness.title')} data-ready={readiness.ready} className="flex flex-col gap-3">
      <div>
        <h3 className="mb-1 flex items-baseline justify-between font-bold">
          {t('readiness.title')}
          <span className={readiness.ready ? 'text-accent' : 'text-danger'}>
            {readiness.held
              ? t('readiness.held')
              : readiness.ready
                ? t('readiness.ready')
                : t('readiness.of', {
                    done: readiness.items.filter(({ state }) => state !== 'missing').length,
                    total: readiness.items.length,
                  })}
          </span>
        </h3>
        <ReadinessList readiness={readiness} role={role} mayFill={mayCheckIn && before} onFill={setFilling} />
      </div>
      {readiness.flags.map((flag) => (
        <FlagBox key={flag.id} flag={flag} role={role} />
      ))}
      {before &&
        (mayCheckIn ? (
          <CheckIn key={readiness.version} readiness={readiness} name={name} />
        ) : (
          <p className="text-muted">{t('checkIn.noRight')}</p>
        ))}
    </section>
  );
}

function CheckIn({ readiness, name }: { readiness: VisitReadiness; name: string }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [send] = intakeApi.useCheckInMutation();
  const form = useContractForm(checkIn, {
    values: { identifiers: [] as Identifier[] },
    fixed: { id: readiness.id as never, version: readiness.version },
    send,
    onDone: (answer) => undo(t('checkIn.done', { name }), answer.undo.id),
  });
  const agreed = form.form.watch('identifiers');
  if (readiness.opensOn)
    return <p className="text-muted">{t('checkIn.opensOn', { date: formatDate(readiness.opensOn) })}</p>;
  if (!readiness.identifiers) return null;
  const toggle = (identifier: Identifier) =>
    form.form.setValue(
      'identifiers',
      agreed.includes(identifier) ? agreed.filter((each) => each !== identifier) : [...agreed, identifier],
    );
  const words = (identifier: Identifier, value: string) =>
    identifier === 'birth-date' ? formatBirthDate(value) : identifier === 'phone' ? formatPhone(value) : value;
  return (
    <ContractForm
      of={form}
      label={t('checkIn.go')}
      codeWords={(codes) =>
        t('checkIn.still', { what: codes.map((code) => codeWords(t, 'checkIn.code', code)).join(', ') })
      }
      actions={
        <div>
          <Button
            type="submit"
            look="primary"
            data-check-in
            disabled={form.isSending || agreed.length < MIN_IDENTIFIERS}
          >
            {t('checkIn.go')}
          </Button>
        </div>
      }
    >
      <fieldset>
        <legend className="mb-1 font-bold">{t('checkIn.ask')}</legend>
        {readiness.identifiers.map(({ identifier, value }) => (
          <TickField
            key={identifier}
            className="py-0.5"
            name={identifier}
            checked={agreed.includes(identifier)}
            onChange={() => toggle(identifier)}
          >
            <span className="w-28 text-muted">{t(`checkIn.identifier.${identifier}`)}</span>
            <span className="font-semibold">{words(identifier, value)}</span>
          </TickField>
        ))}
      </fieldset>
    </ContractForm>
  );
}

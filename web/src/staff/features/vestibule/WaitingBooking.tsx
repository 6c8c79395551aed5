import type { Waiting } from '@zaguan/contracts/vestibule';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { birthDateWords, dateAt, phoneWords, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { useUndoToast } from '../undo/index.ts';
import { vestibuleApi } from './vestibule.api.ts';

/** One self-booking whose person is not known, with the records that may be theirs. */
export function WaitingBooking({ row }: { row: Waiting }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [link, linking] = vestibuleApi.useLinkMutation();
  const [create, creating] = vestibuleApi.useCreateMutation();
  const [discard, discarding] = vestibuleApi.useDiscardMutation();
  const busy = linking.isLoading || creating.isLoading || discarding.isLoading;
  const name = `${row.givenName} ${row.familyName}`.trim();
  const done = async (call: Promise<{ data?: { undo: { id: string } } } | { error: unknown }>, words: string) => {
    const result = await call;
    const refused = 'error' in result ? apiError(result.error) : null;
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
    else if ('data' in result && result.data) undo(words, result.data.undo.id);
  };
  const common = { id: row.appointmentId, version: row.version };
  return (
    <article
      aria-label={name}
      data-waiting={row.appointmentId}
      className="grid grid-cols-[300px_1fr] gap-4 rounded-md border border-line-strong bg-panel p-4"
    >
      <div>
        <h2 className="flex items-center gap-1.5 text-lg font-bold">
          <ArchMark shape="question" label="" size={20} />
          {name}
        </h2>
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
          <dt className="text-muted">{t('vestibule.born')}</dt>
          <dd>{birthDateWords(row.birthDate)}</dd>
          <dt className="text-muted">{t('vestibule.contact')}</dt>
          <dd>{phoneWords(row.contact)}</dd>
          <dt className="text-muted">{t('vestibule.says')}</dt>
          <dd>{t(`visit.kind.${row.kind}`)}</dd>
          <dt className="text-muted">{row.visitType}</dt>
          <dd>
            {shortDate(dateAt(row.start, row.timeZone))}, {timeOf(row.start, row.timeZone)}, {row.siteName}
            {row.provider && `, ${row.provider}`}
          </dd>
          <dt className="text-muted">{t('visit.reason')}</dt>
          <dd>{row.reason || t('visit.noReason')}</dd>
        </dl>
        <div className="mt-3 flex flex-wrap gap-2">
          <Button disabled={busy} onClick={() => void done(create(common), t('vestibule.created', { name }))}>
            {t('vestibule.create')}
          </Button>
          <Button look="danger" disabled={busy} onClick={() => void done(discard(common), t('vestibule.discarded'))}>
            {t('vestibule.discard')}
          </Button>
        </div>
      </div>
      <div>
        <h3 className="mb-1 font-bold">{row.candidates.length ? t('vestibule.candidates') : t('vestibule.nobody')}</h3>
        <ul className="flex flex-col gap-2">
          {row.candidates.map((candidate) => (
            <li
              key={candidate.patientId}
              className={`flex items-center gap-3 rounded-md border px-3 py-2 ${candidate.verdict === 'likely' ? 'border-door' : 'border-line'}`}
            >
              <div className="flex-1">
                <p>
                  <Link
                    className="font-bold underline decoration-line-strong underline-offset-4"
                    to={`/patients/${candidate.patientId}`}
                  >
                    {candidate.name}
                  </Link>{' '}
                  · {birthDateWords(candidate.birthDate)} · {phoneWords(candidate.contact)} · {candidate.recordNumber}
                  {candidate.status !== 'active' && ` · ${t(`vestibule.status.${candidate.status}`)}`}
                </p>
                <p className="flex flex-wrap gap-x-3 text-[0.9rem]">
                  {candidate.verdict !== 'possible' && (
                    <span className={`font-bold ${candidate.verdict === 'likely' ? 'text-door' : 'text-ochre'}`}>
                      {t(`vestibule.verdict.${candidate.verdict}`)}
                    </span>
                  )}
                  {Object.entries(candidate.fields).map(([field, likeness]) => (
                    <span
                      key={field}
                      className={
                        likeness === 'differs'
                          ? 'font-semibold text-brick'
                          : likeness === 'alike'
                            ? 'font-semibold text-ochre'
                            : 'text-muted'
                      }
                    >
                      {t(`vestibule.field.${field}`)} {t(`vestibule.likeness.${likeness}`)}
                    </span>
                  ))}
                </p>
              </div>
              <Button
                look={candidate.verdict === 'likely' ? 'door' : 'quiet'}
                disabled={busy}
                onClick={() =>
                  void done(
                    link({ ...common, patientId: candidate.patientId }),
                    t('vestibule.linked', { name: candidate.name }),
                  )
                }
              >
                {t('vestibule.link')}
              </Button>
            </li>
          ))}
        </ul>
      </div>
    </article>
  );
}

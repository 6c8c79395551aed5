import type { Waiting } from '@zaguan/contracts/identityReview';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { formatBirthDate, dateAt, formatPhone, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { MARKED, useMarked } from '../../shell/useMarked.ts';
import { useUndoToast } from '../undo/index.ts';
import { identityReviewApi } from './identityReview.api.ts';

/** What is compared, in the order in which it is read. */
const COMPARED = ['family-name', 'given-name', 'birth-date', 'contact'] as const;

/** One self-booking whose person is not known, with the records that may be theirs. */
export function WaitingBooking({ row, isMarked }: { row: Waiting; isMarked: boolean }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [link, linking] = identityReviewApi.useLinkMutation();
  const [create, creating] = identityReviewApi.useCreateMutation();
  const [discard, discarding] = identityReviewApi.useDiscardMutation();
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
      ref={useMarked(isMarked)}
      aria-label={name}
      data-waiting={row.appointmentId}
      className={`grid grid-cols-[300px_1fr] gap-4 rounded-md border border-line-strong bg-panel p-4 max-lg:grid-cols-1 ${isMarked ? MARKED : ''}`}
    >
      <div>
        <About row={row} name={name} />
        <div className="mt-3 flex flex-wrap gap-2">
          <Button disabled={busy} onClick={() => void done(create(common), t('identityReview.created', { name }))}>
            {t('identityReview.create')}
          </Button>
          <Button
            look="danger"
            disabled={busy}
            onClick={() => void done(discard(common), t('identityReview.discarded'))}
          >
            {t('identityReview.discard')}
          </Button>
        </div>
      </div>
      <div>
        <h3 className="mb-1 font-bold">
          {row.candidates.length ? t('identityReview.candidates') : t('identityReview.nobody')}
        </h3>
        <ul className="flex flex-col gap-2">
          {row.candidates.map((candidate) => (
            <CandidateRow
              key={candidate.patientId}
              candidate={candidate}
              busy={busy}
              onLink={() =>
                void done(
                  link({ ...common, patientId: candidate.patientId }),
                  t('identityReview.linked', { name: candidate.name }),
                )
              }
            />
          ))}
        </ul>
      </div>
    </article>
  );
}

/** What the person said of themselves, and what they booked. */
function About({ row, name }: { row: Waiting; name: string }) {
  const { t } = useTranslation();
  return (
    <>
      <h2 className="flex items-center gap-1.5 text-lg font-bold">
        <ArchMark shape="question" label="" size={20} />
        {name}
      </h2>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
        <dt className="text-muted">{t('identityReview.born')}</dt>
        <dd>{formatBirthDate(row.birthDate)}</dd>
        <dt className="text-muted">{t('identityReview.contact')}</dt>
        <dd>{formatPhone(row.contact)}</dd>
        <dt className="text-muted">{t('identityReview.says')}</dt>
        <dd>{t(`visit.kind.${row.kind}`)}</dd>
        <dt className="text-muted">{row.visitType}</dt>
        <dd>
          {shortDate(dateAt(row.start, row.timeZone))}, {timeOf(row.start, row.timeZone)}, {row.siteName}
          {row.provider && `, ${row.provider}`}
        </dd>
        <dt className="text-muted">{t('visit.reason')}</dt>
        <dd>{row.reason || t('visit.noReason')}</dd>
      </dl>
    </>
  );
}

type Candidate = Waiting['candidates'][number];
const LIKENESS_LOOK: Readonly<Record<string, string>> = {
  differs: 'font-semibold text-danger',
  alike: 'font-semibold text-warning',
};

/** A record that may be theirs: what is the same, what differs, and the press that says so. */
function CandidateRow({ candidate, busy, onLink }: { candidate: Candidate; busy: boolean; onLink: () => void }) {
  const { t } = useTranslation();
  const { verdict } = candidate;
  const isLikely = verdict === 'likely';
  return (
    <li className={`flex items-center gap-3 rounded-md border px-3 py-2 ${isLikely ? 'border-accent' : 'border-line'}`}>
      <div className="flex-1">
        <p>
          <Link
            className="font-bold underline decoration-line-strong underline-offset-4"
            to={`/patients/${candidate.patientId}`}
          >
            {candidate.name}
          </Link>{' '}
          · {formatBirthDate(candidate.birthDate)} · {formatPhone(candidate.contact)} · {candidate.recordNumber}
          {candidate.status !== 'active' && ` · ${t(`identityReview.status.${candidate.status}`)}`}
        </p>
        <p className="flex flex-wrap gap-x-3 text-sm">
          {verdict !== 'possible' && (
            <span className={`font-bold ${isLikely ? 'text-accent' : 'text-warning'}`}>
              {t(`identityReview.verdict.${verdict}`)}
            </span>
          )}
          {COMPARED.map((field) => (
            <span key={field} className={LIKENESS_LOOK[candidate.fields[field]] ?? 'text-muted'}>
              {t(`identityReview.field.${field}`)} {t(`identityReview.likeness.${candidate.fields[field]}`)}
            </span>
          ))}
        </p>
      </div>
      <Button look={isLikely ? 'accent' : 'quiet'} disabled={busy} onClick={onLink}>
        {t('identityReview.link')}
      </Button>
    </li>
  );
}

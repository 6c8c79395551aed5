import { type OutputOf, type Role, scopeOf } from '@zaguan/contracts';
import type { todaysWork, Work } from '@zaguan/contracts/today';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { apiError } from '../../../shared/api/contractApi.ts';
import { dateAt, formatPhone, shortDate, timeOf, zoneShort } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { useClinicTime } from '../accounts/index.ts';
import { ClearForm } from '../intake/index.ts';
import { FinishChoice } from './FinishChoice.tsx';
import { AssignFlag } from './AssignFlag.tsx';
import { SettleCoverage } from './SettleCoverage.tsx';
import { todayApi } from './today.api.ts';

interface WorkLineProps {
  readonly row: Work;
  readonly now: string;
  readonly role: Role;
  readonly clinicians: OutputOf<typeof todaysWork>['clinicians'];
}

/** One piece of work: what it is, which visit, until when, whose. */
export function WorkLine({ row, now, role, clinicians }: WorkLineProps) {
  return (
    <li
      data-work={row.kind}
      className={`flex items-start gap-3 max-md:flex-wrap rounded-md border bg-panel px-4 py-2.5 ${row.kind === 'red-flag' ? 'border-danger' : 'border-line-strong'}`}
    >
      <div className="min-w-0 flex-1 max-md:basis-full">
        <What row={row} />
        <p className="text-muted">
          <About row={row} /> · <Due due={row.due} now={now} visitZone={row.visit?.timeZone} />
        </p>
        {row.kind === 'red-flag' &&
          (scopeOf(role, 'red-flag.clear') !== 'no' ? (
            <ClearForm flagId={row.id} />
          ) : (
            <AssignFlag row={row} clinicians={clinicians} />
          ))}
      </div>
      <Owner row={row} />
      {(row.kind === 'inbox' || row.kind === 'failed') && <FinishChoice kind={row.kind} id={row.id} />}
      {row.kind === 'coverage' && <SettleCoverage id={row.id} />}
    </li>
  );
}

function What({ row }: { row: Work }): ReactNode {
  const { t } = useTranslation();
  switch (row.kind) {
    case 'red-flag':
      return (
        <>
          <p>
            <span
              className="mr-2 rounded-sm border border-danger px-1.5 font-bold text-danger"
              data-severity={row.severity}
            >
              {t(`flag.severity.${row.severity}`)}
            </span>
            {row.question.en} <span className="font-bold">{row.answer.en}</span>
          </p>
          <p className="text-muted">{t('flag.told', { advice: row.told.en })}</p>
        </>
      );
    case 'inbox':
      return <p className="text-lg">“{row.body}”</p>;
    case 'failed':
      return (
        <p>
          <span className="font-bold">
            {t(row.step ? `messages.step.${row.step}` : `messages.kind.${row.message}`)}
          </span>
          : {codeWords(t, 'messages.fail', row.reason, {}, t('messages.failOther'))}. {t('today.callInstead')}{' '}
          <Reach contact={row.contact} />
        </p>
      );
    case 'identity-review':
    case 'approval':
      return <p className="font-bold">{row.visit?.name}</p>;
    case 'coverage':
      return (
        <p>
          <span className="font-bold">{row.payer}</span>{' '}
          {row.referralSaid !== null && t(row.referralSaid ? 'today.referralYes' : 'today.referralNo')}
        </p>
      );
    case 'not-ready':
      return (
        <p>
          {t('today.lacks', {
            what: row.missing.map((code) => t(`readiness.item.${code}`).toLowerCase()).join(', '),
          })}
        </p>
      );
  }
}

/** Visits that nobody will come to; a red flag stays all the same. */
const ENDED = ['cancelled', 'noshow', 'entered-in-error'] as const;

function About({ row }: { row: Work }) {
  const { t } = useTranslation();
  const contact = row.kind === 'inbox' && row.contact && (
    <>
      <Reach contact={row.contact} />,{' '}
    </>
  );
  // An invitation is about somebody, and about no visit yet.
  if (row.kind === 'failed' && row.invited)
    return (
      <Link className="underline" to={`/patients/${row.invited.patientId}`}>
        {row.invited.name}
      </Link>
    );
  if (!row.visit)
    return (
      <>
        {contact}
        {t('today.noVisit')}
      </>
    );
  const off = row.kind === 'red-flag' ? ENDED.find((status) => status === row.visitStatus) : undefined;
  const { visit } = row;
  return (
    <>
      {contact}
      <Link className="underline" to={linkTo(row.kind, visit)}>
        {row.kind !== 'identity-review' && row.kind !== 'approval' && `${visit.name}, `}
        {shortDate(visit.date)}, {timeOf(visit.start, visit.timeZone)}, {visit.siteName}
      </Link>
      {off && <span className="font-bold"> ({t(`flag.visit.${off}`)})</span>}
      {row.kind === 'red-flag' && (
        <>
          {' · '}
          {row.phone ? (
            <a className="font-bold text-accent underline" href={`tel:${row.phone}`}>
              {t('flag.call', { number: formatPhone(row.phone) })}
            </a>
          ) : (
            t('flag.noPhone')
          )}
        </>
      )}
    </>
  );
}

/** A number or address that a press calls or writes to. */
function Reach({ contact }: { contact: string }) {
  const isMail = contact.includes('@');
  return (
    <a className="font-bold text-accent underline" href={`${isMail ? 'mailto' : 'tel'}:${contact}`}>
      {isMail ? contact : formatPhone(contact)}
    </a>
  );
}

/** Where the work is done: at the very visit, or at the booking it is about. */
function linkTo(kind: Work['kind'], visit: NonNullable<Work['visit']>): string {
  const id = visit.appointmentId;
  if (kind === 'identity-review') return `/identity-review?booking=${id}`;
  if (kind === 'approval') return `/identity-review?tab=approve&booking=${id}`;
  if (kind === 'not-ready') return `/intake?date=${visit.date}&visit=${id}`;
  return `/daybook/${visit.date}?visit=${id}`;
}

/** On the clock of the visit's site; the day stands there only if it is another one. */
function Due({ due, now, visitZone }: { due: string; now: string; visitZone: string | undefined }) {
  const { t } = useTranslation();
  const { timeZone } = useClinicTime();
  const zone = visitZone ?? timeZone;
  const date = dateAt(due, zone);
  const when = `${date === dateAt(now, zone) ? '' : `${shortDate(date)}, `}${timeOf(due, zone)} ${zoneShort(zone)}`;
  const late = due < now;
  return (
    <span className={late ? 'font-bold text-danger' : ''} data-overdue={late}>
      {t(late ? 'today.overdue' : 'today.due', { when })}
    </span>
  );
}

/** Two people never call one patient: whoever takes it is named to everyone. */
function Owner({ row }: { row: Work }) {
  const { t } = useTranslation();
  const [claim, { isLoading }] = todayApi.useClaimMutation();
  const set = async (take: boolean) => {
    const refused = apiError((await claim({ kind: row.kind, id: row.id, take })).error);
    if (refused) toast.error(t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId }));
  };
  if (row.owner && !row.owner.mine)
    return <span className="py-1.5 text-muted">{t('today.takenBy', { name: row.owner.name })}</span>;
  return (
    <div className="flex items-center gap-2">
      {row.owner && <span className="font-bold text-accent">{t('today.mine')}</span>}
      <Button
        look="plain"
        data-claim={row.owner ? 'mine' : 'free'}
        disabled={isLoading}
        onClick={() => void set(!row.owner)}
      >
        {t(row.owner ? 'today.giveBack' : 'today.take')}
      </Button>
    </div>
  );
}

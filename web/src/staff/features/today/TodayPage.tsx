import { type OutputOf, type Role, scopeOf } from '@zaguan/contracts';
import type { todaysWork, Work } from '@zaguan/contracts/today';
import { WORK_KINDS } from '@zaguan/core/work';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { Page } from '../../shell/Page.tsx';
import { SiteChoice } from '../../shell/SiteChoice.tsx';
import { UnreadableNotice } from '../../shell/UnreadableNotice.tsx';
import { useAddress } from '../../shell/useAddress.ts';
import { accountsApi } from '../accounts/index.ts';
import { OpenedRecords } from './OpenedRecords.tsx';
import { todayApi } from './today.api.ts';
import { WorkLine } from './WorkLine.tsx';

/** More of these are better seen on their own board. */
const MAX_NOT_READY = 6;

/** What needs attention now, and nothing else: by kind, the most urgent kind first, each with its owner and due time. */
export function TodayPage() {
  const { t } = useTranslation();
  const query = todayApi.useTodayQuery({});
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const { data: clinic } = accountsApi.useClinicQuery({});
  const { asked, set } = useAddress();
  const siteId = clinic?.sites.find(({ id }) => id === asked.get('site'))?.id ?? 'all';
  const owner = OWNERS.find((each) => each === asked.get('owner')) ?? 'all';
  const toolbar = (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line bg-surface-deep px-4 py-1.5">
      <SiteChoice
        sites={clinic?.sites ?? []}
        value={siteId}
        onChoose={(site) => set({ site: site === 'all' ? null : site })}
      />
      <label className="flex items-center gap-2">
        {t('today.owner')}
        <select
          className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
          value={owner}
          onChange={(event) => set({ owner: event.target.value === 'all' ? null : event.target.value })}
        >
          {OWNERS.map((each) => (
            <option key={each} value={each}>
              {t(`today.owners.${each}`)}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
  return (
    <Page
      title={t('today.title')}
      note={<span className="text-muted">{t('today.note')}</span>}
      toolbar={toolbar}
      query={query}
    >
      {({ work: all, now, toMove, overdueRequests, codes, unreadable, clinicians, opened }) => {
        const work = all.filter((row) => isShown(row, siteId, owner));
        return work.length === 0 &&
          toMove + overdueRequests === 0 &&
          unreadable.length + opened.length === 0 &&
          !codes ? (
          <div className="flex items-center gap-3 text-accent">
            <ArchMark shape="outline" label="" size={40} />
            <p className="text-foreground">{t(all.length ? 'today.nothingHere' : 'today.nothing')}</p>
          </div>
        ) : (
          <div className="grid max-w-5xl gap-6">
            <UnreadableNotice ids={unreadable} />
            {codes && (
              <Notice tone="warning">
                {t('today.codes', codes)}{' '}
                {scopeOf(who?.me?.role ?? 'read-only', 'setup.edit') !== 'no' && (
                  <Link className="underline" to="/setup/clinic">
                    {t('today.codesSet')}
                  </Link>
                )}
              </Notice>
            )}
            {toMove > 0 && (
              <Link
                to="/availability/visits-to-move"
                className="rounded-md border border-warning bg-warning-subtle px-4 py-2 font-bold text-warning underline"
              >
                {t('today.toMove', { count: toMove })}
              </Link>
            )}
            {overdueRequests > 0 && (
              <Link
                to="/requests"
                className="rounded-md border border-warning bg-warning-subtle px-4 py-2 font-bold text-warning underline"
              >
                {t('today.overdueRequests', { count: overdueRequests })}
              </Link>
            )}
            {WORK_KINDS.map((kind) => (
              <Kind
                key={kind}
                kind={kind}
                rows={work.filter((row) => row.kind === kind)}
                now={now}
                role={who?.me?.role ?? 'read-only'}
                clinicians={clinicians}
              />
            ))}
            <OpenedRecords rows={opened} />
            {work.length === 0 && all.length > 0 && <p className="text-muted">{t('today.nothingHere')}</p>}
          </div>
        );
      }}
    </Page>
  );
}

/** Whose work is listed. */
const OWNERS = ['all', 'mine', 'free'] as const;

/** Work that belongs to no visit belongs to every site; a red flag is never filtered by its owner. */
function isShown({ kind, visit, owner }: Work, siteId: string, whose: (typeof OWNERS)[number]): boolean {
  if (siteId !== 'all' && visit && visit.siteId !== siteId) return false;
  if (whose === 'all' || kind === 'red-flag') return true;
  return whose === 'mine' ? owner?.mine === true : owner === null;
}

interface KindProps {
  readonly kind: Work['kind'];
  readonly rows: readonly Work[];
  readonly now: string;
  readonly role: Role;
  readonly clinicians: OutputOf<typeof todaysWork>['clinicians'];
}

/** Red flags that are with a clinician stand below those that are nobody's yet: in sight, and not the desk's to do. */
function Kind({ kind, rows, now, role, clinicians }: KindProps) {
  const { t } = useTranslation();
  if (!rows.length) return null;
  const title = t(`today.kind.${kind}`, { count: rows.length });
  const isWithClinician = (row: Work) => row.kind === 'red-flag' && row.withClinicianUntil !== null;
  const sorted = [...rows].sort((a, b) => Number(isWithClinician(a)) - Number(isWithClinician(b)));
  const shown = kind === 'not-ready' ? sorted.slice(0, MAX_NOT_READY) : sorted;
  const more = rows.length - shown.length;
  return (
    <section aria-label={title}>
      <h2 className={`mb-2 font-bold ${kind === 'red-flag' ? 'text-danger' : 'text-warning'}`}>{title}</h2>
      <ul className="flex flex-col gap-2">
        {shown.map((row) => (
          <WorkLine key={row.id} row={row} now={now} role={role} clinicians={clinicians} />
        ))}
      </ul>
      {kind === 'not-ready' && (
        <p className="mt-2">
          <Link className="font-bold text-accent underline" to="/intake">
            {more > 0 ? t('today.more', { count: more }) : t('today.toIntake')}
          </Link>
        </p>
      )}
      {kind === 'approval' && scopeOf(role, 'identityReview.decide') !== 'no' && (
        <p className="mt-2">
          <Link className="font-bold text-accent underline" to="/identity-review?tab=approve">
            {t('today.toApprovals')}
          </Link>
        </p>
      )}
      {kind === 'identity-review' && scopeOf(role, 'identityReview.decide') !== 'no' && (
        <p className="mt-2">
          <Link className="font-bold text-accent underline" to="/identity-review">
            {t('today.toIdentityReview')}
          </Link>
        </p>
      )}
    </section>
  );
}

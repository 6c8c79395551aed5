import { type Role, scopeOf } from '@zaguan/contracts';
import type { Work } from '@zaguan/contracts/today';
import { WORK_KINDS } from '@zaguan/core/work';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { Page } from '../../shell/Page.tsx';
import { UnreadableNotice } from '../../shell/UnreadableNotice.tsx';
import { accountsApi } from '../accounts/index.ts';
import { todayApi } from './today.api.ts';
import { WorkLine } from './WorkLine.tsx';

/** More of these are better seen on their own board. */
const MAX_NOT_READY = 6;

/** What needs a hand now, and nothing else: by kind, the most urgent kind first, each with its owner and due time. */
export function TodayPage() {
  const { t } = useTranslation();
  const query = todayApi.useTodayQuery({});
  const { data: who } = accountsApi.useWhoAmIQuery({});
  return (
    <Page title={t('today.title')} note={<span className="text-muted">{t('today.note')}</span>} query={query}>
      {({ work, now, toMove, codes, unreadable }) =>
        work.length === 0 && toMove === 0 && unreadable.length === 0 && !codes ? (
          <div className="flex items-center gap-3 text-accent">
            <ArchMark shape="outline" label="" size={40} />
            <p className="text-foreground">{t('today.nothing')}</p>
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
            {WORK_KINDS.map((kind) => (
              <Kind
                key={kind}
                kind={kind}
                rows={work.filter((row) => row.kind === kind)}
                now={now}
                role={who?.me?.role ?? 'read-only'}
              />
            ))}
          </div>
        )
      }
    </Page>
  );
}

function Kind({ kind, rows, now, role }: { kind: Work['kind']; rows: readonly Work[]; now: string; role: Role }) {
  const { t } = useTranslation();
  if (!rows.length) return null;
  const title = t(`today.kind.${kind}`, { count: rows.length });
  const shown = kind === 'not-ready' ? rows.slice(0, MAX_NOT_READY) : rows;
  const more = rows.length - shown.length;
  return (
    <section aria-label={title}>
      <h2 className={`mb-2 font-bold ${kind === 'red-flag' ? 'text-danger' : 'text-warning'}`}>{title}</h2>
      <ul className="flex flex-col gap-2">
        {shown.map((row) => (
          <WorkLine key={row.id} row={row} now={now} role={role} />
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

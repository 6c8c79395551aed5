import type { InvitationTemplateDoc } from '@zaguan/contracts/invitations';
import { useTranslation } from 'react-i18next';
import { shortDate } from '../../../../shared/time/format.ts';
import { useNameOf } from '../../setup/index.ts';
import { invitationsApi } from '../invitations.api.ts';

type Limits = Pick<
  InvitationTemplateDoc,
  'typeIds' | 'siteIds' | 'providerIds' | 'hours' | 'fromDate' | 'untilDate' | 'deskTimesToo'
>;

/** How many start times the holder of such an invitation would find in the next three weeks; a warning if there are none. */
export function Finds({ rules, isStale = false }: { rules: Limits; isStale?: boolean }) {
  const { t } = useTranslation();
  const nameOf = useNameOf();
  const { typeIds, siteIds, providerIds, hours, fromDate, untilDate, deskTimesToo } = rules;
  const { currentData, isError } = invitationsApi.useTemplateFindsQuery(
    { rules: { typeIds, siteIds, providerIds, hours, fromDate, untilDate, deskTimesToo } },
    { refetchOnMountOrArgChange: 60 },
  );
  if (isError || currentData?.gaveUp) return <p className="text-danger">{t('invite.findsFailed')}</p>;
  if (!currentData || isStale) return <p className="text-muted">{t('invite.findsWait')}</p>;
  const { starts, sites, without } = currentData;
  if (!starts)
    return (
      <p data-finds="0" className="font-bold text-warning">
        {t('invite.findsNone')}
      </p>
    );
  return (
    <div data-finds={starts}>
      <p>
        {t('invite.finds', { count: starts, sites: t('invite.sites', { count: sites.length }) })}{' '}
        <span className="text-muted">
          {sites
            .map(({ siteId, starts: n, first }) =>
              t('invite.findsAt', { count: n, site: nameOf(siteId), date: shortDate(first) }),
            )
            .join(' · ')}
        </span>
      </p>
      {without.length > 0 && (
        <p className="text-warning">{t('invite.findsWithout', { types: without.map(nameOf).join(', ') })}</p>
      )}
    </div>
  );
}

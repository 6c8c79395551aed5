import { type Action, scopeOf } from '@zaguan/contracts';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, Navigate, NavLink, Route, Routes } from 'react-router';
import { accountsApi } from '../../accounts/index.ts';
import { ClinicPage } from './ClinicPage.tsx';
import { GuidePage } from './GuidePage.tsx';
import { OnlinePage } from './OnlinePage.tsx';
import { RecordPage } from './RecordPage.tsx';
import { RolesPage } from './RolesPage.tsx';

/** The order in which one thing needs another. */
const PLACES = [
  { place: 'guide', needs: 'setup.view' },
  { place: 'clinic', needs: 'setup.view' },
  { place: 'person', needs: 'setup.view' },
  { place: 'account', needs: 'accounts.manage' },
  { place: 'site', needs: 'setup.view' },
  { place: 'place', needs: 'setup.view' },
  { place: 'pool', needs: 'setup.view' },
  { place: 'visit-type', needs: 'setup.view' },
  { place: 'online', needs: 'setup.view' },
  { place: 'payer', needs: 'setup.view' },
  { place: 'field', needs: 'setup.view' },
  { place: 'roles', needs: 'setup.view' },
] as const satisfies readonly { place: string; needs: Action }[];

const TABLE_PLACES = ['person', 'account', 'site', 'place', 'pool', 'visit-type', 'payer', 'field'] as const;

function NoSuchPage() {
  const { t } = useTranslation();
  return (
    <div className="p-6">
      <h1 className="text-xl font-bold">{t('setup.noSuchPage')}</h1>
      <p className="mt-2">{t('setup.noSuchPageNote')}</p>
      <Link className="mt-3 inline-block min-h-7 text-accent underline" to="/setup/guide">
        {t('setup.place.guide')}
      </Link>
    </div>
  );
}

/** Everything that is set up, in the order in which it is needed, with the guide first. */
export function SetupPage() {
  const { t } = useTranslation();
  const { data } = accountsApi.useWhoAmIQuery({});
  const role = data?.me?.role;
  useEffect(() => {
    document.title = t('nav.setup');
  }, [t]);
  const allowed = (action: Action) => role !== undefined && scopeOf(role, action) !== 'no';
  if (!allowed('setup.view'))
    return (
      <main className="p-6">
        <h1 className="text-xl font-bold">{t('nav.setup')}</h1>
        <p className="mt-2">{t('setup.noRight')}</p>
      </main>
    );
  return (
    <main className="flex min-h-0 flex-1">
      <nav
        aria-label={t('nav.setup')}
        className="flex w-[140px] shrink-0 flex-col overflow-y-auto border-r border-line py-2"
      >
        {PLACES.filter(({ needs }) => allowed(needs)).map(({ place }) => (
          <NavLink
            key={place}
            to={`/setup/${place}`}
            className={({ isActive }) =>
              `border-l-4 py-1.5 pl-3 ${isActive ? 'border-primary bg-surface-deep font-bold' : 'border-transparent hover:bg-surface-deep'}`
            }
          >
            {t(`setup.place.${place}`)}
          </NavLink>
        ))}
      </nav>
      <Routes>
        <Route path="guide" element={<GuidePage />} />
        <Route path="clinic" element={<ClinicPage />} />
        <Route path="online" element={<OnlinePage />} />
        <Route path="roles" element={<RolesPage />} />
        {TABLE_PLACES.map((kind) => (
          <Route key={kind} path={kind} element={<RecordPage key={kind} kind={kind} />} />
        ))}
        <Route index element={<Navigate to="/setup/guide" replace />} />
        <Route path="*" element={<NoSuchPage />} />
      </Routes>
    </main>
  );
}

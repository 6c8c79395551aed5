import { Suspense, useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { Navigate, Route, Routes, useMatch } from 'react-router';
import { Logo } from '../../shared/arch/ArchMark.tsx';
import { Notice } from '../../shared/ui/Notice.tsx';
import { bookingApi } from '../features/booking/booking.api.ts';
import { useLanguage } from '../features/booking/hooks/useLanguage.ts';
import { BeenPage } from '../features/booking/pages/BeenPage.tsx';
import { setLanguage } from '../i18n.ts';
import { guarded } from './guarded.tsx';
import { useAppSelector } from '../store.ts';

// What the first question does not need comes while it is answered.
const loadTimes = () => import('../features/booking/pages/WhenPage.tsx');
const WhenPage = guarded(() => loadTimes().then((module) => module.WhenPage));

const loadSite = () => import('../features/booking/pages/SitePage.tsx');
const SitePage = guarded(() => loadSite().then((module) => module.SitePage));

const loadWhat = () => import('../features/booking/pages/WhatPage.tsx');
const WhatPage = guarded(() => loadWhat().then((module) => module.WhatPage));

const loadWho = () => import('../features/booking/pages/WhoPage.tsx');
const WhoPage = guarded(() => loadWho().then((module) => module.WhoPage));

const PayPage = guarded(() => import('../features/booking/pages/PayPage.tsx').then((module) => module.PayPage));

const DonePage = guarded(() => import('../features/booking/pages/DonePage.tsx').then((module) => module.DonePage));

// The form's checks (dates, phone numbers, forms) weigh as much as the rest: they come with the step that needs them.
const YouPage = guarded(() => import('../features/booking/pages/YouPage.tsx').then((module) => module.YouPage));

const VisitPage = guarded(() => import('../features/visit/index.ts').then((module) => module.VisitPage));

const InvitationPage = guarded(() => import('../features/invitation/index.ts').then((module) => module.InvitationPage));

const StopPage = guarded(() => import('../features/visit/index.ts').then((module) => module.StopPage));

/** The clinic's name first, ours small; one question a screen. */
export function App() {
  const { t } = useTranslation();
  const language = useLanguage();
  const away = useAppSelector((state) => state.connection.away);
  useEffect(() => {
    // By the time they are asked for they are there; a lost line only means that they come later.
    for (const load of [loadSite, loadWhat, loadWho, loadTimes]) load().catch(() => undefined);
  }, []);
  const { data: clinic } = bookingApi.useClinicQuery({ language });
  const siteId = useAppSelector((state) => state.choices.siteId);
  // One number on a page: the site's once there is one. A page of a link has its own.
  const ownPhone = [useMatch('/v/*'), useMatch('/i/*')].some((match) => match !== null);
  const phone = ownPhone ? null : (clinic?.sites.find(({ id }) => id === siteId)?.phone ?? clinic?.phone);
  return (
    <div className="mx-auto flex min-h-dvh max-w-lg flex-col bg-surface">
      <header className="flex items-center gap-3 border-b-[3px] border-accent bg-panel px-4 py-2.5">
        <Logo size={30} />
        <p className="flex-1 text-base leading-tight font-bold">{clinic?.name ?? ' '}</p>
        <button
          type="button"
          lang={language === 'en' ? 'es' : 'en'}
          className="min-h-11 px-1 underline"
          onClick={() => setLanguage(language === 'en' ? 'es' : 'en')}
        >
          {t('otherLanguage')}
        </button>
      </header>
      {away && (
        <div className="px-4 pt-3">
          <Notice tone="warning">{t('away')}</Notice>
        </div>
      )}
      <main className="flex-1 px-4 pt-3 pb-10">
        <Suspense fallback={<p role="status">{t('loading')}</p>}>
          <Routes>
            <Route index element={<BeenPage />} />
            <Route path="site" element={<SitePage />} />
            <Route path="what" element={<WhatPage />} />
            <Route path="pay" element={<PayPage />} />
            <Route path="who" element={<WhoPage />} />
            <Route path="when" element={<WhenPage />} />
            <Route path="you" element={<YouPage />} />
            <Route path="done" element={<DonePage />} />
            <Route path="v/:token" element={<VisitPage />} />
            <Route path="i/:token" element={<InvitationPage />} />
            <Route path="stop/:token" element={<StopPage />} />
            <Route path="*" element={<Navigate to="/" replace />} />
          </Routes>
        </Suspense>
      </main>
      <footer className="px-4 pb-4 text-sm text-muted">
        {phone && (
          <a className="inline-block py-2 underline" href={`tel:${phone.replace(/\D/g, '')}`}>
            {t('call', { phone })}
          </a>
        )}
      </footer>
    </div>
  );
}

import { lazy, type ReactNode, Suspense } from 'react';
import { useTranslation } from 'react-i18next';
import { Navigate, Outlet, Route, Routes, useLocation } from 'react-router';
import { apiError } from '../shared/api/contractApi.ts';
import { Button } from '../shared/ui/Button.tsx';
import { Notice } from '../shared/ui/Notice.tsx';
import { accountsApi } from './features/accounts/accounts.api.ts';
import { SignInPage } from './features/accounts/pages/SignInPage.tsx';
import { DaybookPage } from './features/daybook/pages/DaybookPage.tsx';
import { WeekPage } from './features/daybook/pages/WeekPage.tsx';
import { IntakePage } from './features/intake/index.ts';
import { SimulatedCarriersPage } from './features/simulatedCarriers/index.ts';
import { TodayPage } from './features/today/index.ts';
import { IdentityReviewPage } from './features/identityReview/index.ts';
import { OfDate } from './shell/OfDate.tsx';
import { Shell } from './shell/Shell.tsx';

/** Read in when somebody asks for help. */
const HelpPage = lazy(() => import('./features/help/HelpPage.tsx').then((module) => ({ default: module.HelpPage })));

/** Read in when somebody looks at everyone's hours. */
const AvailabilityPage = lazy(() =>
  import('./features/availability/index.ts').then((module) => ({ default: module.AvailabilityPage })),
);
const VisitsToMovePage = lazy(() =>
  import('./features/availability/index.ts').then((module) => ({ default: module.VisitsToMovePage })),
);

/** Read in when somebody looks for a time. */
const FindPage = lazy(() =>
  import('./features/openings/pages/FindPage.tsx').then((module) => ({ default: module.FindPage })),
);

/** Read in when somebody opens, looks through or registers patients. */
const PatientPage = lazy(() =>
  import('./features/patients/index.ts').then((module) => ({ default: module.PatientPage })),
);
const PatientsPage = lazy(() =>
  import('./features/patients/index.ts').then((module) => ({ default: module.PatientsPage })),
);
const RegisterPage = lazy(() =>
  import('./features/patients/index.ts').then((module) => ({ default: module.RegisterPage })),
);

/** Read in when somebody looks at what is still to be booked. */
const PrintPage = lazy(() =>
  import('./features/booking/PrintPage.tsx').then((module) => ({ default: module.PrintPage })),
);
const DaySheetPage = lazy(() =>
  import('./features/daybook/pages/DaySheetPage.tsx').then((module) => ({ default: module.DaySheetPage })),
);
const SiteWeekPage = lazy(() =>
  import('./features/daybook/pages/SiteWeekPage.tsx').then((module) => ({ default: module.SiteWeekPage })),
);
const LensPage = lazy(() =>
  import('./features/daybook/views/LensPage.tsx').then((module) => ({ default: module.LensPage })),
);
const MonthPage = lazy(() =>
  import('./features/daybook/pages/MonthPage.tsx').then((module) => ({ default: module.MonthPage })),
);
const OutreachPage = lazy(() =>
  import('./features/recalls/index.ts').then((module) => ({ default: module.OutreachPage })),
);
const PlanPeoplePage = lazy(() =>
  import('./features/recalls/index.ts').then((module) => ({ default: module.PlanPeoplePage })),
);
const FunnelPage = lazy(() =>
  import('./features/invitations/index.ts').then((module) => ({ default: module.FunnelPage })),
);
const TemplatesPage = lazy(() =>
  import('./features/invitations/index.ts').then((module) => ({ default: module.TemplatesPage })),
);
const RegistersPage = lazy(() =>
  import('./features/recalls/index.ts').then((module) => ({ default: module.RegistersPage })),
);
const ActsPage = lazy(() => import('./features/undo/ActsPage.tsx').then((module) => ({ default: module.ActsPage })));
const RequestsPage = lazy(() =>
  import('./features/booking/RequestsPage.tsx').then((module) => ({ default: module.RequestsPage })),
);
const BenchPage = lazy(() =>
  import('./features/booking/BenchPage.tsx').then((module) => ({ default: module.BenchPage })),
);

/** Read in when somebody sets something up, or joins. */
const SetupPage = lazy(() => import('./features/setup/index.ts').then((module) => ({ default: module.SetupPage })));
const JoinPage = lazy(() => import('./features/setup/index.ts').then((module) => ({ default: module.JoinPage })));

/** A page that is read in when it is opened. */
function Later({ children }: { children: ReactNode }) {
  const { t } = useTranslation();
  return (
    <Suspense
      fallback={
        <p role="status" className="p-6 text-muted">
          {t('loading')}
        </p>
      }
    >
      {children}
    </Suspense>
  );
}

/** Who is signed in decides between the sign-in page and the rest; the address stays, so that one lands where one wanted. */
export function App() {
  const { t } = useTranslation();
  const { pathname } = useLocation();
  const { data, error, isLoading, refetch } = accountsApi.useWhoAmIQuery({});
  if (isLoading)
    return (
      <p role="status" className="p-6 text-muted">
        {t('loading')}
      </p>
    );
  const failed = apiError(error);
  if (!data) {
    return (
      <main className="mx-auto mt-24 max-w-md">
        <Notice tone="danger" live="assertive">
          {failed && t(`error.${failed.tag}`, { requestId: failed.requestId })}
        </Notice>
        <Button className="mt-3" onClick={() => void refetch()}>
          {t('tryAgain')}
        </Button>
      </main>
    );
  }
  if (pathname === '/join')
    return (
      <Later>
        <JoinPage />
      </Later>
    );
  if (!data.me) return <SignInPage />;
  if (pathname.startsWith('/print/'))
    return (
      <Later>
        <Routes>
          <Route path="/print/visits/:ids" element={<PrintPage />} />
          <Route path="/print/day/:date" element={<DaySheetPage />} />
        </Routes>
      </Later>
    );
  return (
    <Shell me={data.me}>
      <Routes>
        <Route element={<OfDate />}>
          <Route path="/daybook/:date?" element={<DaybookPage />} />
          <Route path="/daybook/week/:resourceId/:date" element={<WeekPage />} />
          <Route
            path="/daybook/week/site/:siteId/:date"
            element={
              <Later>
                <SiteWeekPage />
              </Later>
            }
          />
          <Route
            path="/daybook/month/:month"
            element={
              <Later>
                <MonthPage />
              </Later>
            }
          />
        </Route>
        <Route
          element={
            <Later>
              <Outlet />
            </Later>
          }
        >
          <Route path="/help/:page?" element={<HelpPage />} />
          <Route path="/find" element={<FindPage />} />
          <Route path="/availability" element={<AvailabilityPage />} />
          <Route path="/availability/visits-to-move" element={<VisitsToMovePage />} />
          <Route path="/setup/*" element={<SetupPage />} />
          <Route path="/patients" element={<PatientsPage />} />
          <Route path="/patients/new" element={<RegisterPage />} />
          <Route path="/patients/:id" element={<PatientPage />} />
          <Route path="/daybook/lenses/:id?" element={<LensPage />} />
          <Route path="/undo" element={<ActsPage />} />
          <Route path="/outreach" element={<OutreachPage />} />
          <Route path="/outreach/registers" element={<RegistersPage />} />
          <Route path="/outreach/plans/:planId" element={<PlanPeoplePage />} />
          <Route path="/outreach/plans/:planId/invited" element={<FunnelPage />} />
          <Route path="/outreach/templates" element={<TemplatesPage />} />
          <Route path="/requests" element={<RequestsPage />} />
          <Route path="/bench" element={<BenchPage />} />
        </Route>
        <Route path="/intake" element={<IntakePage />} />
        <Route path="/today" element={<TodayPage />} />
        <Route path="/identity-review" element={<IdentityReviewPage />} />
        <Route path="/simulated-carriers" element={<SimulatedCarriersPage />} />
        <Route path="*" element={<Navigate to="/daybook" replace />} />
      </Routes>
    </Shell>
  );
}

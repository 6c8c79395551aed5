import { type OutputOf, scopeOf } from '@zaguan/contracts';
import type { Me } from '@zaguan/contracts/accounts';
import type { countWork } from '@zaguan/contracts/today';
import { Menu, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { NavLink, useLocation } from 'react-router';
import { Logo } from '../../shared/arch/ArchMark.tsx';
import { todayApi } from '../features/today/today.api.ts';
import { AccountMenu } from './AccountMenu.tsx';
import { helpFor } from './helpFor.ts';
import { PLACES } from './places.ts';

/** Most changes are told at once; a booking that nobody is known for comes with the next look. */
const COUNT_AGAIN_MS = 60_000;

/** The way to every place that somebody may enter, with what waits there; a phone's folds. */
export function Rail({ me }: { me: Me }) {
  const { t } = useTranslation();
  const { pathname } = useLocation();
  // A phone's menu unfolds over the page, and folds when one has gone somewhere.
  const [unfoldedAt, setUnfoldedAt] = useState<string | null>(null);
  const isUnfolded = unfoldedAt === pathname;
  return (
    <nav
      aria-label={t('nav.label')}
      className="relative z-40 flex w-[104px] shrink-0 flex-col bg-chrome text-on-chrome max-md:w-full"
    >
      <div className="flex flex-col items-center gap-0.5 py-3 text-base font-bold max-md:flex-row max-md:gap-2 max-md:px-3 max-md:py-1.5">
        <Logo size={38} frame="#d98a5f" door="#58aaa2" />
        {t('product')}
        <button
          type="button"
          className="ml-auto flex size-11 items-center justify-center rounded-md hover:bg-chrome-raised md:hidden"
          aria-expanded={isUnfolded}
          aria-controls="places"
          aria-label={t('nav.menu')}
          onClick={() => setUnfoldedAt(isUnfolded ? null : pathname)}
        >
          {isUnfolded ? <X aria-hidden="true" /> : <Menu aria-hidden="true" />}
        </button>
      </div>
      <div
        id="places"
        className={`flex min-h-0 flex-1 flex-col max-md:absolute max-md:inset-x-0 max-md:top-full max-md:bg-chrome max-md:pb-2 ${isUnfolded ? '' : 'max-md:hidden'}`}
      >
        <Places me={me} />
        <Entry to={pathname.startsWith('/help') ? '/help' : helpFor(pathname)} className="mt-auto">
          {t('nav.help')}
        </Entry>
        <div className="p-2">
          <AccountMenu me={me} />
        </div>
      </div>
    </nav>
  );
}

function Places({ me }: { me: Me }) {
  const { t } = useTranslation();
  const { data: count } = todayApi.useCountQuery(
    {},
    { skip: scopeOf(me.role, 'today.work') === 'no', pollingInterval: COUNT_AGAIN_MS },
  );
  return PLACES.filter(({ needs }) => scopeOf(me.role, needs) !== 'no').map(({ place }) => (
    <Entry key={place} to={`/${place}`}>
      {t(`nav.${place}`)}
      <Waiting place={place} count={count} />
    </Entry>
  ));
}

function Entry({ to, className = '', children }: { to: string; className?: string; children: ReactNode }) {
  const look = (isActive: boolean) =>
    isActive ? 'border-[#d98a5f] bg-chrome-raised font-bold text-white' : 'border-transparent hover:bg-chrome-raised';
  return (
    <NavLink to={to} className={({ isActive }) => `border-l-4 py-2 pl-3 ${look(isActive)} ${className}`}>
      {children}
    </NavLink>
  );
}

/** How much waits behind an entry of the menu; red where a red flag is among it. */
function Waiting({ place, count }: { place: string; count: OutputOf<typeof countWork> | undefined }) {
  const { t } = useTranslation();
  const waits = place === 'today' ? count?.work : place === 'identity-review' ? count?.identityReview : 0;
  if (!waits) return null;
  const isGrave = place === 'today' && (count?.redFlags ?? 0) > 0;
  return (
    <span
      data-waiting-count={place}
      className={`ml-1.5 rounded-sm px-1.5 text-sm font-bold tabular-nums ${isGrave ? 'bg-danger text-on-fill' : 'bg-on-chrome text-chrome'}`}
    >
      <span className="sr-only">{t('nav.waiting')} </span>
      {waits > 99 ? '99+' : waits}
    </span>
  );
}

import { type Action, type OutputOf, scopeOf } from '@zaguan/contracts';
import type { Me } from '@zaguan/contracts/accounts';
import type { countWork } from '@zaguan/contracts/today';
import { DropdownMenu } from 'radix-ui';
import { Menu, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { NavLink, useLocation } from 'react-router';
import { Toaster } from 'sonner';
import { Logo } from '../../shared/arch/ArchMark.tsx';
import { Notice } from '../../shared/ui/Notice.tsx';
import { accountsApi } from '../features/accounts/accounts.api.ts';
import { useLiveUpdates } from '../features/daybook/hooks/useLiveUpdates.ts';
import { dropDrafts, keepDraftsFor } from '../forms/keptDrafts.ts';
import { todayApi } from '../features/today/today.api.ts';
import { prefs, THEMES, type Theme } from '../prefs.slice.ts';
import { MENU_ITEM } from './ActionMenu.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { helpFor } from './helpFor.ts';

const PLACES = [
  { place: 'today', needs: 'today.work' },
  { place: 'daybook', needs: 'daybook.view' },
  { place: 'identity-review', needs: 'identityReview.decide' },
  { place: 'intake', needs: 'intake.view' },
  { place: 'availability', needs: 'availability.view' },
  { place: 'setup', needs: 'setup.view' },
  { place: 'simulated-carriers', needs: 'simulatedCarriers.use' },
] as const satisfies readonly { place: string; needs: Action }[];

/** Most changes are told at once; a booking that nobody is known for comes with the next look. */
const COUNT_AGAIN_MS = 60_000;

/** The rail with words, the page in the middle, and who you are. */
export function Shell({ me, children }: { me: Me; children: ReactNode }) {
  const { t } = useTranslation();
  const away = useAppSelector((state) => state.connection.away);
  const [signOut] = accountsApi.useSignOutMutation();
  const theme = useAppSelector((state) => state.prefs.theme);
  const dispatch = useAppDispatch();
  const { pathname } = useLocation();
  // A phone's menu unfolds over the page, and folds when one has gone somewhere.
  const [unfoldedAt, setUnfoldedAt] = useState<string | null>(null);
  const isUnfolded = unfoldedAt === pathname;
  const setUnfolded = (unfolded: boolean) => setUnfoldedAt(unfolded ? pathname : null);
  useLiveUpdates();
  // Before any form is drawn and looks for what was typed into it.
  useState(() => keepDraftsFor(me.accountId));
  const { data: count } = todayApi.useCountQuery(
    {},
    { skip: scopeOf(me.role, 'today.work') === 'no', pollingInterval: COUNT_AGAIN_MS },
  );
  return (
    <div className="flex h-dvh max-md:flex-col">
      <a href="#page" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2">
        {t('nav.skip')}
      </a>
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
            onClick={() => setUnfolded(!isUnfolded)}
          >
            {isUnfolded ? <X aria-hidden="true" /> : <Menu aria-hidden="true" />}
          </button>
        </div>
        <div
          id="places"
          className={`flex min-h-0 flex-1 flex-col max-md:absolute max-md:inset-x-0 max-md:top-full max-md:bg-chrome max-md:pb-2 ${isUnfolded ? '' : 'max-md:hidden'}`}
        >
          {PLACES.filter(({ needs }) => scopeOf(me.role, needs) !== 'no').map(({ place }) => (
            <NavLink
              key={place}
              to={`/${place}`}
              className={({ isActive }) =>
                `border-l-4 py-2 pl-3 ${isActive ? 'border-[#d98a5f] bg-chrome-raised font-bold text-white' : 'border-transparent hover:bg-chrome-raised'}`
              }
            >
              {t(`nav.${place}`)}
              <Waiting place={place} count={count} />
            </NavLink>
          ))}
          <NavLink
            to={pathname.startsWith('/help') ? '/help' : helpFor(pathname)}
            className={({ isActive }) =>
              `mt-auto border-l-4 py-2 pl-3 ${isActive ? 'border-[#d98a5f] bg-chrome-raised font-bold text-white' : 'border-transparent hover:bg-chrome-raised'}`
            }
          >
            {t('nav.help')}
          </NavLink>
          <div className="p-2">
            <DropdownMenu.Root>
              <DropdownMenu.Trigger className="w-full rounded-md px-2 py-1.5 text-left hover:bg-chrome-raised">
                <span className="block leading-tight font-bold">{me.name}</span>
                <span className="block text-sm">{t(`role.${me.role}`)}</span>
              </DropdownMenu.Trigger>
              <DropdownMenu.Portal>
                <DropdownMenu.Content
                  side="right"
                  align="end"
                  className="rounded-md border border-line-strong bg-panel p-1"
                >
                  <DropdownMenu.Label className="px-3 pt-1 text-sm text-muted">{t('theme.label')}</DropdownMenu.Label>
                  <DropdownMenu.RadioGroup
                    value={theme}
                    onValueChange={(value) => dispatch(prefs.actions.choseTheme(value as Theme))}
                  >
                    {THEMES.map((each) => (
                      <DropdownMenu.RadioItem key={each} value={each} className={MENU_ITEM}>
                        <span className="inline-block w-4">
                          <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
                        </span>
                        {t(`theme.${each}`)}
                      </DropdownMenu.RadioItem>
                    ))}
                  </DropdownMenu.RadioGroup>
                  <DropdownMenu.Separator className="my-1 h-px bg-line" />
                  <DropdownMenu.Item
                    className={MENU_ITEM}
                    // What was typed and not sent may be about a patient.
                    onSelect={() => {
                      dropDrafts();
                      void signOut({});
                    }}
                  >
                    {t('signOut')}
                  </DropdownMenu.Item>
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
          </div>
        </div>
      </nav>
      <div className="flex min-h-0 min-w-0 flex-1 flex-col" id="page">
        {away && (
          <div className="p-2">
            <Notice tone="warning">{t('away')}</Notice>
          </div>
        )}
        {children}
      </div>
      <Toaster
        position="bottom-left"
        offset={{ left: 120, bottom: 16 }}
        duration={8000}
        toastOptions={{
          style: {
            fontFamily: 'var(--font-sans)',
            fontSize: '14px',
            color: 'var(--color-foreground)',
            background: 'var(--color-panel)',
            borderColor: 'var(--color-line-strong)',
            borderRadius: '5px',
            boxShadow: 'none',
          },
        }}
      />
    </div>
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

import type { Me } from '@zaguan/contracts/accounts';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useLocation } from 'react-router';
import { Toaster } from 'sonner';
import { Notice } from '../../shared/ui/Notice.tsx';
import { UnlessBroken } from '../../shared/ui/UnlessBroken.tsx';
import { useLiveUpdates } from '../features/daybook/hooks/useLiveUpdates.ts';
import { Finder } from '../features/finder/index.ts';
import { keepDraftsFor } from '../forms/keptDrafts.ts';
import { useAppSelector } from '../store.ts';
import { Rail } from './Rail.tsx';

/** The rail with words, the page in the middle, and who you are. */
export function Shell({ me, children }: { me: Me; children: ReactNode }) {
  const { t } = useTranslation();
  const { pathname } = useLocation();
  const broken = {
    ...{ title: t('broken.title'), note: t('broken.note') },
    ...{ again: t('broken.again'), reload: t('broken.reload') },
  };
  const away = useAppSelector((state) => state.connection.away);
  useLiveUpdates();
  // Before any form is drawn and looks for what was typed into it.
  useState(() => keepDraftsFor(me.accountId));
  return (
    // What is hidden for the eye may lie outside; the focus must not scroll the whole page to it.
    <div className="relative flex h-dvh overflow-clip max-md:flex-col">
      <a href="#page" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2">
        {t('nav.skip')}
      </a>
      <Rail me={me} />
      <div className="flex min-h-0 min-w-0 flex-1 flex-col" id="page">
        <Finder me={me} />
        {away && (
          <div className="p-2">
            <Notice tone="warning">{t('away')}</Notice>
          </div>
        )}
        <UnlessBroken words={broken} at={pathname}>
          {children}
        </UnlessBroken>
      </div>
      <Toaster
        // Beside the forms of a page, which are on the left or in a panel on the right, and above a wide panel's buttons.
        position="bottom-center"
        offset={{ bottom: 64 }}
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

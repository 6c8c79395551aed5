import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { useLocation } from 'react-router';
import { UnlessBroken } from '../../shared/ui/UnlessBroken.tsx';

/** A page of the patients' application, or words for what went wrong in it. */
export function Guard({ children }: { children: ReactNode }) {
  const { t } = useTranslation();
  const { pathname } = useLocation();
  const words = {
    ...{ title: t('broken.title'), note: t('broken.note') },
    ...{ again: t('tryAgain'), reload: t('broken.reload') },
  };
  return (
    <UnlessBroken words={words} at={pathname}>
      {children}
    </UnlessBroken>
  );
}

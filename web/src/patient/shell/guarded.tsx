import { type ComponentType, lazy } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../shared/ui/Button.tsx';
import { Notice } from '../../shared/ui/Notice.tsx';

/**
 * A page that comes when it is needed. Where it can't be loaded, as where a phone has no network, or can't be drawn, it
 * says so instead of leaving the screen blank. What says the latter comes with the page: the first question loads nothing
 * more for it.
 */
export function guarded(load: () => Promise<ComponentType>) {
  return lazy(async () => {
    try {
      const [Page, { Guard }] = await Promise.all([load(), import('./Guard.tsx')]);
      const Guarded = () => (
        <Guard>
          <Page />
        </Guard>
      );
      return { default: Guarded };
    } catch {
      return { default: NotLoaded };
    }
  });
}

function NotLoaded() {
  const { t } = useTranslation();
  return (
    <>
      <Notice tone="danger" live="assertive">
        {t('away')}
      </Notice>
      <Button className="mt-3" onClick={() => window.location.reload()}>
        {t('broken.reload')}
      </Button>
    </>
  );
}

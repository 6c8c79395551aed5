import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { prefs, ZOOMS } from '../../../prefs.slice.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { isTyped, KEY_LIST, KEYS_HELP } from '../hooks/useDaybookKeys.ts';

/** How this screen draws the Daybook: names, and how wide an hour is; and the keys that do the same. */
export function DaybookViewMenu() {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const { namesHidden, zoom, letterKeys } = useAppSelector((state) => state.prefs);
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== KEYS_HELP || isTyped(event)) return;
      event.preventDefault();
      setOpen(true);
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);
  return (
    <Popover.Root modal open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger
        className={`rounded-md border px-3 py-1.5 font-semibold ${namesHidden ? 'border-chrome bg-chrome text-white' : 'border-line-strong bg-panel hover:bg-surface-deep'}`}
      >
        {namesHidden ? t('daybookView.hidden') : t('daybookView.title')}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-50 w-72 rounded-md border border-line-strong bg-panel p-3"
        >
          <label className="flex items-start gap-2">
            <input
              type="checkbox"
              className="mt-0.5 size-4 accent-accent"
              checked={namesHidden}
              onChange={(event) => dispatch(prefs.actions.hidNames(event.target.checked))}
            />
            <span>
              {t('daybookView.hideNames')}
              <span className="block text-sm text-muted">{t('daybookView.hideNamesHint')}</span>
            </span>
          </label>
          <div className="mt-3 flex items-center gap-2">
            <span id="daybook-view-zoom">{t('daybookView.width')}</span>
            <Button
              aria-label={t('daybookView.narrower')}
              className="ml-auto w-9"
              disabled={zoom === ZOOMS[0]}
              onClick={() => dispatch(prefs.actions.zoomed(-1))}
            >
              −
            </Button>
            <output aria-labelledby="daybook-view-zoom" className="w-12 text-center font-bold">
              {zoom === 1 ? t('daybookView.fits') : `× ${zoom}`}
            </output>
            <Button
              aria-label={t('daybookView.wider')}
              className="w-9"
              disabled={zoom === ZOOMS[ZOOMS.length - 1]}
              onClick={() => dispatch(prefs.actions.zoomed(1))}
            >
              +
            </Button>
          </div>
          <h3 className="mt-3 font-bold">{t('daybookView.keys')}</h3>
          <label className="mt-1 flex items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-accent"
              checked={letterKeys}
              onChange={(event) => dispatch(prefs.actions.setLetterKeys(event.target.checked))}
            />
            {t('daybookView.letterKeys')}
          </label>
          <dl className="mt-1 grid grid-cols-[5.5rem_1fr] gap-y-1">
            {KEY_LIST.map(([what, key]) => (
              <div key={what} className="contents">
                <dt>
                  <kbd className="rounded-sm border border-line-strong bg-surface-deep px-1.5 font-sans">{key}</kbd>
                </dt>
                <dd>{t(`daybookView.key.${what}`)}</dd>
              </div>
            ))}
            <dt>
              <kbd className="rounded-sm border border-line-strong bg-surface-deep px-1.5 font-sans whitespace-nowrap">
                ← → ↑ ↓
              </kbd>
            </dt>
            <dd>{t('daybookView.key.arrows')}</dd>
            <dt>
              <kbd className="rounded-sm border border-line-strong bg-surface-deep px-1.5 font-sans">m</kbd>
            </dt>
            <dd>{t('daybookView.key.pickUp')}</dd>
            <dt>
              <kbd className="rounded-sm border border-line-strong bg-surface-deep px-1.5 font-sans">{KEYS_HELP}</kbd>
            </dt>
            <dd>{t('daybookView.key.help')}</dd>
          </dl>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

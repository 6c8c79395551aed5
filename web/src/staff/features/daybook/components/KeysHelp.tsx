import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { PopoverButton } from '../../../shell/PopoverButton.tsx';
import { prefs } from '../../../prefs.slice.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { isTyped, KEY_LIST, KEYS_HELP } from '../hooks/useDaybookKeys.ts';

/** The keys of the Daybook, which open by one themselves; single ones can be turned off (WCAG 2.1.4). */
export function KeysHelp() {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const { letterKeys } = useAppSelector((state) => state.prefs);
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
  const rows = [
    ...KEY_LIST.map(([what, key]) => ({ key, words: t(`daybookView.key.${what}`) })),
    { key: '0–9', words: t('daybookView.key.lens') },
    { key: '← → ↑ ↓', words: t('daybookView.key.arrows') },
    { key: 'm', words: t('daybookView.key.pickUp') },
    { key: KEYS_HELP, words: t('daybookView.key.help') },
  ];
  return (
    <PopoverButton
      name="keys"
      words={KEYS_HELP}
      label={t('daybookView.keys')}
      className="w-80"
      modal
      open={isOpen}
      onOpenChange={setOpen}
    >
      <h3 className="font-bold">{t('daybookView.keys')}</h3>
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
        {rows.map(({ key, words }) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded-sm border border-line-strong bg-surface-deep px-1.5 font-sans whitespace-nowrap">
                {key}
              </kbd>
            </dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
    </PopoverButton>
  );
}

import { type ReactNode, useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../shared/ui/Button.tsx';

interface Props {
  readonly label: string;
  readonly onClose: () => void;
  /** What the panel is about: the focus goes into it again when that changes. */
  readonly about?: string;
  readonly children: ReactNode;
  readonly className?: string;
  /** The content has a button of its own that closes. */
  readonly closesItself?: boolean;
}

/**
 * What stands beside a page's main part. The focus goes into it when it opens and back to what opened it when it
 * closes; Escape closes it. On a phone it covers the page.
 */
export function SidePanel({ label, onClose, about = '', children, className = '', closesItself }: Props) {
  const { t } = useTranslation();
  const box = usePanelFocus(about);
  return (
    <aside
      ref={box}
      aria-label={label}
      tabIndex={-1}
      className={`relative flex w-[330px] shrink-0 scroll-pb-20 flex-col overflow-y-auto border-l border-line bg-surface px-4 py-3 outline-none max-md:fixed max-md:inset-0 max-md:z-40 max-md:w-full ${className}`}
      onKeyDown={(event) => {
        // A field's own Escape, such as of a list that is open, is not meant for the panel.
        if (event.key === 'Escape' && !event.defaultPrevented) onClose();
      }}
    >
      {!closesItself && (
        <Button look="plain" className="-mt-1 -mr-2 self-end" onClick={onClose}>
          {t('close')}
        </Button>
      )}
      {children}
    </aside>
  );
}

/**
 * Puts the focus into a panel, and back to its opener when the panel goes, if that is still in the page.
 */
export function usePanelFocus(about: string) {
  const box = useRef<HTMLElement>(null);
  const opener = useRef<HTMLElement | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another subject takes the focus again
  useEffect(() => {
    const active = document.activeElement;
    if (active instanceof HTMLElement && active !== document.body && !box.current?.contains(active))
      opener.current = active;
    // A field of the panel may have taken the focus already.
    if (!box.current?.contains(document.activeElement)) box.current?.focus({ preventScroll: true });
  }, [about]);
  useEffect(
    () => () => {
      const gone = document.activeElement === document.body || document.activeElement === null;
      const back = opener.current;
      // In the next moment: the panel is still in the page.
      setTimeout(() => {
        const lost = gone || document.activeElement === document.body || !document.activeElement;
        if (lost && back?.isConnected) back.focus({ preventScroll: true });
      });
    },
    [],
  );
  return box;
}

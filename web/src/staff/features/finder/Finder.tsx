import type { Me } from '@zaguan/contracts/accounts';
import { Search } from 'lucide-react';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';

/** Read in when somebody looks for something. */
const FinderDialog = lazy(() => import('./FinderDialog.tsx').then((module) => ({ default: module.FinderDialog })));

/** Where one types, a slash is a slash. */
const TYPES = 'input, select, textarea, [contenteditable], [role="menu"], [role="dialog"]';

/** The box at the top of every page: patients, people, places and acts by what is typed. Ctrl or ⌘ with K, or a slash. */
export function Finder({ me }: { me: Me }) {
  const { t } = useTranslation();
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const isChord = event.key.toLowerCase() === 'k' && (event.ctrlKey || event.metaKey) && !event.altKey;
      const isSlash = event.key === '/' && !event.ctrlKey && !event.metaKey && !event.altKey;
      const isTyping = event.target instanceof Element && event.target.closest(TYPES) !== null;
      if (!isChord && !(isSlash && !isTyping)) return;
      event.preventDefault();
      setOpen(true);
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);
  return (
    <div className="flex items-center border-b border-line bg-surface-deep px-3 py-1">
      <button
        type="button"
        aria-haspopup="dialog"
        aria-keyshortcuts="Control+K Meta+K /"
        className="flex min-h-7 w-full max-w-md items-center gap-2 rounded-md border border-line-strong bg-panel px-2 text-left text-muted hover:border-accent"
        onClick={() => setOpen(true)}
      >
        <Search size={14} aria-hidden="true" />
        <span className="flex-1 truncate">{t('finder.open')}</span>
        <kbd className="font-sans text-xs max-md:hidden">{t('finder.keys')}</kbd>
      </button>
      {isOpen && (
        <Suspense fallback={null}>
          <FinderDialog me={me} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </div>
  );
}

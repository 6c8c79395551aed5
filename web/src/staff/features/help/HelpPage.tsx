import { ScrollRegion } from '../../../shared/ui/ScrollRegion.tsx';
import {
  Children,
  type ComponentProps,
  isValidElement,
  useDeferredValue,
  useEffect,
  useId,
  useMemo,
  useState,
} from 'react';
import { useTranslation } from 'react-i18next';
import Markdown from 'react-markdown';
import { Link, NavLink, useLocation, useParams } from 'react-router';
import rehypeSlug from 'rehype-slug';
import remarkGfm from 'remark-gfm';
import { PAGES } from './pages.ts';
import { helpSearch, slugOf } from './sections.ts';

/** Headings of the second level, with their anchors. */
const headingsOf = (text: string) =>
  [...text.matchAll(/^## (.+)$/gm)].map(([, heading]) => ({ text: heading.replace(/`/g, ''), slug: slugOf(heading) }));

/** A hit shows so much of its text. */
const SHOWN_CHARACTERS = 110;

/** What was found, each leading to its section. */
function Found({ words, onGo }: { words: string; onGo: () => void }) {
  const { t } = useTranslation();
  const search = useMemo(() => helpSearch(PAGES), []);
  const found = useMemo(() => search(words), [search, words]);
  return (
    <>
      <p role="status" className="mb-1 text-muted">
        {t('help.found', { count: found.length })}
      </p>
      <ul className="flex flex-col gap-2">
        {found.map((section) => (
          <li key={section.id}>
            <Link
              to={`/help/${section.id}`}
              onClick={onGo}
              className="block rounded-sm px-2 py-1 hover:bg-surface-deep"
            >
              <span className="block font-bold">{section.heading}</span>
              <span className="block text-sm text-muted">
                {section.pageTitle}: {section.text.slice(0, SHOWN_CHARACTERS)}…
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}

/** A rule's heading is found by the rule's code, so that other pages can point to it; read are its words alone. */
function RuleHeading({ id, children }: ComponentProps<'h3'>) {
  const [first, ...rest] = Children.toArray(children);
  const code = isValidElement<{ children?: unknown }>(first) && first.type === RuleWords ? first.props.children : null;
  if (typeof code !== 'string') return <h3 id={id}>{children}</h3>;
  return (
    <h3 id={code} className="first-letter:uppercase">
      {rest.map((part) => (typeof part === 'string' ? part.replace(/^: /, '') : part))}
    </h3>
  );
}

/** The handbook names rules as the tests do that read it; people read them as *Why not?* says them. */
function RuleWords({ children, ...rest }: ComponentProps<'code'>) {
  const { t, i18n } = useTranslation();
  const words = (code: string) => (i18n.exists(`whyNot.code.${code}`) ? t(`whyNot.code.${code as 'past'}`) : null);
  const text = String(children);
  const own = words(text);
  if (own) return <em>{own}</em>;
  const said = text.replace(/→ ([a-z-]+)/g, (all, code: string) => (words(code) ? `→ hidden: ${words(code)}` : all));
  return <code {...rest}>{said}</code>;
}

/** The handbook, from the files in `docs/` that the tests read too. */
export function HelpPage() {
  const { t } = useTranslation();
  const { page = PAGES[0].id } = useParams();
  const { hash } = useLocation();
  const found = PAGES.find(({ id }) => id === page);
  const searchId = useId();
  const [typed, setTyped] = useState('');
  const words = useDeferredValue(typed.trim());
  useEffect(() => {
    document.title = found ? `${found.title} · ${t('help.title')}` : t('help.title');
    if (hash) document.getElementById(decodeURIComponent(hash.slice(1)))?.scrollIntoView();
  }, [found, hash, t]);
  return (
    <main className="flex min-h-0 flex-1">
      <nav aria-label={t('help.pages')} className="w-56 shrink-0 overflow-y-auto border-r border-line p-4">
        <h1 className="mb-2 text-xl font-bold">{t('help.title')}</h1>
        <label htmlFor={searchId} className="font-semibold">
          {t('help.search')}
        </label>
        <input
          id={searchId}
          type="search"
          className="mb-3 w-full rounded-md border border-line-strong bg-panel px-2 py-1.5"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        {words && <Found words={words} onGo={() => setTyped('')} />}
        <ul className={words ? 'hidden' : 'flex flex-col gap-1'}>
          {PAGES.map(({ id, title, text }) => (
            <li key={id}>
              <NavLink
                to={`/help/${id}`}
                className={({ isActive }) =>
                  `block rounded-sm px-2 py-1 ${isActive ? 'bg-surface-deep font-bold' : 'hover:bg-surface-deep'}`
                }
              >
                {title}
              </NavLink>
              {id === page && (
                <ul aria-label={t('help.contents')} className="mt-1 ml-4 flex flex-col gap-0.5">
                  {headingsOf(text).map(({ slug, text: heading }) => (
                    <li key={slug}>
                      <Link to={`#${slug}`} className="text-base hover:underline">
                        {heading}
                      </Link>
                    </li>
                  ))}
                </ul>
              )}
            </li>
          ))}
        </ul>
      </nav>
      <ScrollRegion aria-label={found?.title ?? t('help.title')} className="min-w-0 flex-1 overflow-y-auto px-8 py-4">
        {found ? (
          <article className="handbook max-w-[44rem] pb-16">
            <Markdown
              remarkPlugins={[remarkGfm]}
              rehypePlugins={[rehypeSlug]}
              components={{ h3: RuleHeading, code: RuleWords }}
            >
              {found.text}
            </Markdown>
          </article>
        ) : (
          <p>{t('help.notFound')}</p>
        )}
      </ScrollRegion>
    </main>
  );
}

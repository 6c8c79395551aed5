import { Children, type ComponentProps, isValidElement, useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import Markdown from 'react-markdown';
import { Link, NavLink, useLocation, useParams } from 'react-router';
import rehypeSlug from 'rehype-slug';
import remarkGfm from 'remark-gfm';
import { PAGES } from './pages.ts';

/** A heading of the page, as `rehype-slug` names it. */
interface Heading {
  readonly text: string;
  readonly slug: string;
}

function headingsOf(text: string): Heading[] {
  return [...text.matchAll(/^## (.+)$/gm)].map(([, heading]) => ({
    text: heading.replace(/`/g, ''),
    slug: heading
      .toLowerCase()
      .replace(/[^\p{L}\p{N}\s-]/gu, '')
      .trim()
      .replace(/\s/g, '-'),
  }));
}

/** A rule's heading is found by the rule's code, so that other pages can point to it. */
function RuleHeading({ id, children }: ComponentProps<'h3'>) {
  const [first] = Children.toArray(children);
  const code = isValidElement<{ children?: unknown }>(first) && first.type === 'code' ? first.props.children : null;
  return <h3 id={typeof code === 'string' ? code : id}>{children}</h3>;
}

/** The handbook, from the files in `docs/` that the tests read too. */
export function HelpPage() {
  const { t } = useTranslation();
  const { page = PAGES[0].id } = useParams();
  const { hash } = useLocation();
  const found = PAGES.find(({ id }) => id === page);
  useEffect(() => {
    document.title = found ? `${found.title} · ${t('help.title')}` : t('help.title');
    if (hash) document.getElementById(decodeURIComponent(hash.slice(1)))?.scrollIntoView();
  }, [found, hash, t]);
  return (
    <main className="flex min-h-0 flex-1">
      <nav aria-label={t('help.pages')} className="w-56 shrink-0 overflow-y-auto border-r border-line p-4">
        <h1 className="mb-2 text-[1.3rem] font-bold">{t('help.title')}</h1>
        <ul className="flex flex-col gap-1">
          {PAGES.map(({ id, title, text }) => (
            <li key={id}>
              <NavLink
                to={`/help/${id}`}
                className={({ isActive }) =>
                  `block rounded-sm px-2 py-1 ${isActive ? 'bg-lime-deep font-bold' : 'hover:bg-lime-deep'}`
                }
              >
                {title}
              </NavLink>
              {id === page && (
                <ul aria-label={t('help.contents')} className="mt-1 ml-4 flex flex-col gap-0.5">
                  {headingsOf(text).map(({ slug, text: heading }) => (
                    <li key={slug}>
                      <Link to={`#${slug}`} className="text-[0.93rem] hover:underline">
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
      <section
        aria-label={found?.title ?? t('help.title')}
        className="min-w-0 flex-1 overflow-y-auto px-8 py-4"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard (WCAG 2.1.1)
        tabIndex={0}
      >
        {found ? (
          <article className="handbook max-w-[44rem] pb-16">
            <Markdown remarkPlugins={[remarkGfm]} rehypePlugins={[rehypeSlug]} components={{ h3: RuleHeading }}>
              {found.text}
            </Markdown>
          </article>
        ) : (
          <p>{t('help.notFound')}</p>
        )}
      </section>
    </main>
  );
}

import { scopeOf } from '@zaguan/contracts';
import { UserPlus } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useDebounced } from '../../../../shared/time/useDebounced.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { patientsApi } from '../patients.api.ts';
import { EVERYONE, keepQuery, keptQuery, type Query } from './listQuery.ts';
import { ListFilters } from './ListFilters.tsx';
import { PatientsTable } from './PatientsTable.tsx';
import { SavedLists } from './SavedLists.tsx';

const AFTER_MS = 200;

/** Patients as a table: the search of the box at the top, narrowed, in order, and saved under a name. */
export function PatientsPage() {
  const { t } = useTranslation();
  const { data } = accountsApi.useWhoAmIQuery({});
  const [query, setQuery] = useState<Query>(keptQuery);
  const [page, setPage] = useState(0);
  const settled = useDebounced(query.text, AFTER_MS);
  const list = patientsApi.useListQuery({ ...query, text: settled, page }, { refetchOnMountOrArgChange: true });
  useEffect(() => {
    document.title = t('patients.title');
  }, [t]);
  const change = (to: Partial<Query>) => {
    const next = { ...query, ...to };
    setQuery(next);
    keepQuery(next);
    setPage(0);
  };
  // While the next answer is on its way, the last one stands.
  const shown = list.data;
  const isTyped = query.text.trim() !== '';
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-center gap-3 border-b border-line px-4 py-2">
        <h1 className="text-xl font-bold">{t('patients.title')}</h1>
        <SavedLists query={query} onChoose={(chosen) => change({ ...EVERYONE, ...chosen })} />
        {data?.me && scopeOf(data.me.role, 'patients.edit') !== 'no' && (
          <Link
            to="/patients/new"
            className="ml-auto inline-flex items-center gap-1.5 rounded-md border border-primary bg-primary px-3 py-1.5 font-semibold text-on-fill hover:bg-primary-strong"
          >
            <UserPlus size={16} aria-hidden="true" /> {t('patients.register')}
          </Link>
        )}
      </header>
      <ListFilters query={query} onChange={change} />
      <ScrollRegion sideways className="min-h-0 flex-1" aria-label={t('patients.title')} aria-busy={list.isFetching}>
        {shown ? (
          <PatientsTable
            patients={shown.patients}
            query={query}
            isTyped={isTyped}
            onSort={(sort, descending) => change({ sort, descending })}
          />
        ) : (
          <QueryFrame query={list} bars={8} />
        )}
        {shown && shown.patients.length === 0 && <p className="px-4 py-6 text-muted">{t('patients.none')}</p>}
      </ScrollRegion>
      {shown && (
        <footer className="flex flex-wrap items-center gap-3 border-t border-line px-4 py-1.5" data-total={shown.total}>
          <span role="status">
            {shown.more ? t('patients.most', { count: shown.total }) : t('patients.total', { count: shown.total })}
          </span>
          <Pages total={shown.total} size={shown.pageSize} page={page} onPage={setPage} />
        </footer>
      )}
    </main>
  );
}

function Pages({
  total,
  size,
  page,
  onPage,
}: {
  total: number;
  size: number;
  page: number;
  onPage: (page: number) => void;
}) {
  const { t } = useTranslation();
  const pages = Math.ceil(total / size);
  if (pages <= 1) return null;
  return (
    <span className="ml-auto flex items-center gap-2">
      <Button disabled={page === 0} onClick={() => onPage(page - 1)}>
        {t('patients.earlier')}
      </Button>
      {t('patients.pages', { page: page + 1, pages })}
      <Button disabled={page + 1 >= pages} onClick={() => onPage(page + 1)}>
        {t('patients.later')}
      </Button>
    </span>
  );
}

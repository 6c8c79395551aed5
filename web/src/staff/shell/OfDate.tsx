import { askedDate } from '@zaguan/contracts';
import { useTranslation } from 'react-i18next';
import { Link, Outlet, useParams } from 'react-router';
import { ArchMark } from '../../shared/arch/ArchMark.tsx';

/** Pages of a date or a month in their address: one that is no date, or out of reach, is said to be so, with the way to today. */
export function OfDate() {
  const { t } = useTranslation();
  const { date: asked, month } = useParams();
  const date = asked ?? (month && `${month}-01`);
  if (date === undefined || askedDate.safeParse(date).success) return <Outlet />;
  return (
    <main className="flex flex-1 flex-col items-start gap-3 p-6">
      <h1 className="flex items-center gap-2 text-2xl font-bold">
        <ArchMark shape="outline" label="" size={32} />
        {t('noSuchDay.title')}
      </h1>
      <p>{t('noSuchDay.note')}</p>
      <Link className="font-bold text-accent underline" to="/daybook">
        {t('noSuchDay.today')}
      </Link>
    </main>
  );
}

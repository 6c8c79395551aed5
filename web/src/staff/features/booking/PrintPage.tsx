import type { OutputOf } from '@zaguan/contracts';
import type { visitDetails } from '@zaguan/contracts/desk';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { formatDate, formatPhone, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { QueryFrame } from '../../shell/QueryFrame.tsx';
import { PRINT_WORDS } from '../../words.print.ts';
import { bookingApi } from './booking.api.ts';

/** A sheet for each visit, to be printed and taken home. */
export function PrintPage() {
  const { t } = useTranslation();
  const { ids = '' } = useParams();
  useEffect(() => {
    document.title = t('book.print');
  }, [t]);
  return (
    <main className="mx-auto max-w-2xl bg-panel px-10 py-8">
      <p className="mb-6 print:hidden">
        <Button look="primary" onClick={() => window.print()}>
          {t('book.print')}
        </Button>
      </p>
      {ids.split(',').map((id) => (
        <Sheet key={id} id={id} />
      ))}
    </main>
  );
}

function Sheet({ id }: { id: string }) {
  const query = bookingApi.useDetailsQuery({ id: id as never });
  if (!query.currentData) return <QueryFrame query={query} bars={4} />;
  return <Details details={query.currentData} />;
}

function Details({ details }: { details: OutputOf<typeof visitDetails> }) {
  const { language, start, timeZone } = details;
  const words = PRINT_WORDS[language];
  const lines: readonly (readonly [string, string])[] = [
    [words.when, `${formatDate(details.date, language, true)}, ${timeOf(start, timeZone, language)}`],
    [words.what, details.visitType],
    [words.who, details.provider ?? ''],
    [words.where, `${details.site}, ${details.address}`],
    [words.directions, details.directions],
    [words.preparation, details.preparation],
    [words.phone, details.phone.startsWith('+') ? formatPhone(details.phone) : details.phone],
  ];
  return (
    <article lang={language} data-sheet className="break-after-page pb-10">
      <p className="text-muted">{details.clinic}</p>
      <h1 className="text-2xl font-bold">{words.title}</h1>
      <p className="mb-3 text-lg">{details.patient}</p>
      <dl className="grid grid-cols-[11rem_1fr] gap-x-4 gap-y-2">
        {lines.map(
          ([label, text]) =>
            text && (
              <div key={label} className="contents">
                <dt className="font-semibold">{label}</dt>
                <dd className="whitespace-pre-line">{text}</dd>
              </div>
            ),
        )}
      </dl>
    </article>
  );
}

import type { OutputOf } from '@zaguan/contracts';
import { MAX_CALENDAR_BYTES, MAX_CLOSURES, type readClosures, type SiteDoc } from '@zaguan/contracts/setup';
import { useState } from 'react';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { shortDate } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { FileButton } from '../../../../shared/ui/FileButton.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { setupApi } from '../setup.api.ts';

type Read = OutputOf<typeof readClosures>;

/** Closures out of an iCalendar file: shown with what could not be read, then put into the form; saved with it. */
export function ClosureImport() {
  const { t } = useTranslation();
  const form = useFormContext<SiteDoc>();
  const [read, setRead] = useState<Read | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [ask, { isLoading }] = setupApi.useReadClosuresMutation();
  const take = async (file: File) => {
    setRead(null);
    setFault(null);
    if (file.size > MAX_CALENDAR_BYTES) return setFault('calendar-too-large');
    const result = await ask({ timeZone: form.getValues('timeZone'), calendar: await file.text() });
    const error = 'error' in result ? apiError(result.error) : null;
    if (error) setFault(error.issues?.[0]?.code ?? 'other');
    else if ('data' in result && result.data) setRead(result.data);
  };
  const known = new Set(form.getValues('closures').map((row) => `${row.uid}|${row.startDate}`));
  const news = read?.closures.filter((row) => !known.has(`${row.uid}|${row.startDate}`)) ?? [];
  const fresh = news.slice(0, Math.max(0, MAX_CLOSURES - form.getValues('closures').length));
  return (
    <div className="flex flex-col gap-2">
      <FileButton
        label={t(isLoading ? 'loading' : 'setup.fromCalendar')}
        accept=".ics,text/calendar"
        disabled={isLoading}
        onFile={(file) => void take(file)}
      />
      {fault && (
        <Notice tone="danger" live="assertive">
          {t(`fault.${fault}`, { defaultValue: t('fault.other') })}
        </Notice>
      )}
      {read && (
        <Notice tone={read.refused.length ? 'warning' : 'success'}>
          <p className="font-bold">
            {t('setup.closuresRead', { count: news.length })}
            {read.closures.length > news.length &&
              ` ${t('setup.closuresKnown', { count: read.closures.length - news.length })}`}
          </p>
          {news.length > fresh.length && <p>{t('setup.closuresMore', { count: fresh.length, most: MAX_CLOSURES })}</p>}
          <ul>
            {fresh.slice(0, 8).map((row) => (
              <li key={`${row.uid}${row.startDate}${row.startMinute}`}>
                {shortDate(row.startDate)} {row.reason}
              </li>
            ))}
            {fresh.length > 8 && <li>…</li>}
          </ul>
          {read.refused.map((row) => (
            <p key={`${row.at} ${row.code} ${row.detail}`} className="text-danger">
              {t('setup.closureRefused', {
                n: row.at,
                name: row.summary,
                why: codeWords(t, 'fault', row.code, { detail: row.detail }),
              })}
            </p>
          ))}
          {fresh.length > 0 && (
            <Button
              className="mt-2"
              onClick={() => {
                form.setValue('closures', [...form.getValues('closures'), ...fresh], {
                  shouldDirty: true,
                  shouldTouch: true,
                });
                setRead(null);
              }}
            >
              {t('setup.takeClosures', { count: fresh.length })}
            </Button>
          )}
        </Notice>
      )}
    </div>
  );
}

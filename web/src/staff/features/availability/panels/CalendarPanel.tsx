import type { ScheduleWeek, WireEdit } from '@zaguan/contracts/availability';
import type { BusyTimes } from '@zaguan/contracts/feeds';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { shortDate, wallTime } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { FileButton } from '../../../../shared/ui/FileButton.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useUndoToast } from '../../undo/index.ts';
import { feedsApi } from '../feeds.api.ts';
import type { Lane } from '../grid/geometry.ts';
import { useNames } from '../hooks/useNames.ts';
import { PanelForm } from './PanelForm.tsx';

/** Larger files are refused by the server; it is said before they are sent. */
const MAX_BYTES = 1_000_000;
/** As many busy times as one edit takes. */
const MAX_AT_ONCE = 250;

/** A schedule and other calendars: a file to keep, a private address to follow, busy times to read in. */
export function CalendarPanel({ week, lane, onClose }: { week: ScheduleWeek; lane: Lane; onClose: () => void }) {
  const { t } = useTranslation();
  return (
    <div className="flex flex-col gap-4">
      <h2 className="text-xl font-bold">{t('feeds.title', { name: lane.name })}</h2>
      <section className="flex flex-col gap-2">
        <p className="text-muted">{t('feeds.fileHint')}</p>
        <a
          href={`/api/calendars/${lane.resourceId}`}
          download={`${lane.name}.ics`}
          className="self-start rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep"
        >
          {t('feeds.download')}
        </a>
      </section>
      <Feeds resourceId={lane.resourceId} />
      {/* It becomes time off, which is asked for and not taken by oneself. */}
      {week.mayEdit === 'all' && <BusyImport week={week} lane={lane} onClose={onClose} />}
    </div>
  );
}

function Feeds({ resourceId }: { resourceId: string }) {
  const { t } = useTranslation();
  const { data, error } = feedsApi.useFeedsQuery({ resourceId });
  const [create, { isLoading }] = feedsApi.useCreateFeedMutation();
  const [revoke] = feedsApi.useRevokeFeedMutation();
  const undoable = useUndoToast();
  const [detailed, setDetailed] = useState(false);
  /** Shown once: it is kept nowhere. */
  const [address, setAddress] = useState<string | null>(null);
  const failed = apiError(error);
  const complain = (problem: unknown) => {
    const refused = apiError(problem);
    toast.error(t(`error.${refused?.tag ?? 'Unexpected'}`, { requestId: refused?.requestId }));
  };
  const make = async () => {
    const result = await create({ resourceId, detailed });
    if (result.data) setAddress(`${location.origin}${result.data.path}`);
    else complain(result.error);
  };
  const end = async (id: string) => {
    const result = await revoke({ id });
    if (!result.data) return complain(result.error);
    // It was shown once, when it was made; it opens nothing any more.
    setAddress(null);
    undoable(t('feeds.revoked'), result.data.undo.id);
  };
  return (
    <section className="flex flex-col gap-2 border-t border-line pt-3" aria-label={t('feeds.private')}>
      <h3 className="font-bold">{t('feeds.private')}</h3>
      <p className="text-muted">{t('feeds.privateHint')}</p>
      {failed && <Notice tone="danger">{t(`error.${failed.tag}`, { requestId: failed.requestId })}</Notice>}
      <ul>
        {data?.feeds.map((feed) => (
          <li key={feed.id} className="flex items-center justify-between gap-2 border-t border-line py-1.5">
            <span>
              {t(feed.detailed ? 'feeds.detailed' : 'feeds.plain')}
              <span className="block text-sm text-muted">
                {t('feeds.madeBy', { name: feed.createdBy, date: shortDate(feed.createdAt.slice(0, 10)) })},{' '}
                {feed.lastReadAt
                  ? t('feeds.lastRead', { date: shortDate(feed.lastReadAt.slice(0, 10)) })
                  : t('feeds.neverRead')}
              </span>
            </span>
            <Button look="danger" onClick={() => void end(feed.id)}>
              {t('feeds.revoke')}
            </Button>
          </li>
        ))}
      </ul>
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-0.5 size-4 accent-accent"
          checked={detailed}
          onChange={(event) => setDetailed(event.target.checked)}
        />
        <span>
          {t('feeds.withType')}
          <span className="block text-muted">{t('feeds.withTypeHint')}</span>
        </span>
      </label>
      <Button className="self-start" disabled={isLoading} onClick={() => void make()}>
        {t('feeds.create')}
      </Button>
      {address && (
        <Notice tone="success" live="polite">
          {t('feeds.once')}
          <input
            aria-label={t('feeds.address')}
            readOnly
            className="mt-1 w-full rounded-md border border-line-strong bg-panel px-2 py-1 text-sm"
            value={address}
            onFocus={(event) => event.target.select()}
          />
        </Notice>
      )}
    </section>
  );
}

function BusyImport({ week, lane, onClose }: { week: ScheduleWeek; lane: Lane; onClose: () => void }) {
  const { t } = useTranslation();
  const name = useNames(week);
  const [read, { isLoading }] = feedsApi.useReadBusyMutation();
  const [found, setFound] = useState<BusyTimes | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const give = async (file: File) => {
    setFound(null);
    setFault(null);
    if (file.size > MAX_BYTES) return setFault(t('feeds.tooBig'));
    const result = await read({ resourceId: lane.resourceId, text: await file.text() });
    if (!result.data) {
      const refused = apiError(result.error);
      return setFault(t(`error.${refused?.tag ?? 'Unexpected'}`, { requestId: refused?.requestId }));
    }
    if (!result.data.readable) return setFault(t('feeds.notCalendar'));
    setFound(result.data);
  };
  const all = (found?.busy ?? []).filter(({ known }) => !known);
  const news = all.slice(0, MAX_AT_ONCE);
  const edits: WireEdit[] = news.map(({ siteId, startDate, startMinute, endDate, endMinute, summary }) => ({
    do: 'time-off',
    resourceIds: [lane.resourceId],
    siteId,
    reason: summary || t('feeds.busy'),
    startDate,
    startMinute,
    endDate,
    endMinute,
  }));
  return (
    <section className="flex flex-col gap-2 border-t border-line pt-3" aria-label={t('feeds.import')}>
      <h3 className="font-bold">{t('feeds.import')}</h3>
      <p className="text-muted">{t('feeds.importHint')}</p>
      <FileButton
        label={t('feeds.file')}
        accept=".ics,text/calendar"
        disabled={isLoading}
        onFile={(file) => void give(file)}
      />
      {fault && (
        <Notice tone="danger" live="assertive">
          {fault}
        </Notice>
      )}
      {found && (
        <>
          {found.refused.length > 0 && (
            <ul className="rounded-md border border-warning bg-warning-subtle px-3 py-2">
              {found.refused.map((row) => (
                <li key={`${row.at} ${row.code} ${row.detail}`}>
                  {t('feeds.event', { at: row.at, summary: row.summary }).trim()}:{' '}
                  {codeWords(t, 'feeds.refused', row.code, { detail: row.detail })}
                </li>
              ))}
            </ul>
          )}
          {found.busy.some(({ known }) => known) && <p className="text-muted">{t('feeds.known')}</p>}
          {all.length > news.length && (
            <p className="font-semibold">{t('feeds.more', { taken: news.length, count: all.length })}</p>
          )}
          {!news.length && <p className="font-semibold">{t('feeds.nothingNew')}</p>}
          {news.length > 0 && (
            <PanelForm
              title={t('feeds.found', { count: news.length })}
              week={week}
              read={{ edits }}
              done={t('feeds.imported', { count: news.length })}
              onClose={onClose}
            >
              {() => (
                <ul
                  // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard (WCAG 2.1.1)
                  tabIndex={0}
                  aria-label={t('feeds.found', { count: news.length })}
                  className="max-h-[180px] overflow-y-auto rounded-md border border-line bg-panel px-2 py-1"
                >
                  {news.map((row) => (
                    <li key={`${row.siteId}${row.startDate}${row.startMinute}${row.endMinute}`}>
                      {shortDate(row.startDate)}, {wallTime(row.startMinute)} –{' '}
                      {row.endDate === row.startDate ? '' : `${shortDate(row.endDate)}, `}
                      {wallTime(row.endMinute)}{' '}
                      <span className="text-muted">{[row.summary, name(row.siteId)].filter(Boolean).join(', ')}</span>
                    </li>
                  ))}
                </ul>
              )}
            </PanelForm>
          )}
        </>
      )}
      {!news.length && (
        <Button className="self-start" onClick={onClose}>
          {t('close')}
        </Button>
      )}
    </section>
  );
}

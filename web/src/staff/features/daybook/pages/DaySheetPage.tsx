import type { OutputOf } from '@zaguan/contracts';
import type { DaySheetRow, daySheet } from '@zaguan/contracts/daybook';
import { SHEET_COLUMNS, type SheetWords } from '@zaguan/core/daybook';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { download, UTF8_MARK } from '../../../../shared/csv.ts';
import {
  formatBirthDate,
  formatDate,
  formatPhone,
  timeOf,
  wallTime,
  zoneShort,
} from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { SelectField, TickField } from '../../../../shared/ui/inputs.tsx';
import { prefs } from '../../../prefs.slice.ts';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { UnreadableNotice } from '../../../shell/UnreadableNotice.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { useAppDispatch } from '../../../store.ts';
import { daybookApi } from '../daybook.api.ts';
import { formatStatus } from '../plateFace.ts';
import { sheetCsv } from '../sheetCsv.ts';
import { useDaybookView } from '../views/useDaybookView.ts';

type Sheet = OutputOf<typeof daySheet>;

/** The day of a site, a person, a room or a device on paper, as CSV or for a calendar program. */
export function DaySheetPage() {
  const { t } = useTranslation();
  const { date = '' } = useParams();
  const { asked } = useAddress();
  const siteId = asked.get('site') ?? '';
  const resourceId = asked.get('of') ?? undefined;
  const query = daybookApi.useDaySheetQuery({ date, siteId, resourceId });
  const sheet = query.currentData;
  useEffect(() => {
    document.title = `${t('daySheet.title')} · ${date ? formatDate(date) : ''}`;
  }, [t, date]);
  return (
    <main className="min-h-screen bg-panel px-8 py-6 print:p-0">
      <Choices date={date} siteId={siteId} resourceId={resourceId} />
      {sheet ? <SheetOf sheet={sheet} resourceId={resourceId} /> : <QueryFrame query={query} bars={8} />}
    </main>
  );
}

/** Whose day it is: a site's, or what one person, room or device has there. */
function Choices({ date, siteId, resourceId }: { date: string; siteId: string; resourceId: string | undefined }) {
  const { t } = useTranslation();
  const { set } = useAddress();
  const { data: day } = daybookApi.useDayQuery({ date });
  const lanes = day?.sites.find(({ id }) => id === siteId)?.lanes ?? [];
  const used = lanes.filter((lane) => lane.plates.length > 0 || lane.resourceId === resourceId);
  return (
    <div className="mb-3 flex flex-wrap items-end gap-3 print:hidden">
      <SelectField
        label={t('daySheet.site')}
        value={siteId}
        onChange={(event) => set({ site: event.target.value, of: null })}
        options={day?.sites ?? []}
      />
      <SelectField
        label={t('daySheet.of')}
        value={resourceId ?? ''}
        none={t('daySheet.everyone')}
        onChange={(event) => set({ of: event.target.value || null })}
        options={used.map((lane) => ({ id: lane.resourceId, name: lane.name }))}
      />
    </div>
  );
}

function SheetOf({ sheet, resourceId }: { sheet: Sheet; resourceId: string | undefined }) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const { namesHidden } = useDaybookView().settings;
  const { date, site, of, rows, now } = sheet;
  const words = useSheetWords(sheet);
  const name = [of ?? site.name, date].join(' ');
  const headings = SHEET_COLUMNS.map((column) => t(`daySheet.column.${column}`));
  const query = new URLSearchParams({ siteId: site.id, ...(resourceId && { resourceId }) });
  return (
    <>
      <div className="mb-5 flex flex-wrap items-center gap-3 print:hidden">
        <Button look="primary" onClick={() => window.print()}>
          {t('daySheet.print')}
        </Button>
        <Button onClick={() => download(`${name}.csv`, UTF8_MARK + sheetCsv(rows, headings, words))}>
          {t('daySheet.csv')}
        </Button>
        <a
          className="rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep"
          href={`/api/daybook/${date}/sheet.ics?${query}`}
          download={`${name}.ics`}
        >
          {t('daySheet.calendar')}
        </a>
        <TickField checked={namesHidden} onChange={(event) => dispatch(prefs.actions.hidNames(event.target.checked))}>
          {t('daybookView.hideNames')}
        </TickField>
      </div>
      <h1 className="text-2xl font-bold">{formatDate(date, 'en', true)}</h1>
      <p className="mb-3 text-lg">
        {[of, site.name, t('daybook.visits', { count: rows.length })].filter(Boolean).join(' · ')}
        <span className="ml-3 text-base text-muted">
          {t('daySheet.asOf', { time: timeOf(now, site.timeZone), zone: zoneShort(site.timeZone) })}
        </span>
      </p>
      {!namesHidden && sheet.notes.length > 0 && (
        <ul className="mb-3 list-disc pl-5" data-sheet-notes>
          {sheet.notes.map(({ id, text, fromMinute, toMinute }) => (
            <li key={id}>
              {fromMinute !== null && toMinute !== null && (
                <b>{t('daybook.range', { from: wallTime(fromMinute), until: wallTime(toMinute) })}: </b>
              )}
              {text}
            </li>
          ))}
        </ul>
      )}
      <UnreadableNotice ids={sheet.unreadable} />
      {rows.length ? <SheetTable rows={rows} words={words} /> : <p>{t('daySheet.none')}</p>}
    </>
  );
}

function useSheetWords({ site }: Sheet): SheetWords<DaySheetRow> {
  const { t } = useTranslation();
  const { namesHidden } = useDaybookView().settings;
  return {
    namesHidden,
    redFlag: t('daySheet.redFlag'),
    timeOf: (instant) => timeOf(instant, site.timeZone),
    patientOf: (row) => (namesHidden ? t('daybookView.someone') : row.patient),
    statusOf: (row) => formatStatus({ kind: 'visit', identity: 'sure', ...row }, t),
  };
}

/** One line for each visit; what must be seen before anything else stands in bold in its own line. */
function SheetTable({ rows, words }: { rows: readonly DaySheetRow[]; words: SheetWords<DaySheetRow> }) {
  const { t } = useTranslation();
  const headings = ['time', 'patient', 'reach', 'type', 'with', 'status'] as const;
  return (
    <table className="w-full border-collapse text-left" data-day-sheet>
      <thead>
        <tr className="border-b-2 border-foreground">
          {headings.map((heading) => (
            <th key={heading} className="py-1 pr-3 font-bold">
              {t(`daySheet.column.${heading}`)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id} data-sheet-row={row.id} className="break-inside-avoid border-b border-line align-top">
            <td className="py-1 pr-3 whitespace-nowrap">
              {words.timeOf(row.start)}
              <span className="block text-muted">{words.timeOf(row.end)}</span>
            </td>
            <td className="py-1 pr-3">
              <b>{words.patientOf(row)}</b>
              {!words.namesHidden && row.birthDate && (
                <span className="block text-muted">{formatBirthDate(row.birthDate)}</span>
              )}
              {!words.namesHidden && row.alert && <b className="block">{row.alert}</b>}
            </td>
            <td className="py-1 pr-3 whitespace-nowrap">
              {!words.namesHidden && row.phone ? formatPhone(row.phone) : ''}
            </td>
            <td className="py-1 pr-3">
              {row.visitType}
              {!words.namesHidden && row.reason && <span className="block text-muted">{row.reason}</span>}
            </td>
            <td className="py-1 pr-3">
              {row.provider}
              <span className="block text-muted">{row.places.join(', ')}</span>
            </td>
            <td className="py-1">
              {words.statusOf(row)}
              {row.held && <b className="block">{t('readiness.held')}</b>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

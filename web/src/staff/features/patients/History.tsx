import type { PatientRecord } from '@zaguan/contracts/patients';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../shared/ui/Button.tsx';
import { useAddress } from '../../shell/useAddress.ts';
import { useClinicTime } from '../accounts/index.ts';
import { ConsentEntry, FormEntry, MessageEntry, TrailEntry, VisitEntry } from './historyEntries.tsx';

const KINDS = ['visit', 'message', 'form', 'change'] as const;
type Kind = (typeof KINDS)[number];

interface Entry {
  readonly key: string;
  readonly kind: Kind;
  readonly at: string;
  readonly shown: ReactNode;
}

/** So many at first; the rest on demand. */
const AT_FIRST = 40;

/** Everything that happened with and to a record, newest first: visits, messages, forms, and who saw and changed what. */
export function History({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const { write, now } = useClinicTime();
  const { asked, set } = useAddress();
  const [most, setMost] = useState(AT_FIRST);
  const chosen = KINDS.find((kind) => kind === asked.get('history')) ?? null;
  // What is still to be sent is no history; it stands among the messages.
  const entries = entriesOf(record).filter(({ kind, at }) => (chosen === null ? at <= now : kind === chosen));
  return (
    <section aria-label={t('history.title')} data-history>
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-2 font-bold">{t('history.title')}</h2>
        <fieldset aria-label={t('history.show')} className="flex flex-wrap gap-1">
          {([null, ...KINDS] as const).map((kind) => (
            <Button
              key={kind ?? 'all'}
              look={kind === chosen ? 'accent' : 'quiet'}
              className="px-2 py-0.5"
              aria-pressed={kind === chosen}
              onClick={() => set({ history: kind })}
            >
              {t(kind ? `history.${kind}` : 'history.all')}
            </Button>
          ))}
        </fieldset>
      </div>
      {chosen === null && <p className="text-sm text-muted">{t('history.plannedNote')}</p>}
      {entries.length === 0 && <p className="text-muted">{t('history.none')}</p>}
      <ol>
        {entries.slice(0, most).map(({ key, kind, at, shown }) => (
          <li key={key} data-entry={kind} className="flex gap-3 border-b border-line py-1 max-sm:flex-col max-sm:gap-0">
            <time dateTime={at} className="w-52 shrink-0 text-muted">
              {write(at)}
            </time>
            <div className="min-w-0 flex-1">{shown}</div>
          </li>
        ))}
      </ol>
      {entries.length > most && (
        <Button className="mt-2" onClick={() => setMost(most + AT_FIRST)}>
          {t('history.more')}
        </Button>
      )}
    </section>
  );
}

function entriesOf(record: PatientRecord): Entry[] {
  const entries: Entry[] = [
    ...record.visits
      .filter(({ upcoming }) => !upcoming)
      .map((visit): Entry => ({ key: visit.id, kind: 'visit', at: visit.start, shown: <VisitEntry visit={visit} /> })),
    ...record.messages.map(
      (message): Entry => ({
        key: message.id,
        kind: 'message',
        at: message.at,
        shown: <MessageEntry message={message} />,
      }),
    ),
    ...record.forms.map(
      (form): Entry => ({ key: form.id, kind: 'form', at: form.at, shown: <FormEntry form={form} /> }),
    ),
    ...record.consents.map(
      (consent): Entry => ({
        key: consent.id,
        kind: 'form',
        at: consent.at,
        shown: <ConsentEntry consent={consent} />,
      }),
    ),
    // Entries of the trail have no id of their own and never change their order.
    ...record.trail.map(
      (entry, place): Entry => ({
        key: `${entry.at} ${place}`,
        kind: 'change',
        at: entry.at,
        shown: <TrailEntry entry={entry} />,
      }),
    ),
  ];
  return entries.sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0));
}

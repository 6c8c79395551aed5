import { scopeOf } from '@zaguan/contracts';
import type { Me } from '@zaguan/contracts/accounts';
import type { FoundPatient } from '@zaguan/contracts/patients';
import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { shortDate } from '../../../shared/time/format.ts';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { accountsApi } from '../accounts/index.ts';
import { helpSearch, PAGES } from '../help/index.ts';
import { type Entry, entriesFor, fitting, GROUPS } from './entries.ts';
import { PatientHit } from './PatientHit.tsx';
import { usePatientHits } from './usePatientHits.ts';

const MAX_HELP = 4;
const ITEM =
  'flex cursor-pointer items-baseline gap-3 rounded-sm px-3 py-1.5 data-[selected=true]:bg-accent-subtle data-[selected=true]:outline-2 data-[selected=true]:outline-accent';

/** What was typed, and everything it leads to; Enter opens the marked one. */
export function FinderDialog({ me, onClose }: { me: Me; onClose: () => void }) {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const [text, setText] = useState('');
  const { patients, say, refused } = usePatientHits(me, text.trim());
  const [marked, setMarked] = useMarkedEntry(patients[0]?.id);
  const mayFind = scopeOf(me.role, 'openings.search') !== 'no';
  const go = (to: string) => {
    onClose();
    void navigate(to);
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#00000055]" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-3 left-1/2 z-50 w-[680px] max-w-[96vw] -translate-x-1/2 rounded-md border border-line-strong bg-panel"
        >
          <Dialog.Title className="sr-only">{t('finder.open')}</Dialog.Title>
          <Command
            shouldFilter={false}
            label={t('finder.open')}
            value={marked}
            onValueChange={setMarked}
            onKeyDown={(event) => {
              const patient = patients.find(({ id }) => entryOf(id) === marked);
              if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey) || !patient || !mayFind) return;
              event.preventDefault();
              go(`/find?who=${patient.status === 'new' ? 'new' : 'established'}::${patient.id}`);
            }}
            className="flex max-h-[80vh] flex-col"
          >
            <Command.Input
              value={text}
              onValueChange={setText}
              maxLength={100}
              placeholder={t('finder.hint')}
              className="w-full border-b border-line bg-panel px-4 py-2.5 text-lg outline-none"
            />
            {refused && (
              <Notice tone="danger" live="assertive">
                {t(`error.${refused.tag}`, { requestId: refused.requestId })}
              </Notice>
            )}
            <p role="status" className="px-5 py-1.5 text-muted empty:hidden">
              {say ? t(`finder.${say}`) : mayFind && patients.length > 0 && t('finder.keysOfPatient')}
            </p>
            <Command.List label={t('finder.found')} className="min-h-0 flex-1 overflow-y-auto p-2">
              <PatientHits patients={patients} onGo={go} />
              <Others me={me} text={text} onGo={go} />
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const entryOf = (patientId: string) => `patient ${patientId}`;

/** What Enter would open: another best patient is marked when it comes, for it comes later than the rest. */
function useMarkedEntry(best: string | undefined) {
  const [marked, setMarked] = useState('');
  const [seen, setSeen] = useState(best);
  if (best !== seen) {
    setSeen(best);
    if (best) setMarked(entryOf(best));
  }
  return [marked, setMarked] as const;
}

function PatientHits({ patients, onGo }: { patients: readonly FoundPatient[]; onGo: (to: string) => void }) {
  const { t } = useTranslation();
  if (!patients.length) return null;
  return (
    <>
      <Command.Group heading={t('finder.group.patients')} className="finder-group">
        {patients.map((patient) => (
          <Command.Item
            key={patient.id}
            value={entryOf(patient.id)}
            className={ITEM}
            data-found={patient.id}
            onSelect={() => onGo(`/patients/${patient.id}`)}
          >
            <PatientHit patient={patient} />
          </Command.Item>
        ))}
      </Command.Group>
      <Entries heading={t('finder.group.visits')} entries={visitsOf(patients)} onGo={onGo} />
    </>
  );
}

const MAX_VISITS = 5;

/** The next visits of the first of those who were found. */
function visitsOf(patients: readonly FoundPatient[]): Entry[] {
  return patients
    .flatMap(({ name, nextVisit, siteName }) =>
      nextVisit
        ? [
            {
              id: nextVisit.id,
              words: `${name}, ${shortDate(nextVisit.date)}`,
              beside: siteName ?? '',
              to: `/daybook/${nextVisit.date}?visit=${nextVisit.id}`,
            },
          ]
        : [],
    )
    .slice(0, MAX_VISITS);
}

/** People, sites, acts, pages, settings and help. Before anything is typed: what one may do and where one may go. */
function Others({ me, text, onGo }: { me: Me; text: string; onGo: (to: string) => void }) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const entries = useMemo(() => entriesFor(me.role, clinic, t), [me.role, clinic, t]);
  const search = useMemo(() => helpSearch(PAGES), []);
  const typed = text.trim();
  const help: readonly Entry[] = typed
    ? search(typed)
        .slice(0, MAX_HELP)
        .map(({ id, heading, pageTitle }) => ({ id, words: heading, beside: pageTitle, to: `/help/${id}` }))
    : [];
  const shown = typed ? GROUPS : (['acts', 'pages'] as const);
  return (
    <>
      {shown.map((group) => (
        <Entries
          key={group}
          heading={t(`finder.group.${group}`)}
          entries={fitting(entries[group], typed)}
          onGo={onGo}
        />
      ))}
      <Entries heading={t('finder.group.help')} entries={help} onGo={onGo} />
    </>
  );
}

function Entries({
  heading,
  entries,
  onGo,
}: {
  heading: string;
  entries: readonly Entry[];
  onGo: (to: string) => void;
}) {
  if (!entries.length) return null;
  return (
    <Command.Group heading={heading} className="finder-group">
      {entries.map(({ id, words, beside, to }) => (
        <Command.Item key={id} value={`${heading} ${id}`} className={ITEM} onSelect={() => onGo(to)}>
          <span className="font-semibold">{words}</span>
          {beside && <span className="text-sm text-muted">{beside}</span>}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

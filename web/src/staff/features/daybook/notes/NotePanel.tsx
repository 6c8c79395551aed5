import { changeNote, type DaybookDay, type DayNote, LONGEST_NOTE, writeNote } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { ContractForm, FormActions, TextField, TimeField, useContractForm } from '../../../forms/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { daybookApi } from '../daybook.api.ts';
import type { NoteAsked } from '../hooks/useDaybookAddress.ts';
import { useMayAnnotate } from './useMayAnnotate.ts';

interface Props {
  readonly day: DaybookDay;
  readonly asked: NoteAsked;
  readonly onClose: () => void;
}

/** A note of a day: written, read, changed, taken off. */
export function NotePanel({ day, asked, onClose }: Props) {
  const { t } = useTranslation();
  const mayWrite = useMayAnnotate();
  if (asked.noteId !== null) {
    const found = findNote(day, asked.noteId);
    if (!found) return <p>{t('note.gone')}</p>;
    const place = { siteId: found.siteId, resourceId: found.resourceId };
    return (
      <>
        <Heading day={day} {...place} />
        {mayWrite ? (
          // What somebody else changed meanwhile is what one goes on from.
          <ChangeForm key={`${found.note.id} ${found.note.version}`} note={found.note} onClose={onClose} />
        ) : (
          <p>{found.note.text}</p>
        )}
        <p className="text-muted">{t('note.by', { name: found.note.by })}</p>
      </>
    );
  }
  return (
    <>
      <Heading day={day} siteId={asked.siteId} resourceId={asked.resourceId} />
      {mayWrite ? (
        <WriteForm date={asked.date} siteId={asked.siteId} resourceId={asked.resourceId} onClose={onClose} />
      ) : (
        <p className="text-muted">{t('note.noRight')}</p>
      )}
    </>
  );
}

/** Where a note stands on a day; `null`: not there. */
export function findNote({ sites }: Pick<DaybookDay, 'sites'>, id: string) {
  for (const site of sites) {
    const ofSite = site.notes.find((note) => note.id === id);
    if (ofSite) return { note: ofSite, siteId: site.id, resourceId: null };
    for (const lane of site.lanes) {
      const note = lane.notes.find((each) => each.id === id);
      if (note) return { note, siteId: site.id, resourceId: lane.resourceId };
    }
  }
  return null;
}

/** Whose note it is. */
function Heading({ day, siteId, resourceId }: { day: DaybookDay; siteId: string; resourceId: string | null }) {
  const { t } = useTranslation();
  const site = day.sites.find(({ id }) => id === siteId);
  const lane = site?.lanes.find((each) => each.resourceId === resourceId);
  return (
    <div>
      <h2 className="text-xl leading-tight font-bold">{t('note.title')}</h2>
      <p>{[lane?.name, site?.name].filter(Boolean).join(', ')}</p>
    </div>
  );
}

function WriteForm({
  date,
  siteId,
  resourceId,
  onClose,
}: {
  date: string;
  siteId: string;
  resourceId: string | null;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const toast = useUndoToast();
  const [write] = daybookApi.useWriteNoteMutation();
  const form = useContractForm(writeNote, {
    values: { text: '', fromMinute: null, toMinute: null },
    fixed: { siteId: siteId as never, resourceId: resourceId as never, date },
    send: write,
    onDone: (answer) => {
      toast(t('note.written'), answer.undo.id);
      onClose();
    },
    keepAs: `note.${date}.${siteId}.${resourceId}`,
  });
  return (
    <ContractForm
      of={form}
      label={t('note.title')}
      className="flex flex-col gap-2"
      actions={<FormActions of={form} send={t('note.write')} leave={t('note.leave')} onLeave={onClose} forgets />}
    >
      <Fields />
    </ContractForm>
  );
}

function ChangeForm({ note, onClose }: { note: DayNote; onClose: () => void }) {
  const { t } = useTranslation();
  const toast = useUndoToast();
  const [change] = daybookApi.useChangeNoteMutation();
  const [remove, removed] = daybookApi.useRemoveNoteMutation();
  const refused = apiError(removed.error);
  const { id, version, text, fromMinute, toMinute } = note;
  const form = useContractForm(changeNote, {
    values: { text, fromMinute, toMinute },
    fixed: { id: id as never, version },
    send: change,
    onDone: (answer) => {
      toast(t('note.changed'), answer.undo.id);
      onClose();
    },
    keepAs: `note.${id}`,
  });
  const takeOff = async () => {
    const { data } = await remove({ id: id as never, version });
    if (!data) return;
    toast(t('note.removed'), data.undo.id);
    onClose();
  };
  return (
    <>
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
      <ContractForm
        of={form}
        label={t('note.title')}
        className="flex flex-col gap-2"
        actions={
          <div className="flex flex-wrap gap-2">
            <FormActions of={form} send={t('note.save')} leave={t('note.leave')} onLeave={onClose} forgets />
            <Button look="danger" disabled={removed.isLoading} onClick={() => void takeOff()}>
              {t('note.remove')}
            </Button>
          </div>
        }
      >
        <Fields />
      </ContractForm>
    </>
  );
}

function Fields() {
  const { t } = useTranslation();
  return (
    <>
      <TextField name="text" label={t('note.text')} hint={t('note.textHint')} rows={3} maxLength={LONGEST_NOTE} />
      <div className="grid grid-cols-2 gap-3">
        <TimeField name="fromMinute" label={t('note.from')} orNull />
        <TimeField name="toMinute" label={t('note.until')} orNull />
      </div>
      <p className="text-sm text-muted">{t('note.timesHint')}</p>
    </>
  );
}

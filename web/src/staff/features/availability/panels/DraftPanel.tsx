import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useState } from 'react';
import { useKeptState } from '../../../forms/index.ts';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { formatDate } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { TextField } from '../../../../shared/ui/inputs.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useUndoToast } from '../../undo/index.ts';
import { draftsApi } from '../drafts.api.ts';
import { useDraft } from '../hooks/draftContext.ts';
import { useNames } from '../hooks/useNames.ts';
import { editAbout } from './editAbout.ts';
import { ImpactBox } from './ImpactBox.tsx';

/** A draft against what holds: its edits, what publishing it from a date does, and the one press that does it. */
export function DraftPanel({ week, onClose }: { week: ScheduleWeek; onClose: () => void }) {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const draft = useDraft();
  const undoable = useUndoToast();
  const name = useNames(week);
  const [from, setFrom] = useKeptState('from', week.from > week.today ? week.from : week.today);
  const { currentData, error, isFetching } = draftsApi.useCompareDraftQuery(
    { id: draft?.id ?? '', from },
    { skip: !draft || !from },
  );
  const [drop, { isLoading: dropping }] = draftsApi.useDropFromDraftMutation();
  const [publish, { isLoading: publishing }] = draftsApi.usePublishDraftMutation();
  const [discard, { isLoading: discarding }] = draftsApi.useDiscardDraftMutation();
  const [refused, setRefused] = useState<ReturnType<typeof apiError>>(null);
  if (!draft) return null;
  const busy = dropping || publishing || discarding;
  const visitsToMove = currentData?.impact?.visitsToMove.length ?? 0;
  const keep = async (run: () => Promise<{ data?: unknown; error?: unknown }>) => {
    const result = await run();
    setRefused(result.data ? null : apiError(result.error));
    return result.data !== undefined;
  };
  const makeItHold = () =>
    keep(async () => {
      const result = await publish({ id: draft.id, version: draft.version, from, agreed: visitsToMove > 0 });
      if (!result.data) return result;
      undoable(t('schedule.draft.published', { name: draft.name }), result.data.undo.id);
      onClose();
      void navigate(result.data.toMove ? '/availability/visits-to-move' : `/availability?week=${week.from}`);
      return result;
    });
  const throwAway = () =>
    keep(async () => {
      const result = await discard({ id: draft.id, version: draft.version });
      if (!result.data) return result;
      undoable(t('schedule.draft.discarded', { name: draft.name }), result.data.undo.id);
      onClose();
      void navigate(`/availability?week=${week.from}`);
      return result;
    });
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">{draft.name}</h2>
      <ol>
        {currentData?.edits.map((edit, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: an edit is known by its place
          <li key={i} className="flex items-center justify-between gap-2 border-t border-line py-1">
            <span>
              {codeWords(t, 'schedule.draft.act', edit.do)}
              <span className="block text-sm text-muted">{editAbout(edit, week, name)}</span>
            </span>
            <Button
              look="plain"
              className="shrink-0"
              disabled={busy}
              aria-label={t('schedule.draft.dropAct', { number: i + 1 })}
              onClick={() => void keep(() => drop({ id: draft.id, at: i, version: draft.version }))}
            >
              {t('schedule.takeBack')}
            </Button>
          </li>
        ))}
      </ol>
      <TextField
        label={t('schedule.draft.from')}
        hint={from && formatDate(from, 'en', true)}
        type="date"
        min={week.today}
        value={from}
        onChange={(event) => setFrom(event.target.value)}
      />
      <ImpactBox
        week={week}
        preview={{ data: currentData ?? null, error: apiError(error), asking: isFetching && !currentData }}
      />
      {refused && (
        <Notice tone="danger" live="assertive">
          {refused.tag === 'ScheduleRefused'
            ? t(`schedule.draft.leans`)
            : t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
      <div className="sticky -bottom-3 -mx-4 -mb-3 flex flex-wrap gap-2 border-t border-line bg-surface px-4 py-3">
        <Button
          look="primary"
          disabled={busy || !from || !currentData || currentData.faults.length > 0}
          onClick={() => void makeItHold()}
        >
          {visitsToMove ? t('schedule.draft.publishAndMove', { count: visitsToMove }) : t('schedule.draft.publish')}
        </Button>
        <Button look="danger" disabled={busy} onClick={() => void throwAway()}>
          {t('schedule.draft.discard')}
        </Button>
        <Button onClick={onClose}>{t('close')}</Button>
      </div>
    </div>
  );
}

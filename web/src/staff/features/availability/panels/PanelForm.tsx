import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import type { ApiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { Resumed, useForgetTyping } from '../../../forms/index.ts';
import { useDraft } from '../hooks/draftContext.ts';
import { usePreview, useSaveEdits } from '../hooks/useEdits.ts';
import { type EditNotice, useNoticeWords } from '../hooks/useNoticeWords.ts';
import { checkEdits, type Read } from './checkEdits.ts';
import { Conflicts, isConflict } from './Conflicts.tsx';
import { ImpactBox } from './ImpactBox.tsx';

/** A form of the panel: fields, what they would do, and one press that does it. What was typed stays until it is saved. */
export function PanelForm({
  title,
  week,
  read,
  done,
  saveWords,
  tellsFirst = false,
  onClose,
  children,
}: {
  title: string;
  week: ScheduleWeek;
  read: Read;
  /** Said once it is done. */
  done: string;
  saveWords?: string;
  /** Patients of visits that no longer fit are told at once, unless one says otherwise. */
  tellsFirst?: boolean;
  onClose: () => void;
  children: (faultOf: (field: string) => string | undefined) => ReactNode;
}) {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const [tried, setTried] = useState(false);
  const [tell, setTell] = useState(tellsFirst);
  const checked = checkEdits(read);
  const edits = checked.ok && checked.edits.length ? checked.edits : null;
  /** What was in the way of exactly these edits when it was said that it may give way. */
  const [agreed, setAgreed] = useState<{ to: string; found: EditNotice[] } | null>(null);
  const giving = agreed && agreed.to === JSON.stringify(edits) ? agreed.found : null;
  const replaced = (giving ?? []).map(({ facts }) => String(facts.sourceId));
  const preview = usePreview(edits, replaced);
  const draft = useDraft();
  const { save, saving, error } = useSaveEdits();
  const forget = useForgetTyping();
  const faultOf = (field: string) => {
    const code = tried && !checked.ok ? checked.faults[field] : undefined;
    return code && t(`fault.${code}`, { defaultValue: t('fault.other') });
  };
  const inTheWay = preview.data?.faults.filter(isConflict) ?? [];
  const canReplace = inTheWay.every(({ facts }) => preview.data?.replaceable.includes(String(facts.sourceId)));
  const conflicts = [...(giving ?? []), ...inTheWay];
  const visitsToMove = preview.data?.impact?.visitsToMove.length ?? 0;
  const submit = async () => {
    setTried(true);
    if (!edits) return;
    // What has been shown may be agreed to by the same press.
    const how = { replaced, agreed: visitsToMove > 0, tell: tell && visitsToMove > 0 };
    if (!(await save(edits, done, how))) return;
    forget();
    onClose();
    if (visitsToMove) void navigate('/availability/visits-to-move');
  };
  return (
    <form
      noValidate
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <h2 className="text-xl font-bold">{title}</h2>
      <Resumed />
      {children(faultOf)}
      {edits && !draft && <ImpactBox week={week} preview={preview} conflictsBelow />}
      {visitsToMove > 0 && <TellBox tell={tell} onChange={setTell} />}
      {error && <Refusal week={week} error={error} />}
      <div className="sticky -bottom-3 -mx-4 -mb-3 flex flex-wrap gap-2 border-t border-line bg-surface px-4 py-3">
        <Conflicts
          week={week}
          found={conflicts}
          canReplace={canReplace}
          replacing={giving !== null && !inTheWay.length}
          onReplace={(wanted) => setAgreed(wanted ? { to: JSON.stringify(edits), found: conflicts } : null)}
        />
        <Button type="submit" look="primary" disabled={saving || (preview.data?.faults.length ?? 0) > 0}>
          {saving
            ? t('saving')
            : visitsToMove
              ? t('schedule.saveAndMove', { count: visitsToMove })
              : (saveWords ?? t('save'))}
        </Button>
        <Button onClick={onClose}>{t('close')}</Button>
      </div>
    </form>
  );
}

/** Whether the patients of visits that no longer fit hear of it at once. */
function TellBox({ tell, onChange }: { tell: boolean; onChange: (tell: boolean) => void }) {
  const { t } = useTranslation();
  return (
    <label className="flex items-start gap-2">
      <input
        type="checkbox"
        className="mt-0.5 size-4 accent-accent"
        checked={tell}
        onChange={(event) => onChange(event.target.checked)}
      />
      <span>
        {t('schedule.tell')}
        <span className="block text-muted">{t('schedule.tellHint')}</span>
      </span>
    </label>
  );
}

function Refusal({ week, error }: { week: ScheduleWeek; error: ApiError }) {
  const { t } = useTranslation();
  const words = useNoticeWords(week);
  return (
    <Notice tone="danger" live="assertive">
      {error.tag === 'ScheduleRefused' && error.codes?.[0]
        ? words({ code: error.codes[0], facts: error.facts }, 'fault')
        : t(`error.${error.tag}`, { requestId: error.requestId })}
    </Notice>
  );
}

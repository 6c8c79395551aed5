import { type PlanPreview, type RecallPlanDoc, recallPlanDoc } from '@zaguan/contracts/recalls';
import { useState } from 'react';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { useChoices, useNameOf } from '../../setup/index.ts';
import { useDebounced } from '../../../../shared/time/useDebounced.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { CheckField, ManyField, NumberField, Section, TextField, useValue } from '../../../forms/index.ts';
import { recallsApi } from '../recalls.api.ts';
import { sayPlan } from '../say.ts';
import { WhenFields } from './WhenFields.tsx';
import { WhoFields } from './WhoFields.tsx';

/** Typing goes on for a moment before the server is asked. */
const AFTER_MS = 450;

/** A plan as a sentence of choices, with the people it would find counted as it is written. */
export function PlanEditor({ id }: { id: string | null }) {
  const { t } = useTranslation();
  const types = useChoices('visit-type', useValue<string[] | null>('comingTypeIds'));
  const nameOf = useNameOf();
  const [draftId] = useState(() => id ?? crypto.randomUUID());
  const doc = useFormContext().watch() as RecallPlanDoc;
  return (
    <>
      <TextField name="name" label={t('setup.recall-plan.name')} maxLength={80} />
      <CheckField name="isOn" label={t('recalls.editor.isOn')} />
      <Live id={draftId} doc={doc} sentence={sayPlan(t, doc, nameOf)} />
      <Section title={t('recalls.editor.when')}>
        <WhenFields />
      </Section>
      <Section title={t('recalls.editor.who')} note={t('recalls.editor.whoNote')}>
        <WhoFields name="who" />
      </Section>
      <Section title={t('recalls.editor.left')}>
        <div className="grid grid-cols-3 items-end gap-3">
          <NumberField name="aheadDays" label={t('recalls.editor.ahead')} step={1} />
          <NumberField name="graceDays" label={t('recalls.editor.grace')} step={1} />
          <NumberField name="quietDays" label={t('recalls.editor.quiet')} step={1} />
        </div>
        <ManyField
          name="comingTypeIds"
          label={t('recalls.editor.coming')}
          all={t('recalls.editor.sameTypes')}
          options={types}
        />
      </Section>
    </>
  );
}

/** Whom it would find as it is written now; the last answer stays until the next. */
function Live({ id, doc, sentence }: { id: string; doc: RecallPlanDoc; sentence: string }) {
  const { t } = useTranslation();
  // A name that is still missing stands in nobody's way here.
  const read = recallPlanDoc.safeParse({ ...doc, name: '–' });
  const key = read.success ? JSON.stringify(read.data) : null;
  const settled = useDebounced(key, AFTER_MS);
  const { data, isFetching } = recallsApi.usePreviewPlanQuery(
    { id, doc: JSON.parse(settled ?? 'null') as RecallPlanDoc },
    { skip: settled === null },
  );
  const asking = key !== null && (key !== settled || isFetching);
  return (
    <section
      aria-label={t('recalls.editor.live')}
      aria-live="polite"
      aria-busy={asking}
      data-live-plan
      className="sticky -top-3 z-10 rounded-md border border-line-strong bg-panel px-3 py-2"
    >
      <p className="font-bold">{sentence}</p>
      {key === null ? null : data && !asking ? (
        <Found found={data} />
      ) : (
        <p className="text-muted">{t('recalls.editor.liveWait')}</p>
      )}
    </section>
  );
}

function Found({ found }: { found: PlanPreview }) {
  const { t } = useTranslation();
  const { counts, overdue, lookedAt, whole, joins, leaves } = found;
  const due = counts.due ?? 0;
  const isEverybody = whole && lookedAt > 1 && due === lookedAt;
  return (
    <>
      <p className="flex flex-wrap gap-x-3">
        <b data-live-due>
          {due} {t('recalls.state.due')}
        </b>
        {overdue > 0 && <span className="text-warning">{t('recalls.overdue', { count: overdue })}</span>}
        {(['booked', 'not-due', 'left-out', 'not-asked-for'] as const).map(
          (state) =>
            counts[state] && (
              <span key={state}>
                {counts[state]} {t(`recalls.state.${state}`)}
              </span>
            ),
        )}
      </p>
      {!whole && <p className="text-muted">{t('recalls.editor.livePart', { count: lookedAt })}</p>}
      {isEverybody && <Notice tone="warning">{t('recalls.editor.everybody')}</Notice>}
      {due === 0 && <p className="text-muted">{t('recalls.editor.nobody')}</p>}
      <Change of={joins} words="joins" />
      <Change of={leaves} words="leaves" />
    </>
  );
}

/** Who joins, or leaves, when this is saved. */
function Change({ of: { count, some }, words }: { of: PlanPreview['joins']; words: 'joins' | 'leaves' }) {
  const { t } = useTranslation();
  if (!count) return null;
  const more = count - some.length;
  return (
    <p data-change={words}>
      {t(`recalls.editor.${words}`, { count })}:{' '}
      <span className="text-muted">
        {some.map(({ name }) => name).join(', ')}
        {more > 0 && ` ${t('recalls.editor.andMore', { count: more })}`}
      </span>
    </p>
  );
}

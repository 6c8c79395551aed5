import type { FormDocument } from '@zaguan/contracts/intake';
import { type AnswerValue, faultsOf, type FormItem, flatten, raisedFlags, shownItems } from '@zaguan/core/intake';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Question } from './Question.tsx';
import { type Conflict, type SaveForm, useFormDraft } from './useFormDraft.ts';

interface Props {
  readonly document: FormDocument;
  readonly language: 'en' | 'es';
  readonly save: SaveForm;
  readonly onDone: () => void;
}

/** A form, one part a screen, saved as it is typed. A red-flag answer tells at once what to do. */
export function FormFiller({ document, language, save, onDone }: Props) {
  const { t } = useTranslation();
  const draft = useFormDraft(document, save);
  const [part, setPart] = useState(0);
  const [asked, setAsked] = useState<ReadonlySet<number>>(new Set());
  const [sending, setSending] = useState(false);
  const heading = useRef<HTMLHeadingElement>(null);
  const form = { title: document.title, items: document.items };
  const shown = shownItems(form, draft.answers);
  const parts = document.items.filter((item) => shown.has(item.linkId));
  const current = parts[Math.min(part, parts.length - 1)];
  const faults = new Map(faultsOf(form, draft.answers).map(({ linkId, fault }) => [linkId, fault]));
  const questions = flatten([current])
    .map(({ item }) => item)
    .filter((item) => item.type !== 'group' && shown.has(item.linkId));
  const faulty = questions.filter(({ linkId }) => faults.has(linkId));
  const last = part >= parts.length - 1;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the focus follows the part
  useEffect(() => {
    heading.current?.focus();
  }, [part]);

  const proceed = async () => {
    setAsked((old) => new Set([...old, part]));
    if (faulty.length || draft.conflicts.length) return;
    if (!last) {
      void draft.flush(false);
      return setPart(part + 1);
    }
    setSending(true);
    const result = await draft.flush(true);
    setSending(false);
    if (result?.status === 'completed') return onDone();
    // A missing answer may stand in an earlier part, after another device changed something.
    const missing = result?.faults[0]?.linkId;
    const where = parts.findIndex((each) => flatten([each]).some(({ item }) => item.linkId === missing));
    if (where >= 0) {
      setAsked(new Set(parts.map((_, i) => i)));
      setPart(where);
    }
  };

  return (
    <form
      noValidate
      aria-label={document.title[language]}
      className="flex flex-col gap-5"
      onSubmit={(event) => {
        event.preventDefault();
        void proceed();
      }}
    >
      <div className="flex items-baseline justify-between gap-2">
        <h2 ref={heading} tabIndex={-1} className="text-lg font-bold outline-none">
          {current.text[language]}
        </h2>
        <p className="shrink-0 text-muted">{t('intake.part', { n: part + 1, of: parts.length })}</p>
      </div>
      <RedFlags items={raisedFlags(form, draft.answers)} language={language} />
      {draft.conflicts.map((conflict) => (
        <ConflictBox
          key={conflict.linkId}
          conflict={conflict}
          item={flatten(document.items).find(({ item }) => item.linkId === conflict.linkId)?.item}
          language={language}
          onSettle={(value) => draft.settle(conflict, value)}
        />
      ))}
      {questions.map((item) => (
        <Question
          key={item.linkId}
          item={item}
          value={draft.answers[item.linkId] ?? []}
          language={language}
          fault={asked.has(part) ? faults.get(item.linkId) : undefined}
          prefilled={
            !document.answers[item.linkId] &&
            draft.answers[item.linkId]?.[0] === document.prefill[item.linkId] &&
            document.prefill[item.linkId] !== undefined
          }
          onChange={(value) => draft.change(item.linkId, value)}
        />
      ))}
      {asked.has(part) && faulty.length > 0 && (
        <p role="alert" className="font-bold text-danger">
          {t('intake.missing', { count: faulty.length })}
        </p>
      )}
      <Steps
        words={sending ? t('intake.sending') : last ? t('intake.send') : t('intake.next')}
        busy={sending}
        onBack={part > 0 ? () => setPart(part - 1) : null}
      />
      <p role="status" data-draft={draft.state} className="text-muted">
        {t(`intake.${draft.state}`)}
      </p>
    </form>
  );
}

/** What to do at once about an answer that must not wait. */
function RedFlags({ items, language }: { items: readonly FormItem[]; language: 'en' | 'es' }) {
  const { t } = useTranslation();
  return items.map((item) => (
    <Notice key={item.linkId} tone="danger" live="assertive">
      <p className="font-bold">{t('intake.flagTitle')}</p>
      <p className="text-lg font-bold" data-flag={item.linkId}>
        {item.redFlag?.advice[language]}
      </p>
    </Notice>
  ));
}

function Steps({ words, busy, onBack }: { words: string; busy: boolean; onBack: (() => void) | null }) {
  const { t } = useTranslation();
  return (
    <div className="flex gap-2">
      {onBack && (
        <Button className="min-h-12" onClick={onBack}>
          {t('intake.previous')}
        </Button>
      )}
      <Button look="accent" type="submit" className="min-h-12 flex-1" disabled={busy}>
        {words}
      </Button>
    </div>
  );
}

/** An answer in words. */
function formatAnswer(
  value: readonly AnswerValue[],
  item: FormItem | undefined,
  language: 'en' | 'es',
  yes: string,
  no: string,
) {
  return value
    .map((each) =>
      each === true
        ? yes
        : each === false
          ? no
          : (item?.options?.find(({ code }) => code === each)?.text[language] ?? each),
    )
    .join(', ');
}

function ConflictBox({
  conflict,
  item,
  language,
  onSettle,
}: {
  conflict: Conflict;
  item: FormItem | undefined;
  language: 'en' | 'es';
  onSettle: (value: readonly AnswerValue[]) => void;
}) {
  const { t } = useTranslation();
  const words = (value: readonly AnswerValue[]) =>
    formatAnswer(value, item, language, t('intake.yes'), t('intake.no')) || t('intake.noAnswer');
  return (
    <Notice tone="warning" live="assertive">
      <p className="font-bold">{item?.text[language]}</p>
      <p>{t('intake.conflict')}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button data-conflict="theirs" className="min-h-11" onClick={() => onSettle(conflict.theirs)}>
          {t('intake.keepTheirs', { answer: words(conflict.theirs) })}
        </Button>
        <Button data-conflict="mine" className="min-h-11" onClick={() => onSettle(conflict.mine)}>
          {t('intake.keepMine', { answer: words(conflict.mine) })}
        </Button>
      </div>
    </Notice>
  );
}

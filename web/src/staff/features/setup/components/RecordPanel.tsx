import type { SetupKind, SetupRecord } from '@zaguan/contracts/setup';
import { type ReactNode, useEffect, useState } from 'react';
import { FormProvider } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { fieldWordsOr } from '../fieldWords.ts';
import type { ApiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import type { DocOf } from '../docs.ts';
import { type ConcurrentChange, useRecordForm } from '../hooks/useRecordForm.ts';
import { usePanelFocus } from '../../../shell/SidePanel.tsx';
import { FaultFacts } from '../../../forms/index.ts';
import { RecordImpact } from './RecordImpact.tsx';

interface Props<K extends SetupKind> {
  readonly kind: K;
  readonly title: string;
  readonly record: SetupRecord<DocOf[K]> | null;
  readonly blank: DocOf[K];
  readonly mayEdit: boolean;
  /** The field a link led to. */
  readonly field: string | null;
  readonly wide?: boolean;
  readonly onClose: () => void;
  readonly onSaved?: (id: string) => void;
  readonly actions?: ReactNode;
  readonly children: ReactNode;
}

/** One record beside the list it came from. What was typed stays until it is saved or given up. */
export function RecordPanel<K extends SetupKind>(props: Props<K>) {
  const { kind, title, record, blank, mayEdit, field, wide, onClose, onSaved, actions, children } = props;
  const { t } = useTranslation();
  const [newId] = useState(() => crypto.randomUUID());
  const { form, facts, refused, meanwhile, saving, submit, agree } = useRecordForm(kind, newId, record, blank, (id) => {
    onClose();
    onSaved?.(id);
  });
  const box = usePanelFocus(record?.id ?? newId);
  useEffect(() => {
    const place = field ? box.current?.querySelector(`[data-field="${CSS.escape(field)}"]`) : null;
    const first =
      place?.querySelector<HTMLElement>('input, select, textarea, button') ??
      box.current?.querySelector<HTMLElement>('input, select, textarea');
    if (place) place.scrollIntoView({ block: 'center' });
    first?.focus();
  }, [field, box]);
  return (
    <aside
      ref={box}
      tabIndex={-1}
      aria-label={title}
      data-panel={kind}
      className={`flex shrink-0 flex-col border-l border-line bg-surface outline-none max-md:fixed max-md:inset-0 max-md:z-40 max-md:w-full ${wide ? 'w-[680px]' : 'w-[430px]'}`}
    >
      <FormProvider {...form}>
        <FaultFacts.Provider value={facts}>
          <form noValidate className="flex min-h-0 flex-1 flex-col" onSubmit={(event) => void submit(event)}>
            <h2 className="border-b border-line px-4 py-2 text-xl font-bold">{title}</h2>
            <fieldset disabled={!mayEdit} className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-4 py-3">
              {meanwhile && <MeanwhileNotice kind={kind} meanwhile={meanwhile} />}
              {children}
            </fieldset>
            <RecordImpact kind={kind} id={record?.id ?? newId} version={record?.version ?? 0} />
            <div className="flex flex-col gap-2 border-t border-line px-4 py-2">
              {refused && !meanwhile && <Refused error={refused} onAgree={agree} />}
              {form.formState.submitCount > 0 && !form.formState.isValid && !refused && (
                <Notice tone="danger" live="assertive">
                  {t('setup.lookAtFields')}
                </Notice>
              )}
              <div className="flex flex-wrap gap-2">
                {mayEdit && (
                  <Button type="submit" look="primary" disabled={saving || meanwhile !== null}>
                    {t(saving ? 'saving' : 'save')}
                  </Button>
                )}
                <Button onClick={onClose}>{t(form.formState.isDirty ? 'setup.giveUp' : 'close')}</Button>
                {actions && <span className="ml-auto flex gap-2">{actions}</span>}
              </div>
            </div>
          </form>
        </FaultFacts.Provider>
      </FormProvider>
    </aside>
  );
}

function MeanwhileNotice({ kind, meanwhile }: { kind: SetupKind; meanwhile: ConcurrentChange }) {
  const { t } = useTranslation();
  const names = (fields: readonly string[]) => fields.map((field) => fieldWordsOr(t, kind, field)).join(', ');
  const { by, theirs, both } = meanwhile;
  return (
    <Notice tone="warning" live="assertive">
      <p className="font-bold">{t('setup.meanwhile', { by: by ?? t('setup.somebody') })}</p>
      {theirs.length > 0 && <p>{t('setup.theirs', { fields: names(theirs) })}</p>}
      {both.length > 0 && <p>{t('setup.both', { fields: names(both) })}</p>}
      <ul>
        {both.map((field) => {
          const written = meanwhile.written(field);
          return written && <li key={field}>{t('setup.bothWritten', { field: names([field]), ...written })}</li>;
        })}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button onClick={() => meanwhile.goOn(true)}>{t(both.length ? 'setup.keepMine' : 'setup.goOn')}</Button>
        {both.length > 0 && <Button onClick={() => meanwhile.goOn(false)}>{t('setup.takeTheirs')}</Button>}
      </div>
    </Notice>
  );
}

/** What a change may bring with it, each with words in the word file. */
type ConsequenceCode = 'visits-to-move';

/** Consequences that offer a choice, and the codes that stand for each way. */
const WAYS: Record<string, readonly string[]> = {
  'zone-change': ['zone-change:keep-clock', 'zone-change:keep-instant'],
};

function Refused({ error, onAgree }: { error: ApiError; onAgree: (codes: readonly string[]) => void }) {
  const { t } = useTranslation();
  if (error.tag === 'AgreementNeeded')
    return (
      <Notice tone="warning" live="assertive">
        {(error.codes ?? []).map((code) => (
          <div key={code} data-consequence={code}>
            <p className="font-bold">{t(`setup.consequence.${code as ConsequenceCode}`, error.facts)}</p>
            <div className="mt-2 flex flex-col gap-2">
              {(WAYS[code] ?? [code]).map((way) => (
                <Button key={way} onClick={() => onAgree([way])}>
                  {t(`setup.way.${way.replace(':', '-') as ConsequenceCode}`, error.facts)}
                </Button>
              ))}
            </div>
          </div>
        ))}
      </Notice>
    );
  const own = (error.issues ?? []).filter(({ path }) => !path.startsWith('records.'));
  const first = error.issues?.[0];
  return (
    <Notice tone="danger" live="assertive">
      {own.map(({ path, code }) => (
        <p key={path}>{t(`fault.${code}`, { ...error.facts, defaultValue: t('fault.other') })}</p>
      ))}
      {!own.length && first && error.tag === 'SetupRefused' && (
        <p>{t(`fault.${first.code}`, { ...error.facts, defaultValue: t('fault.other') })}</p>
      )}
      {(error.tag !== 'SetupRefused' || !first) && (
        <p>{t(`error.${error.tag}`, { ...error.facts, requestId: error.requestId })}</p>
      )}
    </Notice>
  );
}

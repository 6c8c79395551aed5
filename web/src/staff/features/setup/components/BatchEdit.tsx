import type { SetupRecord } from '@zaguan/contracts/setup';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { fieldWords } from '../fieldWords.ts';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import type { Option } from '../../../forms/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import type { DocOf } from '../docs.ts';
import type { Refs } from '../hooks/useRefs.ts';
import { TABLES, type TableKind } from '../kinds.ts';
import { setupApi } from '../setup.api.ts';

/** One field of several records, archive, restore: all of them or none, undone together. */
export function BatchEdit<K extends TableKind>({
  kind,
  ids,
  records,
  refs,
  clear,
}: {
  kind: K;
  ids: readonly string[];
  records: readonly SetupRecord<DocOf[K]>[];
  refs: Refs;
  clear: () => void;
}) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const { batch } = TABLES[kind];
  const [field, setField] = useState(batch[0]?.field ?? '');
  const [value, setValue] = useState('yes');
  const [save, saving] = setupApi.useSaveRecordsMutation();
  const [archive, archiving] = setupApi.useArchiveRecordsMutation();
  const known = batch.find((each) => each.field === field);
  const chosen = records.filter(({ id }) => ids.includes(id));
  const options = known?.options?.(refs, t) ?? [
    { value: 'yes', label: t('setup.yes') },
    { value: 'no', label: t('setup.no') },
  ];
  const chooseField = (name: string) => {
    const next = batch.find((each) => each.field === name);
    if (!next) return;
    setField(next.field);
    setValue(next.options?.(refs, t)[0]?.value ?? 'yes');
  };
  const done = (result: { data?: { undo: { id: string } } } | { error?: unknown }, words: string) => {
    const error = 'error' in result ? apiError(result.error) : null;
    const first = error?.issues?.[0];
    if (error)
      toast.error(
        first && error.tag === 'SetupRefused'
          ? t(`fault.${first.code}`, { ...error.facts, defaultValue: t('fault.other') })
          : t(`error.${error.tag}`, { ...error.facts, requestId: error.requestId }),
      );
    else if ('data' in result && result.data) {
      undo(words, result.data.undo.id);
      clear();
    }
  };
  const apply = async () => {
    const set = known?.type === 'yes-no' ? value === 'yes' : value;
    const result = await save({
      kind,
      records: chosen.map(({ id, version, doc }) => ({ id, version, doc: { ...doc, [field]: set } })),
    });
    done(result, t('setup.savedMany', { count: chosen.length }));
  };
  const active = chosen.every((record) => record.active);
  return (
    <>
      {batch.length > 0 && active && (
        <span className="flex items-center gap-2">
          <BatchSelect
            label={t('setup.batchField')}
            value={field}
            options={batch.map((each) => ({ value: each.field, label: fieldWords(t, kind, each.field) }))}
            onChange={chooseField}
          />
          <BatchSelect label={t('setup.batchValue')} value={value} options={options} onChange={setValue} />
          <Button look="primary" disabled={saving.isLoading} onClick={() => void apply()}>
            {t('setup.applyAll')}
          </Button>
        </span>
      )}
      <Button
        disabled={archiving.isLoading}
        onClick={() =>
          void archive({ kind, ids: [...ids], active: !active }).then((result) =>
            done(result, t(active ? 'setup.archivedMany' : 'setup.restoredMany', { count: ids.length })),
          )
        }
      >
        {t(active ? 'setup.archive' : 'setup.restore')}
      </Button>
    </>
  );
}

function BatchSelect(props: {
  label: string;
  value: string;
  options: readonly Option[];
  onChange: (value: string) => void;
}) {
  return (
    <select
      aria-label={props.label}
      className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
    >
      {props.options.map(({ value, label }) => (
        <option key={value} value={value}>
          {label}
        </option>
      ))}
    </select>
  );
}

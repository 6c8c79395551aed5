import type { SetupKind, SetupRecord } from '@zaguan/contracts/setup';
import { type Doc, mergeDocs } from '@zaguan/core/setup';
import { useState } from 'react';
import { type FieldValues, useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { type ApiError, apiError } from '../../../../shared/api/contractApi.ts';
import { contractResolver } from '../../../forms/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import type { DocOf } from '../docs.ts';
import { KINDS, setupApi } from '../setup.api.ts';

/** Somebody saved the record since this form was opened. */
export interface ConcurrentChange {
  readonly by: string | null;
  /** Fields only they changed. */
  readonly theirs: readonly string[];
  /** Fields both changed. */
  readonly both: readonly string[];
  /** What both wrote into a field, where it is words or a figure. */
  written(field: string): { readonly mine: string; readonly theirs: string } | null;
  /** Goes on with both edits; `mine` decides where both changed a field. */
  goOn(mine: boolean): void;
}

/**
 * The form of one record: checked by the contract's own schema as it is typed, saved with the version it was read in.
 * A refusal goes to the fields it names; what somebody else saved meanwhile is shown beside, and nothing typed is lost.
 *
 * @param record the record as it is now; `null` for a new one
 */
export function useRecordForm<K extends SetupKind>(
  kind: K,
  newId: string,
  record: SetupRecord<DocOf[K]> | null,
  blank: DocOf[K],
  onSaved: (id: string) => void,
) {
  const { t } = useTranslation();
  const toast = useUndoToast();
  const [base, setBase] = useState({ version: record?.version ?? 0, doc: record?.doc ?? blank });
  const form = useForm<FieldValues>({
    defaultValues: base.doc as unknown as FieldValues,
    resolver: contractResolver(KINDS[kind].doc),
  });
  const [save, { isLoading }] = setupApi.useSaveRecordsMutation();
  const [refused, setRefused] = useState<ApiError | null>(null);
  const [facts, setFacts] = useState<Record<string, unknown>>({});
  /** Agreed to so far for what stands in the form: one consequence may be asked about after another. */
  const [agreed, setAgreed] = useState<readonly string[]>([]);
  const id = record?.id ?? newId;

  const send = async (agreed: readonly string[] = []) => {
    setAgreed(agreed);
    setRefused(null);
    const doc = form.getValues();
    const result = await save({ kind, records: [{ id, version: base.version, doc }], agreed });
    const error = 'error' in result ? apiError(result.error) : null;
    if (error) {
      setRefused(error);
      setFacts(error.facts);
      for (const { path, code } of error.issues ?? []) {
        const field = path.replace(/^records\.\d+\.doc\.?/, '');
        if (field && field !== path) form.setError(field, { type: 'server', message: code }, { shouldFocus: true });
      }
      return;
    }
    if (!('data' in result) || !result.data) return;
    toast(t('setup.saved'), result.data.undo.id);
    onSaved(id);
  };

  const moved = record !== null && record.version !== base.version;
  const merged = moved ? mergeDocs(base.doc as unknown as Doc, form.getValues(), record.doc as unknown as Doc) : null;
  const meanwhile: ConcurrentChange | null =
    moved && merged
      ? {
          by: record.changedBy,
          theirs: merged.taken,
          both: merged.both,
          written: (field) => {
            const [mine, theirs] = [merged.doc[field], (record.doc as unknown as Doc)[field]];
            const plain = (value: unknown) => typeof value === 'string' || typeof value === 'number';
            return plain(mine) && plain(theirs) ? { mine: String(mine), theirs: String(theirs) } : null;
          },
          goOn: (mine) => {
            const doc: Record<string, unknown> = { ...merged.doc };
            const theirs = record.doc as unknown as Doc;
            if (!mine) for (const field of merged.both) doc[field] = theirs[field];
            form.reset(doc, { keepDefaultValues: false });
            setBase({ version: record.version, doc: record.doc });
            setRefused(null);
          },
        }
      : null;

  return {
    form,
    id,
    facts,
    refused,
    meanwhile,
    saving: isLoading,
    submit: form.handleSubmit(() => send()),
    agree: (codes: readonly string[]) => void send([...agreed, ...codes]),
  };
}

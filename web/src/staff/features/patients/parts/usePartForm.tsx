import type { Endpoint, OutputOf, RequestOf } from '@zaguan/contracts';
import type { PatientRecord } from '@zaguan/contracts/patients';
import { useTranslation } from 'react-i18next';
import { useContractForm } from '../../../forms/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { useOpenedVersion } from './Part.tsx';

interface Options<E extends Endpoint> {
  readonly record: PatientRecord;
  readonly name: string;
  readonly values: Omit<RequestOf<E>, 'id' | 'version'>;
  readonly send: (request: RequestOf<E>) => Promise<{ data?: OutputOf<E>; error?: unknown }>;
  readonly close: () => void;
  /** What is said when it is saved. */
  readonly said?: (answer: OutputOf<E>) => string;
}

/** A form of one part of a record: kept while it is typed, sent at the version that was read, undone from the note below. */
export function usePartForm<E extends Endpoint>(endpoint: E, { record, name, values, send, close, said }: Options<E>) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const keepAs = `patient.${name}.${record.id}`;
  const { version, notice } = useOpenedVersion(record, keepAs);
  const form = useContractForm(endpoint, {
    values: values as never,
    fixed: { id: record.id, version } as unknown as Partial<RequestOf<E>>,
    send: send as never,
    onDone: (answer: OutputOf<E>) => {
      const { undo: way } = answer as { undo: { id: string } };
      undo(said?.(answer) ?? t('edit.saved'), way.id);
      close();
    },
    keepAs,
  });
  return { form, notice };
}

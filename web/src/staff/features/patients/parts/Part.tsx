import type { PatientRecord } from '@zaguan/contracts/patients';
import { type ReactNode, useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { keepDraft, keptDraft } from '../../../forms/keptDrafts.ts';
import { useAddress } from '../../../shell/useAddress.ts';

/** Parts of a record that can be changed; the open one is in the address, so that a reload leaves it open. */
export const PARTS = ['identity', 'address', 'needs', 'home', 'notes', 'codes', 'status', 'restricted'] as const;
export type PartName = (typeof PARTS)[number];

interface Props {
  readonly name: PartName;
  readonly record: PatientRecord;
  readonly mayChange?: boolean;
  /** As it stands. */
  readonly children: ReactNode;
  /** What is filled in to change it. */
  readonly form: (close: () => void) => ReactNode;
}

/** One part of a record: read here, changed in place. */
export function Part({ name, record, mayChange = record.mayEdit, children, form }: Props) {
  const { t } = useTranslation();
  const { asked, set } = useAddress();
  const isOpen = mayChange && asked.get('edit') === name;
  const title = t(`edit.part.${name}`);
  return (
    <section aria-label={title} data-part={name} className="border-t border-line pt-2 first:border-t-0 first:pt-0">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="font-bold">{title}</h2>
        {mayChange && !isOpen && (
          <Button
            look="plain"
            className="-my-1 px-1.5 py-0.5 font-normal underline"
            aria-label={t('edit.changePart', { part: title })}
            onClick={() => set({ edit: name }, true)}
          >
            {t('edit.change')}
          </Button>
        )}
      </div>
      {isOpen ? form(() => set({ edit: null })) : children}
    </section>
  );
}

/** Names and values below one another; what is empty is left out. */
export function Facts({ rows }: { rows: readonly (readonly [string, ReactNode])[] }) {
  const filled = rows.filter(([, value]) => value !== null && value !== '' && value !== false);
  if (!filled.length) return null;
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      {filled.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-muted">{name}</dt>
          <dd className="min-w-0 break-words whitespace-pre-line">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/**
 * The version that a form goes out from: the one that stood there when its first letter was typed, also after a reload.
 * Who types while somebody else saves is told, and decides; nothing of either is lost.
 *
 * @param typedAs the name under which the form keeps what is typed
 */
export function useOpenedVersion(record: PatientRecord, typedAs: string) {
  const { t } = useTranslation();
  const name = `${typedAs}.version`;
  const [version, setVersion] = useState(() => {
    const before = keptDraft(typedAs) ? keptDraft(name)?.version : null;
    return typeof before === 'number' ? before : record.version;
  });
  useEffect(() => keepDraft(name, { version }), [name, version]);
  const notice =
    record.version === version ? null : (
      <Notice tone="warning" live="polite">
        {t('edit.newer')}{' '}
        <Button className="mt-1" onClick={() => setVersion(record.version)}>
          {t('edit.goOn')}
        </Button>
      </Notice>
    );
  return { version, notice };
}

import type { ReactNode } from 'react';
import { useFieldArray } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ListFault } from '../../../forms/index.ts';

/** Rows of a list in a form, each with its fields, one more at a press. */
export function ListRows({
  name,
  add,
  blank,
  empty,
  children,
}: {
  name: string;
  /** What the button says. */
  add: string;
  blank: () => object;
  empty?: string;
  children: (at: string, index: number) => ReactNode;
}) {
  const { t } = useTranslation();
  const { fields, append, remove } = useFieldArray({ name });
  return (
    <div data-field={name} className="flex flex-col gap-2">
      {!fields.length && empty && <p className="text-muted">{empty}</p>}
      {fields.map((field, i) => (
        <div key={field.id} className="flex items-end gap-2">
          <div className="min-w-0 flex-1">{children(`${name}.${i}`, i)}</div>
          <Button look="plain" aria-label={t('setup.removeRow', { n: i + 1 })} onClick={() => remove(i)}>
            ✕
          </Button>
        </div>
      ))}
      <ListFault name={name} />
      <Button className="self-start" onClick={() => append(blank())}>
        {add}
      </Button>
    </div>
  );
}

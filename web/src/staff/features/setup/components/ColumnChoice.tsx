import type { Table } from '@tanstack/react-table';
import { Popover } from 'radix-ui';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { TickField } from '../../../../shared/ui/inputs.tsx';
import { fieldWordsOr } from '../fieldWords.ts';
import type { TableKind } from '../kinds.ts';

/** Which columns a table has. */
export function ColumnChoice<Row>({ kind, table }: { kind: TableKind; table: Table<Row> }) {
  const { t } = useTranslation();
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>{t('setup.columns')}</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          className="z-40 flex flex-col gap-1 rounded-md border border-line-strong bg-panel p-3"
        >
          {table.getAllLeafColumns().map((column) => (
            <TickField key={column.id} checked={column.getIsVisible()} onChange={column.getToggleVisibilityHandler()}>
              {fieldWordsOr(t, kind, column.id)}
            </TickField>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

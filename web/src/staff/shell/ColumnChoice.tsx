import { Popover } from 'radix-ui';
import { useTranslation } from 'react-i18next';
import { Button } from '../../shared/ui/Button.tsx';
import { TickField } from '../../shared/ui/inputs.tsx';

interface Props {
  readonly columns: readonly { readonly id: string; readonly words: string; readonly isShown: boolean }[];
  readonly onToggle: (id: string) => void;
}

/** Which columns a table has. */
export function ColumnChoice({ columns, onToggle }: Props) {
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
          {columns.map(({ id, words, isShown }) => (
            <TickField key={id} checked={isShown} onChange={() => onToggle(id)}>
              {words}
            </TickField>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Button } from '../../shared/ui/Button.tsx';

/** One line of a menu. */
export const MENU_ITEM = 'cursor-pointer rounded-sm px-3 py-1.5 select-none data-[highlighted]:bg-surface-deep';

interface Props<Code extends string> {
  /** On the button. */
  readonly words: string;
  /** Said after the words, where they alone don’t say what it is about. */
  readonly label?: string;
  readonly options: readonly { readonly value: Code; readonly label: string }[];
  readonly disabled?: boolean;
  readonly onChoose: (value: Code) => void;
}

/**
 * A button that asks which way, and does it. A list box would not do: arrow keys change its value, and with it would do
 * the first thing they pass (WCAG 3.2.2).
 */
export function ActionMenu<Code extends string>({ words, label, options, disabled, onChoose }: Props<Code>) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild disabled={disabled}>
        <Button aria-label={label && `${words} ${label}`}>
          {words} <ChevronDown size={14} aria-hidden="true" />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 rounded-md border border-line-strong bg-panel p-1"
        >
          {options.map(({ value, label: option }) => (
            <DropdownMenu.Item key={value} className={MENU_ITEM} onSelect={() => onChoose(value)}>
              {option}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Fragment } from 'react';
import { Button } from '../../shared/ui/Button.tsx';

/** One line of a menu. */
export const MENU_ITEM = 'cursor-pointer rounded-sm px-3 py-1.5 select-none data-[highlighted]:bg-surface-deep';

interface Props<Code extends string> {
  /** On the button. */
  readonly words: string;
  /** Said after the words, where they alone don’t say what it is about. */
  readonly label?: string;
  /** Those that follow one another under one heading stand together. */
  readonly options: readonly { readonly value: Code; readonly label: string; readonly under?: string }[];
  readonly align?: 'start' | 'end';
  readonly disabled?: boolean;
  readonly onChoose: (value: Code) => void;
}

/**
 * A button that asks which way, and does it. A list box would not do: arrow keys change its value, and with it would do
 * the first thing they pass (WCAG 3.2.2).
 */
export function ActionMenu<Code extends string>({
  words,
  label,
  options,
  align = 'end',
  disabled,
  onChoose,
}: Props<Code>) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild disabled={disabled}>
        <Button aria-label={label && `${words} ${label}`}>
          {words} <ChevronDown size={14} aria-hidden="true" />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          sideOffset={4}
          className="z-40 max-h-(--radix-dropdown-menu-content-available-height) overflow-y-auto rounded-md border border-line-strong bg-panel p-1"
        >
          {options.map(({ value, label: option, under }, i) => (
            <Fragment key={value}>
              {under && under !== options[i - 1]?.under && (
                <DropdownMenu.Label className="px-3 pt-2 pb-1 text-sm text-muted">{under}</DropdownMenu.Label>
              )}
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => onChoose(value)}>
                {option}
              </DropdownMenu.Item>
            </Fragment>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  /** Tells it from the others. */
  readonly name: string;
  /** On the button. */
  readonly words: string;
  /** Said of it where the words alone don't say what it is. */
  readonly label?: string;
  /** Shown when it is pointed at: all of the words, where they may be cut. */
  readonly title?: string;
  /** Something holds that one must not overlook. */
  readonly isMarked?: boolean;
  readonly className?: string;
  /** The page behind takes neither keys nor presses while it is open. */
  readonly modal?: boolean;
  readonly open?: boolean;
  readonly onOpenChange?: (open: boolean) => void;
  readonly children: ReactNode;
}

/** A button of a toolbar that opens what belongs to it below. */
export function PopoverButton({
  name,
  words,
  label,
  title,
  isMarked = false,
  className = '',
  children,
  ...root
}: Props) {
  const look = isMarked ? 'border-chrome bg-chrome text-white' : 'border-line-strong bg-panel hover:bg-surface-deep';
  return (
    <Popover.Root {...root}>
      <Popover.Trigger
        data-popover={name}
        aria-label={label}
        title={title}
        className={`max-w-52 truncate rounded-md border px-3 py-1.5 font-semibold ${look}`}
      >
        {words}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className={`z-50 max-h-(--radix-popover-content-available-height) overflow-y-auto rounded-md border border-line-strong bg-panel p-3 ${className}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useId } from 'react';
import { useTranslation } from 'react-i18next';
import { CONTROL } from '../../../shared/ui/Field.tsx';
import { TickField } from '../../../shared/ui/inputs.tsx';

interface Props {
  readonly label: string;
  /** Said where none is named. */
  readonly any: string;
  readonly options: readonly { readonly id: string; readonly name: string }[];
  /** `null`: any. */
  readonly chosen: readonly string[] | null;
  readonly onChange: (chosen: string[] | null) => void;
}

/** Any, one or several of a list, in the room of one choice. */
export function SeveralChoice({ label, any, options, chosen, onChange }: Props) {
  const { t } = useTranslation();
  const id = useId();
  const names = options.filter((option) => chosen?.includes(option.id)).map(({ name }) => name);
  const toggle = (option: string) => {
    const next = chosen?.includes(option) ? chosen.filter((each) => each !== option) : [...(chosen ?? []), option];
    onChange(next.length ? next : null);
  };
  return (
    <div className="flex flex-col gap-1 text-sm">
      <span id={id}>{label}</span>
      <Popover.Root>
        <Popover.Trigger
          aria-labelledby={`${id} ${id}-chosen`}
          className={`${CONTROL} flex items-center justify-between gap-1 text-left`}
        >
          <span id={`${id}-chosen`}>
            {names.length === 0 ? any : names.length === 1 ? names[0] : t('book.chosen', { count: names.length })}
          </span>
          <ChevronDown aria-hidden="true" size={14} strokeWidth={3} className="shrink-0" />
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            aria-label={label}
            className="z-40 flex max-h-80 flex-col gap-1 overflow-y-auto rounded-md border border-line-strong bg-panel p-3"
          >
            {options.map((option) => (
              <TickField
                key={option.id}
                checked={chosen?.includes(option.id) ?? false}
                onChange={() => toggle(option.id)}
              >
                {option.name}
              </TickField>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}

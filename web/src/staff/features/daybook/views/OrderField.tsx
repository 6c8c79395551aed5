import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useId } from 'react';
import { useController } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { CONTROL } from '../../../../shared/ui/Field.tsx';
import type { Option } from '../../../forms/fields.tsx';
import { ListFault } from '../../../forms/index.ts';

interface Props {
  readonly name: string;
  readonly label: string;
  readonly options: readonly Option[];
  /** What stands for one that is chosen and not among the options any more. */
  readonly gone?: string;
  readonly add: string;
}

/** Some of several in an order of one's own: added from a list, moved up and down, taken off. */
export function OrderField({ name, label, options, gone, add }: Props) {
  const { t } = useTranslation();
  const { field } = useController({ name });
  const id = useId();
  const chosen = (field.value as readonly string[] | null) ?? [];
  const labelOf = (value: string) => options.find((option) => option.value === value)?.label;
  const left = options.filter(({ value }) => !chosen.includes(value));
  const swap = (i: number, by: 1 | -1) => {
    const next = [...chosen];
    [next[i], next[i + by]] = [next[i + by], next[i]];
    field.onChange(next);
  };
  return (
    <fieldset data-field={name}>
      <legend className="mb-1 font-semibold">{label}</legend>
      <ol className="flex flex-col gap-0.5">
        {chosen.map((value, i) => {
          const words = labelOf(value) ?? gone ?? value;
          return (
            <li key={value} className="flex items-center gap-1 rounded-sm bg-surface-deep px-2">
              <span className={`min-w-0 flex-1 truncate ${labelOf(value) ? '' : 'text-danger italic'}`}>{words}</span>
              <IconButton label={t('daybookView.up', { what: words })} disabled={i === 0} onPress={() => swap(i, -1)}>
                <ArrowUp size={15} aria-hidden="true" />
              </IconButton>
              <IconButton
                label={t('daybookView.down', { what: words })}
                disabled={i === chosen.length - 1}
                onPress={() => swap(i, 1)}
              >
                <ArrowDown size={15} aria-hidden="true" />
              </IconButton>
              <IconButton
                label={t('daybookView.takeOff', { what: words })}
                onPress={() => field.onChange(chosen.filter((each) => each !== value))}
              >
                <X size={15} aria-hidden="true" />
              </IconButton>
            </li>
          );
        })}
      </ol>
      {left.length > 0 && (
        <select
          id={id}
          aria-label={`${label}: ${add}`}
          ref={field.ref}
          className={`${CONTROL} mt-1`}
          value=""
          onChange={(event) => event.target.value && field.onChange([...chosen, event.target.value])}
        >
          <option value="">{add}</option>
          {left.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </select>
      )}
      <ListFault name={name} />
    </fieldset>
  );
}

export function IconButton({
  label,
  disabled,
  onPress,
  children,
}: {
  label: string;
  disabled?: boolean;
  onPress: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={disabled}
      onClick={onPress}
      className="flex size-7 shrink-0 items-center justify-center rounded-sm text-muted hover:bg-highlight hover:text-foreground disabled:opacity-30"
    >
      {children}
    </button>
  );
}

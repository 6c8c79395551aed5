import type { Answer, FieldKind } from '@zaguan/core/setup';
import { useState } from 'react';
import { CONTROL } from './Field.tsx';

/** Longest text that is kept as an answer; the contracts say the same. */
const MAX_CHARACTERS = 500;

/**
 * The control in which a field of the clinic's own, or a question of its own, is answered, by its kind. An answer taken
 * back is the empty text; what was typed and is no number stays text, so that the rule can say so.
 *
 * @param given what the labeled field around it gives its control
 */
export function AnswerControl({
  controlProps,
  kind,
  choices,
  words,
  value,
  tall,
  onChange,
}: {
  controlProps: object;
  kind: FieldKind;
  choices: readonly { readonly value: string; readonly label: string }[];
  words: { readonly yes: string; readonly no: string };
  value: Answer | undefined;
  /** For a finger. */
  tall?: boolean;
  onChange: (value: Answer) => void;
}) {
  const className = tall ? `${CONTROL} min-h-11` : CONTROL;
  if (kind === 'choice' || kind === 'yes-no') {
    const yesNo = kind === 'yes-no';
    const options = yesNo
      ? [
          { value: 'yes', label: words.yes },
          { value: 'no', label: words.no },
        ]
      : choices;
    return (
      <select
        {...controlProps}
        className={className}
        value={typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value ?? '')}
        onChange={({ target }) => onChange(yesNo && target.value ? target.value === 'yes' : target.value)}
      >
        <option value="">–</option>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    );
  }
  const control = { ...controlProps, className };
  if (kind === 'number') return <NumberInput {...control} value={value} onChange={onChange} />;
  return (
    <input
      {...control}
      type={kind}
      maxLength={MAX_CHARACTERS}
      value={String(value ?? '')}
      onChange={({ target }) => onChange(target.value)}
    />
  );
}

const numberOrText = (text: string): Answer =>
  text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : text;

/** Shows a number as it is typed: "1." and "1.50" are the same number as "1" and "1.5", and must stay on screen. */
function NumberInput({ value, onChange, ...rest }: { value: Answer | undefined; onChange: (value: Answer) => void }) {
  const [typed, setTyped] = useState(String(value ?? ''));
  return (
    <input
      {...rest}
      inputMode="decimal"
      maxLength={MAX_CHARACTERS}
      value={numberOrText(typed) === value ? typed : String(value ?? '')}
      onChange={({ target }) => {
        setTyped(target.value);
        onChange(numberOrText(target.value));
      }}
    />
  );
}

import type { Need, Part } from '@zaguan/core/visits';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../shared/ui/Field.tsx';
import { WholeNumberInput } from '../../../shared/ui/inputs.tsx';
import type { TypeAtDesk } from './flow.ts';
import { addedPlace, canRemove, placedAt, PART_BOUNDS, removedNeed, withLength } from './ownPartsChange.ts';
import type { SetFlow } from './useFlow.ts';

interface Props {
  readonly type: TypeAtDesk;
  readonly parts: readonly Part[];
  /** They differ from the type's. */
  readonly isOwn: boolean;
  readonly set: SetFlow;
}

/** How long this one visit takes and what its parts need; what is changed here is stored with the visit. */
export function OwnParts({ type, parts, isOwn, set }: Props) {
  const { t } = useTranslation();
  const change = (to: readonly Part[]) => set({ parts: to, time: null });
  return (
    <fieldset className="flex flex-col gap-2 rounded-md border border-line bg-surface px-3 py-2" data-own-parts>
      <legend className="px-1 font-semibold">{t('book.thisVisit')}</legend>
      {parts.map((part, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its place alone
        <div key={at} className="flex flex-col gap-1">
          <div className="flex items-end gap-2">
            <div className="flex-1">
              <Field label={parts.length > 1 ? t('book.partMinutes', { number: at + 1 }) : t('book.minutes')}>
                {(controlProps) => (
                  <WholeNumberInput
                    {...controlProps}
                    name={`minutes-${at}`}
                    {...PART_BOUNDS}
                    value={part.lengthMin}
                    onValue={(minutes) => change(withLength(parts, at, minutes))}
                  />
                )}
              </Field>
            </div>
            {parts.length > 1 && canRemove(parts, at) && (
              <Button onClick={() => change(parts.filter((_, i) => i !== at))}>{t('book.removePart')}</Button>
            )}
          </div>
          <ul className="flex flex-col gap-1">
            {part.needs.map((need) => (
              <NeedLine key={need.key} need={need} type={type} parts={parts} at={at} onChange={change} />
            ))}
          </ul>
          <select
            aria-label={t('book.addPlace', { number: at + 1 })}
            className={CONTROL}
            value=""
            onChange={(event) => change(addedPlace(parts, at, event.target.value))}
          >
            <option value="">{t('book.addPlaceHere')}</option>
            {type.pools.map(({ kind, name }) => (
              <option key={kind} value={`pool:${kind}`}>
                {t('book.anyOf', { name })}
              </option>
            ))}
            {type.places.map(({ id, name }) => (
              <option key={id} value={`resource:${id}`}>
                {name}
              </option>
            ))}
          </select>
        </div>
      ))}
      {isOwn && (
        <Button look="plain" className="self-start px-0 underline" onClick={() => set({ parts: null, time: null })}>
          {t('book.asUsual')}
        </Button>
      )}
    </fieldset>
  );
}

/** A need: a room or device can be another one, or none; who sees the patient stays the type's to say. */
function NeedLine({
  need,
  type,
  parts,
  at,
  onChange,
}: {
  need: Need;
  type: TypeAtDesk;
  parts: readonly Part[];
  at: number;
  onChange: (parts: readonly Part[]) => void;
}) {
  const { t } = useTranslation();
  if (need.what === 'provider') return <li className="text-muted">{t('setup.parts.provider')}</li>;
  if (need.what === 'present')
    return (
      <li className="text-muted">
        {t('setup.parts.present', {
          what: codeWords(t, 'setup.capability', need.capability, {}, need.capability.replaceAll('-', ' ')),
        })}
      </li>
    );
  const value = need.what === 'pool' ? `pool:${need.poolKind}` : `resource:${need.resourceId}`;
  return (
    <li className="flex gap-2">
      <select
        aria-label={t('book.place', { number: at + 1 })}
        className={`${CONTROL} min-w-0 flex-1`}
        value={value}
        onChange={(event) => onChange(placedAt(parts, at, need.key, event.target.value))}
      >
        {type.pools.map(({ kind, name }) => (
          <option key={kind} value={`pool:${kind}`}>
            {t('book.anyOf', { name })}
          </option>
        ))}
        {type.places.map(({ id, name }) => (
          <option key={id} value={`resource:${id}`}>
            {name}
          </option>
        ))}
      </select>
      <Button onClick={() => onChange(removedNeed(parts, at, need.key))}>{t('find.without')}</Button>
    </li>
  );
}

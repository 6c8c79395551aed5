import { useId } from 'react';
import { useTranslation } from 'react-i18next';
import type { Refs } from '../hooks/useRefs.ts';
import type { Thread } from './threads.ts';

/** What a value of the picker stands for: the kind of thing, and which. */
export function thingOf(value: string): Pick<Thread, 'what' | 'poolKind' | 'resourceId' | 'capability'> {
  const [what, rest] = [value.split(':')[0] as Thread['what'], value.slice(value.indexOf(':') + 1)];
  return {
    what,
    poolKind: what === 'pool' ? rest : null,
    resourceId: what === 'resource' ? rest : null,
    capability: what === 'present' ? rest : null,
  };
}

/** Everything a visit may need: a provider, one of a pool, somebody able, or this one room or device. */
export function NeedPicker({ refs, onPick }: { refs: Refs; onPick: (value: string) => void }) {
  const { t } = useTranslation();
  const needId = useId();
  return (
    <span className="flex items-center gap-1.5">
      <label htmlFor={needId}>{t('setup.add.need')}</label>
      <select
        id={needId}
        className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
        value=""
        onChange={(event) => event.target.value && onPick(event.target.value)}
      >
        <option value="">{t('setup.parts.choose')}</option>
        <option value="provider:">{t('setup.parts.provider')}</option>
        <optgroup label={t('setup.parts.onePool')}>
          {refs.poolKinds.map(({ value, label }) => (
            <option key={value} value={`pool:${value}`}>
              {label}
            </option>
          ))}
        </optgroup>
        <optgroup label={t('setup.parts.someone')}>
          {refs.capabilities.map((value) => (
            <option key={value} value={`present:${value}`}>
              {t(`setup.capability.${value}`, { defaultValue: value.replaceAll('-', ' ') })}
            </option>
          ))}
        </optgroup>
        <optgroup label={t('setup.parts.thisOne')}>
          {refs.places.map(({ value, label }) => (
            <option key={value} value={`resource:${value}`}>
              {label}
            </option>
          ))}
        </optgroup>
      </select>
    </span>
  );
}

import { useTranslation } from 'react-i18next';
import { ActionMenu } from '../../../shell/ActionMenu.tsx';
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
  const options = [
    { value: 'provider:', label: t('setup.parts.provider') },
    ...refs.poolKinds.map(({ value, label }) => ({ value: `pool:${value}`, label, under: t('setup.parts.onePool') })),
    ...refs.capabilities.map((value) => ({
      value: `present:${value}`,
      label: t(`setup.capability.${value}`, { defaultValue: value.replaceAll('-', ' ') }),
      under: t('setup.parts.someone'),
    })),
    ...refs.places.map(({ value, label }) => ({ value: `resource:${value}`, label, under: t('setup.parts.thisOne') })),
  ];
  return <ActionMenu words={t('setup.add.need')} options={options} align="start" onChoose={onPick} />;
}

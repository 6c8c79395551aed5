import type { Code, Facts } from '@zaguan/core/openings';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { timeOf } from '../../../../shared/time/format.ts';
import { factLines } from '../../../words.facts.en.ts';
import { useNames } from '../../booking/index.ts';
import type { LaneSection } from '../layout.ts';
import type { Over, Verdict } from './drag.slice.ts';

interface Refusal {
  readonly code: Code;
  readonly facts: readonly Facts[];
}
/** As many rules are named under the pointer. */
const NAMED = 3;

/** What putting a visit down somewhere would come to, a line each: when and with whom, then whether it fits or why not. */
export function usePlaceWords(sections: readonly LaneSection[]) {
  const { t } = useTranslation();
  const { clinic, zoneOf, providerOf } = useNames();
  return useMemo(() => {
    const names: Record<string, string> = {};
    for (const { id, name } of [...(clinic?.sites ?? []), ...(clinic?.visitTypes ?? [])]) names[id] = name;
    for (const { site } of sections) for (const { resourceId, name } of site.lanes) names[resourceId] = name;
    for (const { id, shortName } of clinic?.people ?? []) names[id] = shortName;
    const lines = (over: Over, { code, facts }: Refusal) =>
      factLines({ code, applies: true, passed: false, facts: facts as never }, names, zoneOf(over.siteId));
    const verdictOf = (over: Over & { readonly verdict: Verdict }): string[] => {
      const { verdict } = over;
      if (verdict.is !== 'refused') return [t(`drag.${verdict.is}`)];
      const told = verdict.refused
        .slice(0, NAMED)
        .map((one) => `${t(`whyNot.code.${one.code}`)}. ${lines(over, one)[0] ?? ''}`.trim());
      return [...told, t(verdict.byReason ? 'drag.byReason' : 'drag.never')];
    };
    const words = (over: Over & { readonly verdict: Verdict }): string[] => {
      const time = timeOf(new Date(over.start * 60_000).toISOString(), zoneOf(over.siteId));
      const length = over.lengthMin === null ? '' : t('daybookView.minutes', { minutes: over.lengthMin });
      return [[time, length || providerOf(over.providerId)].filter(Boolean).join(' · '), ...verdictOf(over)];
    };
    return Object.assign(words, { lines });
  }, [t, clinic, sections, zoneOf, providerOf]);
}

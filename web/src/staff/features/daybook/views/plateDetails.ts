import type { Plate, PlateDetail } from '@zaguan/contracts/daybook';
import type { TFunction } from 'i18next';
import { timeOf } from '../../../../shared/time/format.ts';

interface Facts {
  readonly typeName: string;
  readonly providerName: string;
  readonly timeZone: string;
  readonly namesHidden: boolean;
}

/**
 * What stands behind the name, in the Lens's order: all of it, and ever less from the end on, so that the first that fits
 * can be taken. Where names are hidden so is the reason, which may tell more than a name.
 */
export function detailsOf(
  plate: Plate,
  details: readonly PlateDetail[],
  facts: Facts,
  t: TFunction,
): readonly string[] {
  const words = details.map((detail) => wordsOf(plate, detail, facts, t)).filter(Boolean);
  return words.map((_, i) => words.slice(0, words.length - i).join(' · '));
}

function wordsOf(plate: Plate, detail: PlateDetail, facts: Facts, t: TFunction): string {
  switch (detail) {
    case 'type':
      return facts.typeName;
    case 'reason':
      return facts.namesHidden || plate.kind === 'hold' ? '' : plate.reason;
    case 'time':
      return timeOf(plate.drawn.start, facts.timeZone);
    case 'length':
      return t('daybookView.minutes', {
        minutes: (Date.parse(plate.drawn.end) - Date.parse(plate.drawn.start)) / 60_000,
      });
    case 'origin':
      return plate.origin === 'self' ? t('visit.originShort.self') : '';
    case 'kind':
      return t(`daybookView.patientKind.${plate.patientKind}`);
    case 'provider':
      return facts.providerName;
  }
}

import { LANE_SETS, type ViewSettings } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import type { useDaybookAddress } from '../hooks/useDaybookAddress.ts';

interface Props {
  readonly view: ViewSettings;
  readonly choose: ReturnType<typeof useDaybookAddress>['choose'];
}

/** Whose lanes are drawn. */
export function LaneChoice({ view: { lanes, only }, choose }: Props) {
  const { t } = useTranslation();
  return (
    <fieldset className="ml-2 flex rounded-md border border-line-strong bg-panel">
      <legend className="sr-only">{t('daybook.lanesOf')}</legend>
      {LANE_SETS.map((set) => (
        <label
          key={set}
          className="cursor-pointer px-2.5 py-1.5 first-of-type:rounded-l-md last-of-type:rounded-r-md has-checked:bg-chrome has-checked:text-white has-focus-visible:outline-2 has-focus-visible:outline-accent"
        >
          <input
            type="radio"
            name="lanes"
            className="sr-only"
            // A Lens that lists lanes by name shows none of these.
            checked={only === null && lanes === set}
            onChange={() => choose.lanes(set)}
          />
          {t(`daybook.lanes.${set}`)}
        </label>
      ))}
    </fieldset>
  );
}

/** Whether those who do not work that day are left out. */
export function InUseChoice({ view, choose }: Props) {
  const { t } = useTranslation();
  return (
    <label className="flex min-h-[26px] items-center gap-1.5">
      <input
        type="checkbox"
        className="size-4 accent-accent"
        checked={view.inUseOnly}
        onChange={(event) => choose.onlyWorking(event.target.checked)}
      />
      {t('daybook.onlyWorking')}
    </label>
  );
}

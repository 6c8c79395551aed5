import { useTranslation } from 'react-i18next';
import type { useDaybookAddress } from '../hooks/useDaybookAddress.ts';
import { LANE_SETS } from '../layout.ts';

/** Whose lanes are drawn, and whether those who do not work that day are left out. */
export function LaneChoice({
  address: { lanes, onlyWorking, choose },
}: {
  address: ReturnType<typeof useDaybookAddress>;
}) {
  const { t } = useTranslation();
  return (
    <span className="ml-2 flex flex-wrap items-center gap-x-4 gap-y-1">
      <fieldset className="flex rounded-md border border-line-strong bg-panel">
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
              checked={lanes === set}
              onChange={() => choose.lanes(set)}
            />
            {t(`daybook.lanes.${set}`)}
          </label>
        ))}
      </fieldset>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="size-4 accent-accent"
          checked={onlyWorking}
          onChange={(event) => choose.onlyWorking(event.target.checked)}
        />
        {t('daybook.onlyWorking')}
      </label>
    </span>
  );
}

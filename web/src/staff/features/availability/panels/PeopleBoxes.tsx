import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { TickField } from '../../../../shared/ui/inputs.tsx';

/** Several people to choose from; all of a site's providers with one press. */
export function PeopleBoxes({
  week,
  chosen,
  only,
  except,
  fault,
  onChange,
}: {
  week: ScheduleWeek;
  chosen: readonly string[];
  only: string | null;
  except?: string;
  fault?: string;
  onChange: (ids: string[]) => void;
}) {
  const { t } = useTranslation();
  const lanes = week.lanes.filter(
    ({ kind, resourceId }) =>
      (kind === 'provider' || kind === 'staff') && resourceId !== except && (!only || resourceId === only),
  );
  const people = [...new Map(lanes.map((lane) => [lane.resourceId, lane])).values()];
  const providersAt = (siteId: string) =>
    lanes.filter((lane) => lane.siteId === siteId && lane.kind === 'provider').map(({ resourceId }) => resourceId);
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="font-semibold">{t('hours.who')}</legend>
      {!only && (
        <div className="flex flex-wrap gap-x-3">
          {week.sites.map((site) => (
            <button
              key={site.id}
              type="button"
              className="py-1 text-left text-door underline"
              onClick={() => onChange([...new Set([...chosen, ...providersAt(site.id)])])}
            >
              {t('schedule.allProviders', { site: site.name })}
            </button>
          ))}
        </div>
      )}
      <div className="max-h-[170px] overflow-y-auto rounded-md border border-line bg-panel px-2 py-1">
        {people.map(({ resourceId, name }) => (
          <TickField
            key={resourceId}
            className="py-0.5"
            checked={chosen.includes(resourceId)}
            onChange={(event) =>
              onChange(event.target.checked ? [...chosen, resourceId] : chosen.filter((id) => id !== resourceId))
            }
          >
            {name}
          </TickField>
        ))}
      </div>
      {fault && (
        <p role="alert" className="font-semibold text-brick">
          {fault}
        </p>
      )}
    </fieldset>
  );
}

import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { TickField } from '../../../../shared/ui/inputs.tsx';

/** Several people to choose from; all of a site's providers with one press. */
export function PeopleBoxes({
  week,
  chosen,
  only,
  except,
  withPlaces = false,
  fault,
  onChange,
}: {
  week: ScheduleWeek;
  chosen: readonly string[];
  only: string | null;
  except?: string;
  /** Rooms and devices, too, folded away. */
  withPlaces?: boolean;
  fault?: string;
  onChange: (ids: string[]) => void;
}) {
  const { t } = useTranslation();
  const lanes = week.lanes.filter(
    ({ kind, resourceId }) =>
      (kind === 'provider' || kind === 'staff') && resourceId !== except && (!only || resourceId === only),
  );
  const people = [...new Map(lanes.map(({ resourceId: id, name }) => [id, { id, name }])).values()];
  const siteName = (siteId: string) => week.sites.find(({ id }) => id === siteId)?.name ?? '';
  const places = week.lanes
    .filter(({ kind }) => kind === 'room' || kind === 'equipment')
    .map(({ resourceId: id, name, siteId }) => ({ id, name: `${name}, ${siteName(siteId)}` }));
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
              className="py-1 text-left text-accent underline"
              onClick={() => onChange([...new Set([...chosen, ...providersAt(site.id)])])}
            >
              {t('schedule.allProviders', { site: site.name })}
            </button>
          ))}
        </div>
      )}
      <Boxes rows={people} chosen={chosen} onChange={onChange} />
      {withPlaces && places.length > 0 && (
        <details open={places.some(({ id }) => chosen.includes(id))}>
          <summary className="cursor-pointer py-1 font-semibold">{t('schedule.placesToo')}</summary>
          <Boxes rows={places} chosen={chosen} onChange={onChange} />
        </details>
      )}
      {fault && (
        <p role="alert" className="font-semibold text-danger">
          {fault}
        </p>
      )}
    </fieldset>
  );
}

function Boxes({
  rows,
  chosen,
  onChange,
}: {
  rows: readonly { id: string; name: string }[];
  chosen: readonly string[];
  onChange: (ids: string[]) => void;
}) {
  return (
    <div className="max-h-[170px] overflow-y-auto rounded-md border border-line bg-panel px-2 py-1">
      {rows.map(({ id, name }) => (
        <TickField
          key={id}
          className="py-0.5"
          checked={chosen.includes(id)}
          onChange={(event) =>
            onChange(event.target.checked ? [...chosen, id] : chosen.filter((other) => other !== id))
          }
        >
          {name}
        </TickField>
      ))}
    </div>
  );
}

import type { OutputOf } from '@zaguan/contracts';
import type { WorkingHours } from '@zaguan/contracts/availability';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { Popover } from 'radix-ui';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dayAndMonth, wallTime, weekdayNames, zoneShort } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';

type Clinic = OutputOf<typeof staffClinic>;
const SHORT: Record<string, string> = { ':00 am': ' am', ':00 pm': ' pm' };
const short = (minute: number) =>
  Object.entries(SHORT).reduce((text, [long, brief]) => text.replace(long, brief), wallTime(minute));

/** Recurring hours as a week, by site and person; a door-coloured edge says shown online. */
export function HoursGrid({
  clinic,
  hours,
  mayEdit,
}: {
  clinic: Clinic;
  hours: readonly WorkingHours[];
  mayEdit: (resourceId: string) => boolean;
}) {
  const days = weekdayNames('en', 'long');
  return (
    <table className="w-full border-collapse text-left">
      <thead>
        <tr className="border-b border-line">
          <td className="w-[130px]" />
          {days.map((day) => (
            <th key={day} scope="col" className="border-l border-line px-2 py-1.5 font-bold">
              {day}
            </th>
          ))}
        </tr>
      </thead>
      {clinic.sites.map((site) => (
        <tbody key={site.id}>
          <tr className="bg-band">
            <th colSpan={8} scope="colgroup" className="px-2 py-0.5 text-[0.85rem]">
              {site.name} <span className="font-normal text-muted">{zoneShort(site.timeZone)}</span>
            </th>
          </tr>
          {clinic.people
            .filter((person) => person.siteIds.includes(site.id))
            .map((person) => {
              const mine = hours.filter((row) => row.resourceId === person.id && row.siteId === site.id);
              return (
                <tr key={person.id} className="border-b border-line align-top">
                  <th scope="row" className="px-2 py-1.5 leading-tight font-bold">
                    {person.shortName}
                    <span className="block text-[0.8rem] font-normal text-muted">{person.credentials}</span>
                  </th>
                  {days.map((day, i) => (
                    <td key={day} className="border-l border-line p-1">
                      <div className="flex flex-col gap-1">
                        {mine
                          .filter((row) => row.weekdays.includes(i + 1))
                          .sort((a, b) => a.fromMinute - b.fromMinute)
                          .map((row) => (
                            <Chip key={row.id} row={row} clinic={clinic} mayEdit={mayEdit(person.id)} />
                          ))}
                      </div>
                    </td>
                  ))}
                </tr>
              );
            })}
        </tbody>
      ))}
    </table>
  );
}

function Chip({ row, clinic, mayEdit }: { row: WorkingHours; clinic: Clinic; mayEdit: boolean }) {
  const { t } = useTranslation();
  const undoToast = useUndoToast();
  const [remove, { isLoading }] = availabilityApi.useRemoveHoursMutation();
  const types = row.acceptsTypeIds
    ?.map((id) => clinic.visitTypes.find((type) => type.id === id)?.name ?? '')
    .join(', ');
  const kinds = row.invitedOnly
    ? t('hours.invitedOnly')
    : row.acceptsKinds?.length === 1
      ? t(row.acceptsKinds[0] === 'new' ? 'hours.newOnly' : 'hours.establishedOnly')
      : '';
  const what = [types, kinds].filter(Boolean).join(', ') || t('hours.anyType');
  const when = [
    row.everyWeeks > 1 && t('hours.everyShort', { count: row.everyWeeks }),
    row.effectiveUntil && t('hours.untilDate', { date: dayAndMonth(row.effectiveUntil) }),
  ]
    .filter(Boolean)
    .join(', ');
  const online = t(row.online ? 'hours.shown' : 'hours.desk');
  const onRemove = async () => {
    const result = await remove({ id: row.id, version: row.version });
    const error = 'error' in result ? apiError(result.error) : null;
    if (error) toast.error(t(`error.${error.tag}`, { requestId: error.requestId }));
    else if (result.data) undoToast(t('hours.removed'), result.data.undo.id);
  };
  return (
    <Popover.Root>
      <Popover.Trigger
        data-hours={row.id}
        className={`w-full rounded-sm border border-line-strong border-t-[5px] bg-panel px-1.5 py-0.5 text-left leading-tight hover:bg-lime-deep ${row.online ? 'border-t-door' : 'border-t-line-strong'}`}
      >
        <span className="sr-only">
          {t('hours.chip', { from: wallTime(row.fromMinute), until: wallTime(row.toMinute), what, online })}
        </span>
        <span aria-hidden="true" className="block text-[0.86rem] font-bold">
          {short(row.fromMinute)}–{short(row.toMinute)}
        </span>
        <span aria-hidden="true" className="block text-[0.78rem] text-muted">
          {kinds.replace(' patients', '') || (types ? types : t('hours.anyKind'))}
        </span>
        {when && <span className="block text-[0.78rem] text-muted">{when}</span>}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={8}
          className="z-40 w-64 rounded-md border border-line-strong bg-panel p-3"
        >
          <p className="font-bold">
            {wallTime(row.fromMinute)} to {wallTime(row.toMinute)}
          </p>
          <p>
            {row.weekdays.map((day) => weekdayNames('en', 'short')[day - 1]).join(', ')} ·{' '}
            {t('hours.everyN', { count: row.everyWeeks })}
          </p>
          <p>{what}</p>
          <p>{online}</p>
          <p className="text-muted">
            {t('hours.fromDate', { date: row.effectiveFrom })}
            {row.effectiveUntil && `, ${t('hours.untilDate', { date: row.effectiveUntil })}`}
          </p>
          {mayEdit && (
            <Button look="danger" className="mt-2" disabled={isLoading} onClick={() => void onRemove()}>
              {t('hours.remove')}
            </Button>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

import { DELAY_STEPS_MIN } from '@zaguan/core/daybook';
import type { Lane, SiteDay } from '@zaguan/contracts/daybook';
import { EllipsisVertical } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useTranslation } from 'react-i18next';
import { dateAt } from '../../../../shared/time/format.ts';
import { MENU_ITEM } from '../../../shell/ActionMenu.tsx';
import { useSayRefused } from '../../../shell/useSayRefused.ts';
import { useUndoToast } from '../../undo/index.ts';
import { daybookApi } from '../daybook.api.ts';

interface Props {
  readonly site: SiteDay;
  readonly lane: Lane;
  /** How far behind the lane's provider is; 0: on time. */
  readonly delayMin: number;
  readonly isToday: boolean;
  readonly onNote: () => void;
}

/** What is said of a lane: that its provider runs late, and notes. */
export function LaneMenu({ site, lane, delayMin, isToday, onNote }: Props) {
  const { t } = useTranslation();
  const say = useSetDelay(site, lane, delayMin);
  return (
    // The page behind stays as it is: only the menu takes the keys.
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={t('laneMenu.of', { name: lane.name })}
        data-lane-menu={lane.resourceId}
        className="absolute top-0.5 right-0.5 flex size-6 items-center justify-center rounded-sm text-muted hover:bg-surface-deep hover:text-foreground"
      >
        <EllipsisVertical size={15} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-40 max-h-(--radix-dropdown-menu-content-available-height) overflow-y-auto rounded-md border border-line-strong bg-panel p-1"
        >
          {lane.kind === 'provider' && isToday && (
            <>
              <DropdownMenu.Label className="px-3 pt-1 pb-1 text-sm text-muted">{t('delay.menu')}</DropdownMenu.Label>
              {delayMin > 0 && (
                <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void say(0)}>
                  {t('delay.onTime')}
                </DropdownMenu.Item>
              )}
              {DELAY_STEPS_MIN.filter((minutes) => minutes !== delayMin).map((minutes) => (
                <DropdownMenu.Item key={minutes} className={MENU_ITEM} onSelect={() => void say(minutes)}>
                  {t('delay.by', { minutes })}
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Separator className="my-1 h-px bg-line" />
            </>
          )}
          <DropdownMenu.Item className={MENU_ITEM} onSelect={onNote}>
            {t('note.add')}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Says how far behind a provider is, and to how many that was told. */
function useSetDelay(site: SiteDay, lane: Lane, delayMin: number) {
  const { t } = useTranslation();
  const sayRefused = useSayRefused();
  const toast = useUndoToast();
  const [setDelay] = daybookApi.useSetDelayMutation();
  return async (minutes: number) => {
    const date = dateAt(site.dayStart, site.timeZone);
    const of = { siteId: site.id as never, resourceId: lane.resourceId as never, date };
    const { data, error } = await setDelay({ ...of, minutes, was: delayMin });
    sayRefused(error);
    if (!data) return;
    const { told, toCall } = data;
    const what = minutes ? t('delay.said', { name: lane.name, minutes }) : t('delay.saidOnTime', { name: lane.name });
    const whom = [t('delay.told', { count: told }), toCall > 0 && t('delay.toCall', { count: toCall })];
    toast([what, ...whom].filter(Boolean).join(' '), data.undo.id);
  };
}

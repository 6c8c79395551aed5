import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { shiftDate, shortDate, weekOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { prefs } from '../../../prefs.slice.ts';
import { SiteChoice } from '../../../shell/SiteChoice.tsx';
import { useAppDispatch } from '../../../store.ts';
import { LANE_KINDS } from '../../daybook/index.ts';
import type { AvailabilityAddress } from '../hooks/useAvailabilityAddress.ts';
import { BRUSHES, type Brush } from '../panel.ts';

interface Props {
  readonly week: ScheduleWeek | undefined;
  /** The Monday that is shown, also while it is being fetched. */
  readonly from: string;
  readonly siteId: string;
  readonly address: AvailabilityAddress;
  readonly brush: Brush | null;
  readonly onBrush: (brush: Brush | null) => void;
}

/** Which week, of which site, people or rooms; and the brush. */
export function WeekHeader({ week, from, siteId, address, brush, onBrush }: Props) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  return (
    <header className="flex flex-wrap items-center gap-2 border-b border-line bg-surface px-3 py-2">
      <Button aria-label={t('schedule.previous')} disabled={!from} onClick={() => address.goTo(shiftDate(from, -7))}>
        ‹
      </Button>
      <h1 className="text-xl font-bold">{from ? t('schedule.weekOf', { date: shortDate(from) }) : t('hours.title')}</h1>
      <Button aria-label={t('schedule.next')} disabled={!from} onClick={() => address.goTo(shiftDate(from, 7))}>
        ›
      </Button>
      <Button disabled={!week || from === weekOf(week.today)} onClick={() => week && address.goTo(weekOf(week.today))}>
        {t('schedule.thisWeek')}
      </Button>
      <SiteChoice sites={week?.sites ?? []} value={siteId} onChoose={(id) => dispatch(prefs.actions.choseSite(id))} />
      <select
        aria-label={t('daybook.lanesOf')}
        className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
        value={address.lanes}
        onChange={(event) => address.show(event.target.value)}
      >
        {LANE_KINDS.map((each) => (
          <option key={each} value={each}>
            {t(`daybook.lanes.${each}`)}
          </option>
        ))}
      </select>
      {week && week.mayEdit !== 'none' && <BrushChoice brush={brush} onBrush={onBrush} />}
    </header>
  );
}

function BrushChoice({ brush, onBrush }: Pick<Props, 'brush' | 'onBrush'>) {
  const { t } = useTranslation();
  return (
    <fieldset className="ml-auto flex items-center gap-1">
      <legend className="sr-only">{t('schedule.brushLabel')}</legend>
      <span aria-hidden="true" className="text-muted">
        {t('schedule.brushLabel')}
      </span>
      {BRUSHES.map((each) => (
        <Button
          key={each}
          aria-pressed={brush === each}
          look={brush === each ? 'accent' : 'quiet'}
          onClick={() => onBrush(brush === each ? null : each)}
        >
          {t(`schedule.brush.${each}`)}
        </Button>
      ))}
    </fieldset>
  );
}

/** Says what a stroke would do while the brush is held, and how to leave it. */
export function BrushBar({ brush, onLeave }: { brush: Brush; onLeave: () => void }) {
  const { t } = useTranslation();
  return (
    <div className="flex items-center gap-3 border-b border-accent bg-accent-subtle px-3 py-1.5" role="status">
      <span>{t(`schedule.brushSays.${brush}`)}</span>
      <Button onClick={onLeave}>{t('schedule.leaveBrush')}</Button>
    </div>
  );
}

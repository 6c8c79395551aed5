import type { OutputOf } from '@zaguan/contracts';
import type { ScheduleWeek } from '@zaguan/contracts/availability';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useTranslation } from 'react-i18next';
import { SidePanel } from '../../../shell/SidePanel.tsx';
import { Button } from '../../../../shared/ui/Button.tsx';
import { WhyNotPanel } from '../../openings/index.ts';
import { KeptTyping } from '../../../forms/index.ts';
import { laneKey } from '../grid/geometry.ts';
import { useDraft } from '../hooks/draftContext.ts';
import { isOfDay } from '../panelAddress.ts';
import type { Brush, Panel } from '../panel.ts';
import { TimeOffPanel } from './TimeOffPanel.tsx';
import { CalendarPanel } from './CalendarPanel.tsx';
import { UpcomingPanel } from './UpcomingPanel.tsx';
import { CopyDayPanel, CopyWeekPanel } from './CopyPanel.tsx';
import { DayPanel } from './DayPanel.tsx';
import { DraftPanel } from './DraftPanel.tsx';
import { EditHoursPanel } from './EditHoursPanel.tsx';
import { KeepFreePanel } from './KeepFreePanel.tsx';
import { NewHoursPanel } from './NewHoursPanel.tsx';
import { PaintPanel } from './PaintPanel.tsx';
import { RequestsPanel } from './RequestsPanel.tsx';

interface Props {
  readonly week: ScheduleWeek;
  readonly clinic: OutputOf<typeof staffClinic>;
  readonly now: string;
  readonly panel: Panel;
  readonly brush: Brush | null;
  readonly mayEdit: (resourceId: string) => boolean;
  readonly onOpen: (panel: Panel) => void;
  readonly onClose: () => void;
}

/** At the right of the week: what was pressed, drawn or asked for. Escape closes it. */
export function SchedulePanel(props: Props) {
  const { t } = useTranslation();
  const { week, panel, onClose } = props;
  const draft = useDraft();
  // Another question of the same kind keeps what was set; anything else starts anew.
  const about = panel.kind === 'why-not' ? 'why-not' : JSON.stringify(panel);
  const kept = ['schedule', draft?.id ?? '', isOfDay(panel) ? week.from : '', versionOf(week, panel), about].join(' ');
  return (
    <SidePanel label={t('schedule.panel')} about={about} onClose={onClose} closesItself>
      <KeptTyping key={about} as={kept}>
        <Inner {...props} />
      </KeptTyping>
    </SidePanel>
  );
}

/** Which hours a panel is about: what was typed over them is not typed over what somebody else made of them since. */
function versionOf(week: ScheduleWeek, panel: Panel): string {
  if (panel.kind !== 'edit') return '';
  const stretch = week.lanes.find((lane) => laneKey(lane) === panel.lane)?.days[panel.day].hours[panel.stretch];
  const hours = week.hours.find(({ id }) => id === stretch?.hoursId);
  return [hours?.id, hours?.version, stretch?.changeId].join(' ');
}

function Inner({ week, clinic, now, panel, brush, mayEdit, onOpen, onClose }: Props) {
  const { t } = useTranslation();
  const laneOf = (key: string | null) => week.lanes.find((lane) => laneKey(lane) === key) ?? null;
  const dateOf = (day: number | null) => (day === null ? null : (week.sites[0]?.days[day].date ?? null));
  const onlyOwn = week.mayEdit === 'own' ? week.ownResourceId : null;
  const shared = { week, onClose };
  switch (panel.kind) {
    case 'new':
      return (
        <NewHoursPanel
          {...shared}
          clinic={clinic}
          lane={laneOf(panel.lane)}
          date={dateOf(panel.day)}
          span={panel.span}
          onlyOwn={onlyOwn}
        />
      );
    case 'away':
      return (
        <TimeOffPanel
          {...shared}
          of="people"
          now={now}
          resourceId={panel.resourceId}
          siteId={null}
          date={dateOf(panel.day)}
          onlyOwn={onlyOwn}
        />
      );
    case 'close':
      return (
        <TimeOffPanel
          {...shared}
          of="site"
          now={now}
          resourceId={null}
          siteId={panel.siteId}
          date={null}
          onlyOwn={null}
        />
      );
    case 'copy':
      return <CopyWeekPanel {...shared} of={panel.resourceId} />;
    case 'requests':
      return <RequestsPanel {...shared} />;
    case 'draft':
      return <DraftPanel {...shared} />;
    case 'coming':
      return <UpcomingPanel {...shared} mayEdit={mayEdit} />;
    case 'calendar': {
      const lane = laneOf(panel.lane);
      return lane && <CalendarPanel {...shared} lane={lane} />;
    }
    case 'why-not': {
      const lane = laneOf(panel.lane);
      if (!lane) return null;
      return (
        <div className="flex flex-col gap-3">
          <WhyNotPanel
            asked={{ siteId: lane.siteId, resourceId: lane.resourceId, start: panel.start }}
            onChange={({ siteId, resourceId, start }) =>
              onOpen({ kind: 'why-not', lane: `${siteId}:${resourceId}`, start })
            }
          />
          <Button className="self-start" onClick={onClose}>
            {t('close')}
          </Button>
        </div>
      );
    }
    case 'paint':
      return (
        <PaintPanel {...shared} lane={laneOf(panel.lane)} date={dateOf(panel.day)} brush={brush} onlyOwn={onlyOwn} />
      );
    case 'day':
    case 'edit':
    case 'keep-free':
    case 'copy-day': {
      const lane = laneOf(panel.lane);
      if (!lane) return null;
      const { date } = lane.days[panel.day];
      if (panel.kind === 'day')
        return <DayPanel {...shared} lane={lane} day={panel.day} mayEdit={mayEdit(lane.resourceId)} onOpen={onOpen} />;
      if (panel.kind === 'keep-free') return <KeepFreePanel {...shared} lane={lane} date={date} span={panel.span} />;
      if (panel.kind === 'copy-day') return <CopyDayPanel {...shared} lane={lane} date={date} />;
      const stretch = lane.days[panel.day].hours[panel.stretch];
      // Somebody else took these hours away while the panel was open.
      if (!stretch)
        return <DayPanel {...shared} lane={lane} day={panel.day} mayEdit={mayEdit(lane.resourceId)} onOpen={onOpen} />;
      return (
        <EditHoursPanel {...shared} clinic={clinic} lane={lane} date={date} stretch={stretch} moved={panel.moved} />
      );
    }
  }
}

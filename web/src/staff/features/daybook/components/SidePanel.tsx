import type { DaybookDay } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { SidePanel as Frame } from '../../../shell/SidePanel.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { BookPanel } from '../../booking/index.ts';
import { WhyNotPanel } from '../../openings/index.ts';
import type { Panel } from '../hooks/useDaybookAddress.ts';
import type { TypeNames } from './LaneView.tsx';
import { VisitPanel } from './VisitPanel.tsx';

const LABEL = { visit: 'daybook.title', book: 'book.title', 'why-not': 'whyNot.title' } as const;

/** At the right: the visit that was opened, or the question that was asked. */
export function SidePanel({
  day,
  types,
  panel,
  onOpen,
  onClose: close,
}: {
  day: DaybookDay;
  types: TypeNames;
  panel: Panel;
  onOpen: (panel: Panel) => void;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const { data: who } = accountsApi.useWhoAmIQuery({});
  if (!who?.me) return null;
  return (
    <Frame
      label={t(LABEL[panel.kind])}
      about={panel.kind === 'visit' ? panel.visitId : panel.kind}
      className={panel.kind === 'book' ? 'w-[360px]' : 'w-[310px]'}
      onClose={close}
    >
      {panel.kind === 'visit' ? (
        <VisitPanel
          key={panel.visitId}
          day={day}
          visitId={panel.visitId}
          types={types}
          role={who.me.role}
          onClose={close}
        />
      ) : panel.kind === 'book' ? (
        <BookPanel
          key={`${panel.patientId} ${panel.at?.start} ${panel.use}`}
          date={day.date}
          patientId={panel.patientId}
          use={panel.use}
          time={panel.at && { siteId: panel.at.siteId, providerId: panel.at.resourceId || null, start: panel.at.start }}
          onClose={close}
        />
      ) : (
        <WhyNotPanel asked={panel} onChange={(asked) => onOpen({ kind: 'why-not', ...asked })} />
      )}
    </Frame>
  );
}

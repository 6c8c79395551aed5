import type { DaybookDay } from '@zaguan/contracts/daybook';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { SidePanel as Frame } from '../../../shell/SidePanel.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { type Booked, BookedView, BookPanel, foundOf } from '../../booking/index.ts';
import { WhyNotPanel } from '../../openings/index.ts';
import { NEW_BOOKING, type Panel } from '../hooks/useDaybookAddress.ts';
import { NotePanel } from '../notes/NotePanel.tsx';
import type { TypeNames } from './useLane.ts';
import { VisitPanel } from './VisitPanel.tsx';

const LABEL = { visit: 'daybook.title', book: 'book.title', note: 'note.title', 'why-not': 'whyNot.title' } as const;

/** At the right: the visit that was opened, or the question that was asked. */
export function SidePanel({
  day,
  siteId,
  types,
  panel,
  onOpen,
  onClose: close,
}: {
  day: DaybookDay;
  /** The site that is looked at, or "all". */
  siteId: string;
  types: TypeNames;
  /** `null`: nothing is open. */
  panel: Panel | null;
  onOpen: (panel: Panel) => void;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const { booked, onBooked, onDone } = useBooked(panel, close);
  if (!who?.me) return null;
  if (!panel)
    return booked ? (
      <Frame label={t('book.title')} about="booked" className="w-[360px]" onClose={onDone}>
        <BookedView booked={booked} onClose={onDone} onNext={(patientId) => onOpen({ ...NEW_BOOKING, patientId })} />
      </Frame>
    ) : null;
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
          key={`${panel.patientId} ${panel.at?.start} ${panel.use} ${panel.found}`}
          date={day.date}
          siteId={siteId === 'all' ? null : siteId}
          patientId={panel.patientId}
          visitTypeId={panel.visitTypeId}
          found={panel.found === null ? null : foundOf(panel.found)}
          use={panel.use}
          time={panel.at && { siteId: panel.at.siteId, providerId: panel.at.resourceId || null, start: panel.at.start }}
          onBooked={onBooked}
        />
      ) : panel.kind === 'note' ? (
        <NotePanel day={day} asked={panel} onClose={close} />
      ) : (
        <WhyNotPanel asked={panel} onChange={(asked) => onOpen({ kind: 'why-not', ...asked })} />
      )}
    </Frame>
  );
}

/** What was booked last stands there once its panel has gone, until it is put away or anything else is opened. */
function useBooked(panel: Panel | null, close: () => void) {
  const [last, setLast] = useState<{ readonly booked: Booked; readonly from: Panel | null } | null>(null);
  useEffect(() => {
    if (panel) setLast((before) => (before?.from === panel ? before : null));
  }, [panel]);
  return {
    booked: last?.booked ?? null,
    onBooked: (booked: Booked) => {
      setLast({ booked, from: panel });
      close();
    },
    onDone: () => setLast(null),
  };
}

import type { SiteDay } from '@zaguan/contracts/daybook';
import type { Panel } from '../hooks/useDaybookAddress.ts';
import { findNote } from '../notes/NotePanel.tsx';

interface Day {
  readonly date: string;
  readonly sites: SiteDay[];
}

/** The day of a week that a panel works on: that of what was opened, or of the start that was asked about; else the first. */
export function dayOfPanel(panel: Panel | null, days: readonly Day[]): Day | undefined {
  const isAnyDay = panel === null || (panel.kind === 'book' && panel.at === null);
  return isAnyDay ? days[0] : days.find((day) => isOf(panel, day));
}

function isOf(panel: Panel, { date, sites }: Day): boolean {
  if (panel.kind === 'note')
    return panel.noteId === null ? panel.date === date : findNote({ sites }, panel.noteId) !== null;
  if (panel.kind === 'visit')
    return sites.some((site) => site.lanes.some((lane) => lane.plates.some(({ id }) => id === panel.visitId)));
  const start = panel.kind === 'why-not' ? panel.start : panel.at?.start;
  return start !== undefined && sites.some((site) => site.dayStart <= start && start < site.dayEnd);
}

import type { DayNote } from '@zaguan/contracts/daybook';
import { NoteChip } from './LaneNotes.tsx';

/** What stands on a site's day, below its name. */
export function SiteNotes({ notes, onOpen }: { notes: readonly DayNote[]; onOpen: (note: DayNote) => void }) {
  if (!notes.length) return null;
  return (
    <div className="border-b border-line bg-surface">
      <div className="sticky left-0 flex w-max max-w-[min(100%,80vw)] flex-wrap gap-1.5 px-2 py-1">
        {notes.map((note) => (
          <NoteChip key={note.id} note={note} onOpen={onOpen} className="max-w-[420px]" />
        ))}
      </div>
    </div>
  );
}

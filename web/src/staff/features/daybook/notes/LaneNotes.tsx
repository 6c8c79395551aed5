import type { DayNote } from '@zaguan/contracts/daybook';
import { StickyNote } from 'lucide-react';
import { useTranslation } from 'react-i18next';
import { wallTime } from '../../../../shared/time/format.ts';
import { useView } from '../views/viewContext.ts';
import { ABOVE_PX, NOTE_PX, type PlacedNote } from './placeNotes.ts';

interface Props {
  readonly placed: readonly PlacedNote[];
  /** Above what stands at the foot of the lane, in pixels. */
  readonly bottom: number;
  readonly height: number;
  readonly onOpen: (note: DayNote) => void;
}

/** The notes of a lane, in rows of their own below its visits. */
export function LaneNotes({ placed, bottom, height, onOpen }: Props) {
  return (
    <div className="pointer-events-none absolute inset-x-0 z-[12]" style={{ bottom, height }}>
      {placed.map(({ note, left, width, row }) => (
        <NoteChip
          key={note.id}
          note={note}
          onOpen={onOpen}
          className="pointer-events-auto absolute"
          style={{ left, width, top: ABOVE_PX + row * NOTE_PX }}
        />
      ))}
    </div>
  );
}

/** One note: what it says, on one line. */
export function NoteChip({
  note,
  onOpen,
  className,
  style,
}: {
  note: DayNote;
  onOpen: (note: DayNote) => void;
  className?: string;
  style?: { left: number; width: number; top: number };
}) {
  const { t } = useTranslation();
  const { fromMinute, toMinute, by } = note;
  // Where patients can look on, a note may name one.
  const isHidden = useView().namesHidden;
  const text = isHidden ? '' : note.text;
  const when =
    fromMinute === null || toMinute === null
      ? ''
      : t('daybook.range', { from: wallTime(fromMinute), until: wallTime(toMinute) });
  return (
    <button
      type="button"
      data-note={note.id}
      title={[text, when, by].filter(Boolean).join(' · ')}
      onClick={() => onOpen(note)}
      className={`flex h-6 items-center gap-1.5 rounded-sm border border-l-[3px] border-line-strong border-l-accent bg-panel px-1.5 text-left text-sm hover:bg-surface-deep ${className ?? ''}`}
      style={style}
    >
      <StickyNote size={13} aria-hidden="true" className="shrink-0 text-accent" />
      <span className="truncate">
        {isHidden ? t('note.title') : <span className="sr-only">{t('note.title')}: </span>}
        {text}
        {when && <span className="sr-only">, {when}</span>}
      </span>
    </button>
  );
}

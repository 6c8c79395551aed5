import { useDraggable } from '@dnd-kit/core';
import type { KeyboardEvent, MouseEvent, ReactNode, TouchEvent } from 'react';
import type { LaneSection } from '../layout.ts';
import { useDragging } from './dragContext.ts';
import { startJudge } from './askJudge.ts';
import { grab } from './useDragVisit.ts';

/** Where a mouse presses; a finger can't aim at an end, a key has no place. */
function pressedAt(event: MouseEvent | TouchEvent | KeyboardEvent): { x: number; y: number } | null {
  return 'clientX' in event ? { x: event.clientX, y: event.clientY } : null;
}

/** The pointer says which part of a plate moves it, and which end makes it longer. */
function showEnd(event: MouseEvent, sections: readonly LaneSection[]): void {
  const plate = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-plate]') : null;
  if (!plate) return;
  const isDown = plate.closest<HTMLElement>('[data-axis]')?.dataset.axis === 'down';
  const cursor = grab(plate, sections, pressedAt(event))?.end ? (isDown ? 'ns-resize' : 'ew-resize') : '';
  if (plate.style.cursor !== cursor) plate.style.cursor = cursor;
}

/** Whatever can be dragged on the board is grabbed here: one for all plates. */
export function Grip({
  sections,
  className,
  children,
}: {
  sections: readonly LaneSection[];
  className: string | undefined;
  children: ReactNode;
}) {
  const dragging = useDragging();
  const { listeners, setNodeRef } = useDraggable({ id: 'visit', disabled: !dragging });
  /** Hands a press on to the library if it is on a plate that can be dragged. */
  const whenGrabbed =
    <E extends MouseEvent | TouchEvent | KeyboardEvent>(name: string) =>
    (event: E) => {
      const plate = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-plate]') : null;
      const found = plate && dragging && grab(plate, sections, pressedAt(event));
      if (!found) return;
      if ('key' in event && (event.key.toLowerCase() !== 'm' || event.ctrlKey || event.metaKey || event.altKey)) return;
      dragging.grabbed.current = found;
      startJudge();
      setNodeRef(plate);
      listeners?.[name]?.(event);
    };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the plates inside are the buttons; this only hears of their presses
    <div
      data-board-parts
      className={className}
      onMouseMove={(event) => dragging && showEnd(event, sections)}
      onMouseDown={whenGrabbed<MouseEvent>('onMouseDown')}
      onTouchStart={whenGrabbed<TouchEvent>('onTouchStart')}
      onKeyDown={whenGrabbed<KeyboardEvent>('onKeyDown')}
    >
      {children}
    </div>
  );
}

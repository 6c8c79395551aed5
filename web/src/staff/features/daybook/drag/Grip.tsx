import { useDraggable } from '@dnd-kit/core';
import type { KeyboardEvent, MouseEvent, ReactNode, TouchEvent } from 'react';
import type { LaneSection } from '../layout.ts';
import { useDragging } from './dragContext.ts';
import { startJudge } from './askJudge.ts';
import { grab } from './useDragVisit.ts';

/** Whatever can be dragged on the board is grabbed here: one for all plates. */
export function Grip({ sections, children }: { sections: readonly LaneSection[]; children: ReactNode }) {
  const dragging = useDragging();
  const { listeners, setNodeRef } = useDraggable({ id: 'visit', disabled: !dragging });
  /** Hands a press on to the library if it is on a plate that can be dragged. */
  const whenGrabbed =
    <E extends MouseEvent | TouchEvent | KeyboardEvent>(name: string) =>
    (event: E) => {
      const plate = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-plate]') : null;
      const found = plate && dragging && grab(plate, sections);
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
      onMouseDown={whenGrabbed<MouseEvent>('onMouseDown')}
      onTouchStart={whenGrabbed<TouchEvent>('onTouchStart')}
      onKeyDown={whenGrabbed<KeyboardEvent>('onKeyDown')}
    >
      {children}
    </div>
  );
}

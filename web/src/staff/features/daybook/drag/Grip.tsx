import { useDraggable } from '@dnd-kit/core';
import type { KeyboardEvent, MouseEvent, ReactNode, TouchEvent } from 'react';
import type { LaneSection } from '../layout.ts';
import { useCarrying } from './carryContext.ts';
import { startJudge } from './askJudge.ts';
import { grab } from './useCarry.ts';

/** Whatever can be carried on the board is grabbed here: one for all plates. */
export function Grip({ sections, children }: { sections: readonly LaneSection[]; children: ReactNode }) {
  const carry = useCarrying();
  const { listeners, setNodeRef } = useDraggable({ id: 'visit', disabled: !carry });
  /** Hands a press on to the library if it is on a plate that can be carried. */
  const whenGrabbed =
    <E extends MouseEvent | TouchEvent | KeyboardEvent>(name: string) =>
    (event: E) => {
      const plate = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-plate]') : null;
      const found = plate && carry && grab(plate, sections);
      if (!found) return;
      if ('key' in event && event.key.toLowerCase() !== 'm') return;
      carry.grabbed.current = found;
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

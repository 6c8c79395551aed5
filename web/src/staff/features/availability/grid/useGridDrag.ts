import { type PointerEvent, useRef, useState } from 'react';
import type { Brush, Span } from '../panel.ts';
import { between, dragged, type Grip, minuteAt, type Shown, stepFor } from './geometry.ts';

/** A lane's day, by their places on the page. */
export interface CellAt {
  readonly lane: number;
  readonly day: number;
}

/** What is drawn over the lanes while a pointer is down. */
export interface Ghost extends Span {
  readonly from: CellAt;
  readonly to: CellAt;
  readonly brush: Brush | null;
}

interface DragStart {
  readonly cell: CellAt;
  readonly minute: number;
  readonly stretch: { readonly index: number; readonly span: Span; readonly grip: Grip } | null;
  readonly x: number;
  readonly y: number;
}

export interface Dropped {
  /** Nothing was moved: a press on a day or on hours. */
  pressed(cell: CellAt, stretch: number | null): void;
  drawn(cell: CellAt, span: Span): void;
  movedTo(cell: CellAt, stretch: number, to: Span & { day: number }): void;
  painted(from: CellAt, to: CellAt, span: Span): void;
}

/** A pointer that has gone no further than this was only pressed. */
const STILL_PX = 4;

function cellUnder(x: number, y: number): { cell: CellAt; element: HTMLElement } | null {
  const element = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-cell]');
  if (!element) return null;
  const [lane, day] = (element.dataset.cell ?? '').split(' ').map(Number);
  return { cell: { lane, day }, element };
}

/** Drawing, moving, pulling and painting over the week with one pointer; every one of them can be done by typing too. */
export function useGridDrag(shown: Shown, brush: Brush | null, mayEdit: (lane: number) => boolean, on: Dropped) {
  const [ghost, setGhost] = useState<Ghost | null>(null);
  const dragStart = useRef<DragStart | null>(null);
  const minuteOf = (element: HTMLElement, x: number) => {
    const box = element.getBoundingClientRect();
    return { minute: minuteAt(x - box.left, box.width, shown), step: stepFor(box.width, shown) };
  };
  const reach = (event: PointerEvent): Ghost | null => {
    const start = dragStart.current;
    const under = cellUnder(event.clientX, event.clientY);
    if (!start || !under || !mayEdit(start.cell.lane)) return null;
    const { minute, step } = minuteOf(under.element, event.clientX);
    if (brush) return { from: start.cell, to: under.cell, brush, ...between(start.minute, minute, step) };
    // Hours stay in their lane; to another person they are copied, not dragged.
    const to = { lane: start.cell.lane, day: start.stretch?.grip === 'whole' ? under.cell.day : start.cell.day };
    if (!start.stretch) {
      const end = under.cell.day === start.cell.day ? minute : start.minute;
      return { from: start.cell, to: start.cell, brush: null, ...between(start.minute, end, step) };
    }
    const { span, grip } = start.stretch;
    return { from: to, to, brush: null, ...dragged(span, grip, minute - start.minute, step) };
  };
  const moved = (event: PointerEvent) =>
    dragStart.current !== null &&
    Math.hypot(event.clientX - dragStart.current.x, event.clientY - dragStart.current.y) > STILL_PX;
  return {
    ghost,
    handlers: {
      onPointerDown: (event: PointerEvent) => {
        if (event.button !== 0) return;
        const under = cellUnder(event.clientX, event.clientY);
        if (!under) return;
        const target = event.target as HTMLElement;
        const part = target.closest<HTMLElement>('[data-stretch]');
        const [index, fromMinute, toMinute] = (part?.dataset.stretch ?? '').split(' ').map(Number);
        const grip = (target.dataset.grip as Grip | undefined) ?? 'whole';
        dragStart.current = {
          cell: under.cell,
          minute: minuteOf(under.element, event.clientX).minute,
          stretch: part ? { index, span: { fromMinute, toMinute }, grip } : null,
          x: event.clientX,
          y: event.clientY,
        };
      },
      onPointerMove: (event: PointerEvent) => {
        if (moved(event)) setGhost(reach(event));
      },
      onPointerUp: (event: PointerEvent) => {
        const start = dragStart.current;
        const end = start && moved(event) ? reach(event) : null;
        const still = start !== null && !moved(event);
        dragStart.current = null;
        setGhost(null);
        if (still) return on.pressed(start.cell, start.stretch?.index ?? null);
        if (!start || !end) return;
        const span = { fromMinute: end.fromMinute, toMinute: end.toMinute };
        if (brush) on.painted(end.from, end.to, span);
        else if (start.stretch) on.movedTo(start.cell, start.stretch.index, { ...span, day: end.to.day });
        else on.drawn(start.cell, span);
      },
      onPointerLeave: () => setGhost(null),
    },
  };
}

import { useDrag } from '@use-gesture/react';
import { type MouseEvent, useRef, useState } from 'react';
import { useDragEscape } from '../../../../shared/ui/useDragEscape.ts';
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
/** A finger held still for so long draws; one that moves at once scrolls. */
const HOLD_MS = 250;

function cellUnder(x: number, y: number): { cell: CellAt; element: HTMLElement } | null {
  const element = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-cell]');
  if (!element) return null;
  const [lane, day] = (element.dataset.cell ?? '').split(' ').map(Number);
  return { cell: { lane, day }, element };
}

/** What lies under a pointer that goes down; `null` outside the days. */
function startAt(x: number, y: number, shown: Shown): DragStart | null {
  const under = cellUnder(x, y);
  if (!under) return null;
  const target = document.elementFromPoint(x, y) as HTMLElement;
  const part = target.closest<HTMLElement>('[data-stretch]');
  const [index, fromMinute, toMinute] = (part?.dataset.stretch ?? '').split(' ').map(Number);
  const grip = (target.dataset.grip as Grip | undefined) ?? 'whole';
  return {
    cell: under.cell,
    minute: clockUnder(under.element, x, shown).minute,
    stretch: part ? { index, span: { fromMinute, toMinute }, grip } : null,
  };
}

function clockUnder(element: HTMLElement, x: number, shown: Shown) {
  const box = element.getBoundingClientRect();
  return { minute: minuteAt(x - box.left, box.width, shown), step: stepFor(box.width, shown) };
}

/** What would come of a drag that ended here; `null` where it can't end. */
function ghostAt(start: DragStart, x: number, y: number, shown: Shown, brush: Brush | null): Ghost | null {
  const under = cellUnder(x, y);
  if (!under) return null;
  const { minute, step } = clockUnder(under.element, x, shown);
  if (brush) return { from: start.cell, to: under.cell, brush, ...between(start.minute, minute, step) };
  // Hours stay in their lane; to another person they are copied, not dragged.
  const to = { lane: start.cell.lane, day: start.stretch?.grip === 'whole' ? under.cell.day : start.cell.day };
  if (!start.stretch) {
    const end = under.cell.day === start.cell.day ? minute : start.minute;
    return { from: start.cell, to: start.cell, brush: null, ...between(start.minute, end, step) };
  }
  const { span, grip } = start.stretch;
  return { from: to, to, brush: null, ...dragged(span, grip, minute - start.minute, step) };
}

/**
 * Drawing, moving, pulling and painting over the week with one pointer; every one of them can be done by typing too.
 * Escape gives a drag up, and so does a second finger or a call: nothing is done then.
 */
export function useGridDrag(shown: Shown, brush: Brush | null, mayEdit: (lane: number) => boolean, on: Dropped) {
  const [ghost, setGhost] = useState<Ghost | null>(null);
  const dragEscape = useDragEscape();
  /** The click that ends a drag is none. */
  const wasDragged = useRef(false);
  const bind = useDrag(
    ({ first, last, canceled, cancel, initial, xy: [x, y], memo }) => {
      const start = first ? startAt(...initial, shown) : (memo as DragStart | null);
      wasDragged.current = true;
      dragEscape.current = last || canceled ? null : cancel;
      const end = start && mayEdit(start.cell.lane) ? ghostAt(start, x, y, shown, brush) : null;
      setGhost(last ? null : end);
      if (!last || canceled || !start || !end) return start;
      const span = { fromMinute: end.fromMinute, toMinute: end.toMinute };
      if (brush) on.painted(end.from, end.to, span);
      else if (start.stretch) on.movedTo(start.cell, start.stretch.index, { ...span, day: end.to.day });
      else on.drawn(start.cell, span);
      return start;
    },
    { threshold: STILL_PX, pointer: { keys: false }, preventScroll: HOLD_MS, preventScrollAxis: 'xy' },
  );
  const onPointerDownCapture = () => {
    wasDragged.current = false;
  };
  const onClick = ({ clientX, clientY }: MouseEvent) => {
    const start = wasDragged.current ? null : startAt(clientX, clientY, shown);
    if (start) on.pressed(start.cell, start.stretch?.index ?? null);
  };
  return { ghost, handlers: { ...bind(), onPointerDownCapture, onClick } };
}

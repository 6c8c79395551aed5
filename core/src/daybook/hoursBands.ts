import type { ResourceDay } from '../availability/index.ts';
import { and, andNot, countCells, emptyMask, type Mask, or, orInto, rangeMask, runsOf } from '../time/index.ts';

/** Working hours as drawn above a lane: where they hold, what they accept, which of their minutes are shown online. */
export interface HoursBand {
  readonly fromCell: number;
  readonly toCell: number;
  /** Index into the day's stretches; -1 for a thing that is there without hours. */
  readonly stretch: number;
  readonly online: readonly { readonly fromCell: number; readonly toCell: number }[];
}

/** Cells whose online bit is on after the brush, whatever else may hide a start there. */
export function onlineCells(plan: ResourceDay): Mask {
  const shown = emptyMask();
  plan.stretches.forEach((stretch, i) => {
    if (!stretch.online) return;
    for (let cell = stretch.fromCell; cell < stretch.toCell; cell++)
      if (plan.stretchOfCell[cell] === i) orInto(shown, rangeMask(cell, cell + 1));
  });
  return andNot(or(shown, plan.brushShown), plan.brushDesk);
}

/**
 * The strips of one lane's day. Online minutes are those in which working hours, no time off, no kept-free stretch,
 * the site's opening hours and the online bit all hold.
 *
 * @param site the site's opening and closed cells that day
 */
export function hoursBandsOf(plan: ResourceDay, site: { open: Mask; closed: Mask }): HoursBand[] {
  const there = andNot(andNot(plan.hours, plan.timeOff), site.closed);
  const online = and(and(andNot(there, plan.keptFree), site.open), onlineCells(plan));
  const hoursBands: HoursBand[] = [];
  for (const run of runsOf(there)) {
    for (let cell = run.fromCell; cell < run.toCell; ) {
      const stretch = plan.stretchOfCell[cell];
      let end = cell + 1;
      while (end < run.toCell && plan.stretchOfCell[end] === stretch) end++;
      // A thing without hours of its own is there all day: nothing to draw.
      if (stretch >= 0)
        hoursBands.push({ fromCell: cell, toCell: end, stretch, online: runsOf(and(online, rangeMask(cell, end))) });
      cell = end;
    }
  }
  return hoursBands;
}

/** Share of the working cells that are taken, 0 to 1; `null` without working cells. */
export function bookedShare(hoursBands: readonly HoursBand[], taken: Mask): number | null {
  const working = emptyMask();
  for (const hoursBand of hoursBands) orInto(working, rangeMask(hoursBand.fromCell, hoursBand.toCell));
  const cells = countCells(working);
  return cells ? countCells(and(working, taken)) / cells : null;
}

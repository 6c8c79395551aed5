import { andNot, emptyMask, fullMask, hasCell, type Mask, NO_CELLS, or, orInto } from '../../time/index.ts';
import type { Facts } from '../codes.ts';
import { type TimedNeed, type Frame, startsInside } from '../frame.ts';
import type { StartRule } from '../rule.ts';

/** Cells in which at least one person with the capability works at the site, busy or not. */
function presentCells({ index, site, day }: Frame, capability: string): Mask {
  const mask = emptyMask();
  for (const resource of index.plan.resources) {
    if (!resource.capabilities.includes(capability)) continue;
    const plan = index.resourceDay(resource.id, site.id, day.date);
    orInto(mask, andNot(plan.hours, plan.timeOff));
  }
  return mask;
}

function lacking(frame: Frame): { need: TimedNeed; capability: string; hidden: Mask }[] {
  return frame.presence.flatMap((need) =>
    need.need.what === 'present'
      ? [
          {
            need,
            capability: need.need.capability,
            hidden: andNot(fullMask(frame.day.cells), startsInside(need, presentCells(frame, need.need.capability))),
          },
        ]
      : [],
  );
}

/** A part needs someone able to do something at the site until its end (they are not occupied), and nobody is. */
export const nobodyPresent: StartRule = {
  code: 'nobody-present',
  scope: 'start',
  variesBy: 'date',
  binds: 'everyone',
  hide: (frame) => lacking(frame).reduce((mask, row) => or(mask, row.hidden), NO_CELLS),
  facts: (frame, cell) =>
    lacking(frame).flatMap<Facts>((row) =>
      hasCell(row.hidden, cell) ? [{ capability: row.capability, part: row.need.part }] : [],
    ),
};

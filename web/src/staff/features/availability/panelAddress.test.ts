import { describe, expect, it } from 'vitest';
import type { Panel } from './panel.ts';
import { fromAddress, isOfDay, toAddress } from './panelAddress.ts';

const LANE = 'site:doctor';
const SPAN = { fromMinute: 480, toMinute: 720 };
const PANELS: readonly Panel[] = [
  { kind: 'new', lane: null, day: null, span: null },
  { kind: 'new', lane: LANE, day: 3, span: SPAN },
  { kind: 'edit', lane: LANE, day: 0, stretch: 1, moved: null },
  { kind: 'edit', lane: LANE, day: 6, stretch: 0, moved: { ...SPAN, day: 2 } },
  { kind: 'day', lane: LANE, day: 4 },
  { kind: 'away', resourceId: 'doctor', day: null },
  { kind: 'keep-free', lane: LANE, day: 1, span: null },
  { kind: 'copy', resourceId: null },
  { kind: 'copy-day', lane: LANE, day: 1 },
  { kind: 'paint', lane: LANE, day: 2 },
  { kind: 'close', siteId: 'site' },
  { kind: 'why-not', lane: LANE, start: '2026-12-01T15:00:00.000Z' },
  { kind: 'calendar', lane: LANE },
  { kind: 'requests' },
  { kind: 'draft' },
  { kind: 'coming' },
];

function addressOf(panel: Panel | null): URLSearchParams {
  return new URLSearchParams(
    Object.entries(toAddress(panel)).flatMap(([name, value]) => (value === null ? [] : [[name, value]])),
  );
}

describe('the address of an open panel', () => {
  it.each(PANELS)('leads to it again: $kind', (panel) => {
    expect(fromAddress(addressOf(panel))).toEqual(panel);
  });

  it('names nothing once it is closed, and leaves nothing of another one behind', () => {
    expect(addressOf(null).size).toBe(0);
    expect(Object.keys(toAddress({ kind: 'coming' })).sort()).toEqual(Object.keys(toAddress(PANELS[3])).sort());
  });

  it.each([
    'panel=edit&lane=site:doctor&day=9&stretch=0',
    'panel=edit&lane=site:doctor&day=1&stretch=-1',
    'panel=day&day=1',
    'panel=why-not&lane=site:doctor&start=noon',
    'panel=other',
  ])('opens none that there is not: %s', (text) => {
    expect(fromAddress(new URLSearchParams(text))).toBeNull();
  });

  it('knows which of them another week would be about another day of', () => {
    expect(PANELS.filter(isOfDay).map(({ kind }) => kind)).toEqual([
      ...['new', 'edit', 'edit', 'day', 'keep-free', 'copy-day', 'paint', 'why-not'],
    ]);
  });
});

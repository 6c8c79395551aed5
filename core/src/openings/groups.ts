import type { ClinicIndex } from './clinicIndex.ts';
import { EVERY_CELL, type Mask } from '../time/index.ts';
import type { Lane } from './lane.ts';
import type { TimedNeed } from './frame.ts';

interface Window {
  readonly fromCell: number;
  readonly lengthCells: number;
}

/** One who could serve a group, with the hours last judged and the starts they accept by the search criteria. */
export interface Candidate {
  readonly lane: Lane;
  /** Number of the plan last judged in the lane, -1 for none. */
  judged: number;
  accepted: Mask;
}

/** Needs that one resource must serve together: those bound by "the same", or one need alone. */
export interface Group {
  readonly needs: readonly TimedNeed[];
  /** The cells all of them take, neighboring stretches joined. */
  readonly windows: readonly Window[];
  /** Who could, in the order of the pool. */
  readonly candidates: readonly Candidate[];
}

function overlap(a: TimedNeed, b: TimedNeed): boolean {
  return a.fromCell < b.fromCell + b.lengthCells && b.fromCell < a.fromCell + a.lengthCells;
}

/**
 * Whether a start is served as soon as each group is: nothing must differ, only pool members are bound to each other,
 * and no two needs at the same time could want the same resource. Otherwise a choice of seats decides.
 */
export function needsAreIndependent(needs: readonly TimedNeed[]): boolean {
  const byKey = new Map(needs.map((need) => [need.need.key, need]));
  return needs.every((need, i) => {
    if (need.need.differentFrom) return false;
    if (need.need.sameAs && (need.need.what !== 'pool' || byKey.get(need.need.sameAs)?.need.what !== 'pool'))
      return false;
    return needs.slice(i + 1).every((other) => !overlap(need, other) || !shareMember(need, other));
  });
}

function shareMember(a: TimedNeed, b: TimedNeed): boolean {
  const members = new Set(b.memberIds);
  return a.memberIds.some((id) => members.has(id));
}

/**
 * The needs as groups, each with the lanes of those who could serve all its needs.
 *
 * @param needs all of a frame's, or those of the provider, or those of everyone else: no group reaches over that line
 */
export function groupsOf(index: ClinicIndex, siteId: string, needs: readonly TimedNeed[]): Group[] {
  const rootOf = (need: TimedNeed): string => {
    let at = need;
    for (let steps = 0; at.need.sameAs && at.need.what === 'pool' && steps < needs.length; steps++) {
      const to = needs.find((other) => other.need.key === at.need.sameAs && other.need.what === 'pool');
      if (!to) break;
      at = to;
    }
    return at.need.what === 'provider' ? 'the provider' : `need ${at.need.key}`;
  };
  const groups = new Map<string, TimedNeed[]>();
  for (const need of needs) groups.set(rootOf(need), [...(groups.get(rootOf(need)) ?? []), need]);
  return [...groups.values()].map((group) => ({
    needs: group,
    windows: joined(group),
    candidates: membersOfAll(group)
      .map((id) => index.lane(id, siteId))
      .filter((lane) => lane.everThere)
      .map(newCandidate),
  }));
}

/** Members that all needs have, in the first one's order. */
function membersOfAll([first, ...others]: readonly TimedNeed[]): readonly string[] {
  const differing = others.filter((need) => need.memberIds !== first.memberIds);
  if (!differing.length) return first.memberIds;
  const sets = differing.map((need) => new Set(need.memberIds));
  return first.memberIds.filter((id) => sets.every((set) => set.has(id)));
}

function newCandidate(lane: Lane): Candidate {
  return { lane, judged: -1, accepted: EVERY_CELL };
}

/** The same group with one other candidate. */
export function servedBy(group: Group, lane: Lane): Group {
  return { ...group, candidates: [newCandidate(lane)] };
}

function joined(needs: readonly TimedNeed[]): Window[] {
  const windows: { fromCell: number; lengthCells: number }[] = [];
  for (const { fromCell, lengthCells } of [...needs].sort((a, b) => a.fromCell - b.fromCell)) {
    const last = windows.at(-1);
    if (last && fromCell <= last.fromCell + last.lengthCells)
      last.lengthCells = Math.max(last.lengthCells, fromCell + lengthCells - last.fromCell);
    else windows.push({ fromCell, lengthCells });
  }
  return windows;
}

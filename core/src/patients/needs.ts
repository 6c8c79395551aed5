import type { Access } from '../availability/index.ts';

/** What a patient needs with every visit; searches and moves honor it without being told. */
export interface VisitNeeds {
  /** What the rooms, or the site, must have. */
  readonly access: readonly Access[];
  /** Minutes that each of their visits takes longer, in steps of five. */
  readonly extraMin: number;
}

export const NO_NEEDS: VisitNeeds = { access: [], extraMin: 0 };

/** No visit is made longer by more than this. */
export const MAX_EXTRA_MIN = 120;

/** Both at once, for people who are served by the same search. */
export function needsTogether(all: readonly VisitNeeds[]): VisitNeeds {
  return {
    access: [...new Set(all.flatMap(({ access }) => access))],
    extraMin: Math.max(0, ...all.map(({ extraMin }) => extraMin)),
  };
}

import type { SearchCriteria } from '../openings/index.ts';
import {
  and,
  cellsOf,
  earlier,
  emptyMask,
  fullMask,
  hasCell,
  type Mask,
  orInto,
  touchedWithin,
} from '../time/index.ts';
import type { VisitType } from '../visits/index.ts';
import type { Day } from './times.ts';

/** One of a household with the starts they could have now. */
export interface Member {
  /** Their place among the members’ criteria. */
  readonly at: number;
  readonly criteria: SearchCriteria;
  readonly type: VisitType;
  readonly lengthCells: number;
  readonly days: readonly Day[];
  /** With whomever. */
  readonly any: Mask;
  /** Equal for members who ask for the same: in one order after the other they find the same. */
  readonly alike: string;
}

export interface Choice {
  readonly member: Member;
  readonly cell: number;
  /** At which all could have ended at the soonest, if nobody took anything from anybody. */
  readonly endCell: number;
}

const NEVER = Number.POSITIVE_INFINITY;

/**
 * In which orders and at which starts some members could come as long as nobody takes anything from anybody: the bound
 * of the household search. Sets of members are bits: bit `i` stands for `members[i]`.
 */
export class Order {
  private readonly all: number;
  /** By set: the cells from which on the whole set can still come, the first of it within the wait. */
  private readonly can: Mask[] = [];
  private readonly ends = new Map<number, number>();

  constructor(
    readonly members: readonly Member[],
    private readonly how: 'back-to-back' | 'side-by-side',
    private readonly waitCells: number,
  ) {
    this.all = (1 << members.length) - 1;
    if (how === 'back-to-back') this.work();
  }

  /** Cells at which the first of all could start. */
  firsts(): Mask {
    const starts = emptyMask();
    if (this.how === 'back-to-back') {
      for (let i = 0; i < this.members.length; i++) orInto(starts, this.startsIn(this.all, i));
      return starts;
    }
    for (const { any } of this.members) orInto(starts, any);
    return this.members.reduce((left, { any }) => and(left, touchedWithin(any, this.waitCells + 1)), starts);
  }

  /** Who could come next and when, the one first with whom all could have ended soonest. */
  choices(from: { readonly cell: number; readonly first: boolean }, firstCell: number): Choice[] {
    const choices = this.how === 'back-to-back' ? this.inTurn(from) : this.atOnce(from, firstCell);
    return choices.sort((a, b) => a.endCell - b.endCell || a.cell - b.cell || a.member.at - b.member.at);
  }

  private inTurn({ cell: from, first }: { readonly cell: number; readonly first: boolean }): Choice[] {
    const choices: Choice[] = [];
    for (const i of this.distinct()) {
      const member = this.members[i];
      const starts = this.startsIn(this.all, i);
      for (let cell = from; cell <= from + (first ? 0 : this.waitCells); cell++) {
        if (!hasCell(starts, cell)) continue;
        const endCell = this.soonestEnd(this.all & ~(1 << i), cell + member.lengthCells);
        if (endCell < NEVER) choices.push({ member, cell, endCell });
      }
    }
    return choices;
  }

  /**
   * All of them start within the wait of the first. Whoever is put down takes the first room or person that will do, so
   * each order can leave something else: all are tried, but for those who are alike.
   */
  private atOnce({ first }: { readonly first: boolean }, firstCell: number): Choice[] {
    const within = fullMask(firstCell + this.waitCells + 1);
    const starts = this.members.map(({ any }) => cellsOf(and(any, within)).filter((cell) => cell >= firstCell));
    const soonest = this.members.map(({ lengthCells }, i) => (starts[i][0] ?? NEVER) + lengthCells);
    const asked = this.distinct().filter((i) => first || starts[i].length > 0);
    return asked.flatMap((i) => {
      const others = Math.max(0, ...soonest.filter((_, j) => j !== i));
      const member = this.members[i];
      return starts[i]
        .filter((cell) => !first || cell === firstCell)
        .map((cell) => ({ member, cell, endCell: Math.max(others, cell + member.lengthCells) }));
    });
  }

  /** One of each who ask for the same and are free alike, by their place: with the others all would be found again. */
  private distinct(): number[] {
    const seen = new Set<string>();
    return this.members.flatMap((member, i) => {
      if (seen.has(member.alike)) return [];
      // Two who ask for the same but are not free alike are both tried.
      if (this.members.every((other) => other.alike !== member.alike || sameDays(other.days, member.days)))
        seen.add(member.alike);
      return [i];
    });
  }

  private work(): void {
    this.can[0] = fullMask(emptyMask().length * 32);
    for (let set = 1; set <= this.all; set++) {
      const can = emptyMask();
      for (let i = 0; i < this.members.length; i++)
        if (set & (1 << i)) orInto(can, touchedWithin(this.startsIn(set, i), this.waitCells + 1));
      this.can[set] = can;
    }
  }

  /** Starts of one member as the first of a set. */
  private startsIn(set: number, i: number): Mask {
    const { any, lengthCells } = this.members[i];
    const rest = set & ~(1 << i);
    return rest === 0 ? any : and(any, earlier(this.can[rest], lengthCells));
  }

  /** The cell at which a set could have ended at the soonest, if the one before it ended at `from`. */
  private soonestEnd(set: number, from: number): number {
    if (set === 0) return from;
    if (!hasCell(this.can[set], from)) return NEVER;
    const key = set * 1024 + from;
    const known = this.ends.get(key);
    if (known !== undefined) return known;
    let end = NEVER;
    for (let i = 0; i < this.members.length; i++) {
      if (!(set & (1 << i))) continue;
      const starts = this.startsIn(set, i);
      for (let cell = from; cell <= from + this.waitCells; cell++)
        if (hasCell(starts, cell))
          end = Math.min(end, this.soonestEnd(set & ~(1 << i), cell + this.members[i].lengthCells));
    }
    this.ends.set(key, end);
    return end;
  }
}

function sameDays(a: readonly Day[], b: readonly Day[]): boolean {
  return (
    a.length === b.length &&
    a.every(
      ({ providerId, starts }, i) =>
        providerId === b[i].providerId && starts.every((word, w) => word === b[i].starts[w]),
    )
  );
}

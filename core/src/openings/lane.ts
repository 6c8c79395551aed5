import type { ResourceDay } from '../availability/index.ts';
import { type Mask, WORDS } from '../time/index.ts';

/** Days are kept in blocks of 64, so that a search walks through memory in order. */
const BLOCK_BITS = 7;
const BLOCK_DAYS = 1 << BLOCK_BITS;
/** One number that says what is known of the day, then its free cells. */
const STRIDE = WORDS + 1;

/** What is known of a day: whether a place is ever free. */
export const UNKNOWN = 0;
export const NEVER_FREE = 1;
export const SOMETIMES_FREE = 2;
/** The knowledge takes the two low bits; above them stands which plan holds, counted from 1. */
const PLAN_SHIFT = 2;
const KNOWLEDGE = (1 << PLAN_SHIFT) - 1;

/** No date's block; a small integer, as the others are, so that the engine keeps it inside the object. */
const NO_BLOCK = -(2 ** 29);

/** One resource at one site over days, and what was worked out for it so far. Days are numbers from 1970-01-01. */
export class Lane {
  readonly resourceId: string;
  readonly siteId: string;
  /** False: neither hours nor single-date changes here, on any date. */
  readonly everThere: boolean;
  private readonly plans: ResourceDay[] = [];
  private readonly planByPattern = new Map<number, number>();
  private readonly blocks = new Map<number, Int32Array<ArrayBuffer>>();
  private lastId = NO_BLOCK;
  private lastBlock: Int32Array<ArrayBuffer> = new Int32Array(0);
  /** The memory of the day last looked at. */
  cells: Int32Array<ArrayBuffer> = this.lastBlock;
  at = 0;

  constructor(resourceId: string, siteId: string, everThere: boolean) {
    this.resourceId = resourceId;
    this.siteId = siteId;
    this.everThere = everThere;
  }

  /** What is planned on a day, if it was resolved before. */
  planOn(day: number): ResourceDay | undefined {
    const plan = this.block(day)[offset(day)] >>> PLAN_SHIFT;
    return plan === 0 ? undefined : this.plans[plan - 1];
  }

  /**
   * Keeps what is planned on a day. Days that resolve alike share one plan.
   *
   * @param pattern the key under which they do, `null` for a date of its own
   */
  setPlan(day: number, pattern: number | null, resolve: () => ResourceDay): ResourceDay {
    let number = pattern === null ? undefined : this.planByPattern.get(pattern);
    if (number === undefined) {
      number = this.plans.push(resolve());
      if (pattern !== null) this.planByPattern.set(pattern, number);
    }
    this.block(day)[offset(day)] = number << PLAN_SHIFT;
    return this.plans[number - 1];
  }

  /**
   * Turns to a day: what is known of it, and its free cells if there are any, stand in `cells` from `at` on.
   *
   * @returns the knowledge
   */
  look(day: number): number {
    this.cells = this.block(day);
    this.at = offset(day) + 1;
    return this.cells[this.at - 1] & KNOWLEDGE;
  }

  /** Number of the plan that holds on the day last looked at, to be compared and given to `planNumbered`. */
  get planNumber(): number {
    return this.cells[this.at - 1] >>> PLAN_SHIFT;
  }

  planNumbered(number: number): ResourceDay {
    return this.plans[number - 1];
  }

  /** Keeps the free cells of the day last looked at, whose plan must have been set. */
  know(free: Mask): number {
    this.cells.set(free, this.at);
    const known = free.some((word) => word !== 0) ? SOMETIMES_FREE : NEVER_FREE;
    this.cells[this.at - 1] |= known;
    return known;
  }

  /** Something was booked or freed on that day: the plan stays, the free cells are worked out again. */
  forgetFree(day: number): void {
    const block = this.blocks.get(day >> BLOCK_BITS);
    if (block) block[offset(day)] &= ~KNOWLEDGE;
  }

  private block(day: number): Int32Array<ArrayBuffer> {
    const id = day >> BLOCK_BITS;
    if (this.lastId === id) return this.lastBlock;
    let block = this.blocks.get(id);
    if (!block) {
      block = new Int32Array(BLOCK_DAYS * STRIDE);
      this.blocks.set(id, block);
    }
    this.lastId = id;
    this.lastBlock = block;
    return block;
  }
}

function offset(day: number): number {
  return (day & (BLOCK_DAYS - 1)) * STRIDE;
}

import { type EpochMinute, epochOfCell, type Mask, WORDS, type WordRange, type ZoneDay } from '../time/index.ts';

/** The starts of one day at one site with one provider: never none. */
export class OpenDay {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly day: ZoneDay;
  private readonly memory: Mask;
  private readonly at: number;

  constructor(siteId: string, providerId: string | null, day: ZoneDay, memory: Mask, at: number) {
    this.siteId = siteId;
    this.providerId = providerId;
    this.day = day;
    this.memory = memory;
    this.at = at;
  }

  /** The cells to start at, as a mask of one's own. */
  get starts(): Mask {
    return this.memory.slice(this.at, this.at + WORDS);
  }

  /** Calls with each start, in time order, and this day: one function serves all days of a search. */
  forEachStart(found: (start: EpochMinute, open: OpenDay) => void): void {
    for (let w = 0; w < WORDS; w++)
      for (let word = this.memory[this.at + w]; word !== 0; word &= word - 1)
        found(epochOfCell(this.day, (w << 5) + 31 - Math.clz32(word & -word)), this);
  }
}

/** The first piece holds few, for small searches; each next one twice as many, up to the most. */
const FEW = 16;
const MAX_KEPT = 512;

/**
 * Where a search keeps the masks it finds: many in one piece of memory. A mask of its own for each provider and day
 * would be ten thousand small objects in a large search, and most of its time.
 */
export class FoundMasks {
  private memory: Mask = new Int32Array(0);
  private next = 0;
  private masks = FEW;

  /** Keeps the words of `range`; the others are none. Returns the day that reads them. */
  keep(siteId: string, providerId: string | null, day: ZoneDay, starts: Mask, range: WordRange): OpenDay {
    if (this.next === this.memory.length) {
      this.memory = new Int32Array(this.masks * WORDS);
      this.next = 0;
      this.masks = Math.min(MAX_KEPT, 2 * this.masks);
    }
    const { memory, next } = this;
    for (let w = range.first; w <= range.last; w++) memory[next + w] = starts[w];
    this.next += WORDS;
    return new OpenDay(siteId, providerId, day, memory, next);
  }
}

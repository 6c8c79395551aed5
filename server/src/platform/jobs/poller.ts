/** Does something again and again, one time after the other. A look that is asked for while one waits is that one. */
export class Poller {
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<void> = Promise.resolve();
  private isWaiting = false;
  private stopped = false;

  /** @param look must not throw */
  constructor(
    private readonly everyMs: number,
    private readonly look: () => Promise<void>,
  ) {}

  get isStopped(): boolean {
    return this.stopped;
  }

  start(): void {
    this.timer = setInterval(() => this.kick(), this.everyMs);
  }

  /** Looks now, after any look that is under way. */
  kick(): void {
    if (this.isWaiting || this.stopped) return;
    this.isWaiting = true;
    this.running = this.running.then(() => {
      this.isWaiting = false;
      return this.look();
    });
  }

  /** Waits for the look that is under way. */
  async stop(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearInterval(this.timer);
    await this.running;
  }
}

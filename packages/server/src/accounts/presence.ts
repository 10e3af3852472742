/** How long somebody counts as working after the last sign of it, ms. */
const LASTS = 60_000;

/** Whether somebody is at work who wants a core to be left free for that. Known to this process alone. */
export class Presence {
  private until = -Infinity;

  /** @param now gives milliseconds. */
  constructor(private readonly now: () => number = () => performance.now()) {}

  /** Somebody moved, pressed or typed just now. */
  note(): void {
    this.until = this.now() + LASTS;
  }

  get working(): boolean {
    return this.now() < this.until;
  }
}

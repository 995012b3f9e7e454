/** A press that is let go before this is no holding, ms. */
const SHORT = 300;

/** A button that is held for as long as it is wanted, or pressed shortly to stay until it is pressed again. */
export class Latch {
  /** When it was taken hold of, ms; null where it is latched or away. */
  private since: number | null = null;
  private was = false;

  /** `now` says whether it is on, `set` turns it. */
  constructor(
    private readonly now: () => boolean,
    private readonly set: (on: boolean) => void,
  ) {}

  hold(event?: Event): void {
    event?.preventDefault();
    if (this.since !== null) return;
    this.was = this.now();
    this.since = performance.now();
    this.set(true);
  }

  letGo(event?: Event): void {
    event?.preventDefault();
    if (this.since === null) return;
    const short = performance.now() - this.since < SHORT;
    this.since = null;
    this.set(short && !this.was);
  }

  /** The pointer left, or (`latched`) it is to end however it was begun. */
  leave(latched = false): void {
    if (this.since === null && !latched) return;
    this.since = null;
    this.set(false);
  }
}

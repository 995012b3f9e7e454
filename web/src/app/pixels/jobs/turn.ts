/** A job that was called off. */
export class Stopped extends Error {}

/**
 * One job's turn at its worker. Long work passes it on every now and then: messages come in, what has to come first is
 * done first, and a job that was called off ends there.
 */
export interface Turn {
  /** To be awaited wherever the work can rest. Throws `Stopped`. */
  pass(): Promise<void>;
}

interface Job {
  readonly rank: number;
  since: number;
  stopped: boolean;
}

/** So long a job works before it lets others in, ms. */
const SLICE = 24;

/** The jobs of a worker, and which of them goes first: the lower its rank. */
export class Turns {
  private readonly jobs = new Map<number, Job>();
  private waiting: (() => void)[] = [];

  /** Whether no job is under way. */
  get idle(): boolean {
    return this.jobs.size === 0;
  }

  begin(id: number, rank: number): Turn {
    const job: Job = { rank, since: -Infinity, stopped: false };
    this.jobs.set(id, job);
    return { pass: () => this.pass(job) };
  }

  end(id: number): void {
    this.jobs.delete(id);
    this.wake();
  }

  stop(id: number): void {
    const job = this.jobs.get(id);
    if (job) job.stopped = true;
    this.wake();
  }

  private wake(): void {
    for (const go of this.waiting.splice(0)) go();
  }

  private waits({ rank }: Job): boolean {
    return [...this.jobs.values()].some((other) => other.rank < rank && !other.stopped);
  }

  private async pass(job: Job): Promise<void> {
    if (!job.stopped && performance.now() - job.since < SLICE) return;
    // A task of its own, so that messages are heard.
    await new Promise((go) => setTimeout(go));
    while (!job.stopped && this.waits(job)) await new Promise<void>((go) => this.waiting.push(go));
    if (job.stopped) throw new Stopped();
    job.since = performance.now();
  }
}

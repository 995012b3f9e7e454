import { Reply, answerTo, type AnswerOf, type Request, type Task } from './messages';
import { createPixelWorker } from './pixel-worker';

/** A job that was called off, by us: not for the person to see. */
export class JobStopped extends Error {}

interface Waiting {
  /** Takes what came for it; false where it is not what was asked for. */
  resolve: (value: unknown) => boolean;
  reject: (reason: Error) => void;
}

/** A worker behind promises: many jobs at once, each of which can be called off. */
export class PixelClient {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private last = 0;

  private idle: ReturnType<typeof setTimeout> | undefined;

  /** `create` starts a worker; one that has had nothing to do for `idleFor` ms is ended, and its memory with it. */
  constructor(
    private readonly create: () => Worker = createPixelWorker,
    private readonly idleFor = Infinity,
  ) {
    // A page that is left may be kept frozen for the way back, its workers with it, in the middle of what they hand
    // over. They go; the next task starts another.
    globalThis.addEventListener?.('pagehide', () => this.stop());
  }

  /** Whether there is a worker at all. */
  get started(): boolean {
    return this.worker !== undefined;
  }

  /** Whether something is being done. */
  get busy(): boolean {
    return this.waiting.size > 0;
  }

  private settled(): void {
    clearTimeout(this.idle);
    if (this.waiting.size || this.idleFor === Infinity) return;
    this.idle = setTimeout(() => {
      if (this.waiting.size) return;
      this.worker?.terminate();
      this.worker = undefined;
    }, this.idleFor);
  }

  /** Runs a task. When `signal` aborts, the worker is told and the promise rejects with `JobStopped`. */
  run<T extends Task>(task: T, signal?: AbortSignal, transfer: Transferable[] = []): Promise<AnswerOf<T>> {
    return this.ask(task, signal, transfer);
  }

  /**
   * The same for what is done with a file from elsewhere: one that is not read within `most` ms is given up, its
   * worker ended and the file called unreadable.
   */
  async within<T extends Task>(most: number, task: T, signal?: AbortSignal): Promise<AnswerOf<T>> {
    const late = setTimeout(
      () => this.end('That file takes too long to read, so it was given up. Save it anew and try again.'),
      most,
    );
    return this.ask(task, signal, []).finally(() => clearTimeout(late));
  }

  /** Ends the worker; its jobs are told why. */
  private end(why: string): void {
    this.stop(new Error(why));
  }

  /** Ends the worker, and its jobs with it. */
  private stop(why: Error = new JobStopped()): void {
    this.worker?.terminate();
    this.worker = undefined;
    for (const { reject } of this.waiting.values()) reject(why);
    this.waiting.clear();
  }

  private ask<T extends Task>(
    task: T,
    signal: AbortSignal | undefined,
    transfer: Transferable[],
  ): Promise<AnswerOf<T>> {
    const worker = (this.worker ??= this.start());
    const id = ++this.last;
    return new Promise<AnswerOf<T>>((resolve, reject) => {
      if (signal?.aborted) {
        reject(new JobStopped());
        return;
      }
      const schema = answerTo(task);
      const take = (value: unknown) => {
        const read = schema.safeParse(value);
        if (read.success) resolve(read.data);
        return read.success;
      };
      this.waiting.set(id, { resolve: take, reject });
      clearTimeout(this.idle);
      signal?.addEventListener('abort', () => {
        if (!this.waiting.delete(id)) return;
        worker.postMessage({ cancel: id } satisfies Request);
        reject(new JobStopped());
        this.settled();
      });
      worker.postMessage({ id, task } satisfies Request, transfer);
    });
  }

  /** An answer that cannot be read is one all the same: whoever waits for it is told. */
  private unreadable(data: unknown): void {
    const id: unknown = (data as { id?: unknown } | null)?.id;
    if (typeof id !== 'number') return;
    this.waiting.get(id)?.reject(new Error('Preparing the picture failed. Try again.'));
    this.waiting.delete(id);
    this.settled();
  }

  private start(): Worker {
    const worker = this.create();
    worker.addEventListener('message', (event: MessageEvent<unknown>) => {
      const reply = Reply.safeParse(event.data);
      if (!reply.success) return this.unreadable(event.data);
      const waiting = this.waiting.get(reply.data.id);
      if (!waiting) return;
      if ('answer' in reply.data && waiting.resolve(reply.data.answer)) {
        this.waiting.delete(reply.data.id);
        this.settled();
        return;
      }
      if (!('problem' in reply.data)) return this.unreadable(event.data);
      this.waiting.delete(reply.data.id);
      this.settled();
      const { code, message } = reply.data.problem;
      waiting.reject(code === 'stopped' ? new JobStopped() : new Error(message));
    });
    worker.addEventListener('error', (event) => {
      // Told to whoever asked; it is no fault that nobody thought of.
      event.preventDefault();
      if (this.worker !== worker) return;
      // A worker that died takes its jobs along; the next task starts another.
      this.end('Preparing the picture failed. Try again.');
    });
    return worker;
  }
}

import { Reply, type AnswerOf, type Request, type Task } from './messages';
import { createPixelWorker } from './worker-factory';

/** A job that was called off, by us: not for the person to see. */
export class JobStopped extends Error {}

interface Waiting {
  resolve: (value: never) => void;
  reject: (reason: Error) => void;
}

/** A worker behind promises: many jobs at once, each of which can be called off. */
export class PixelClient {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private last = 0;

  /** `create` starts a worker. */
  constructor(private readonly create: () => Worker = createPixelWorker) {}

  /** Runs a task. When `signal` aborts, the worker is told and the promise rejects with `JobStopped`. */
  run<T extends Task>(task: T, signal?: AbortSignal, transfer: Transferable[] = []): Promise<AnswerOf<T>> {
    const worker = (this.worker ??= this.start());
    const id = ++this.last;
    return new Promise<AnswerOf<T>>((resolve, reject) => {
      if (signal?.aborted) {
        reject(new JobStopped());
        return;
      }
      this.waiting.set(id, { resolve, reject });
      signal?.addEventListener('abort', () => {
        if (!this.waiting.delete(id)) return;
        worker.postMessage({ cancel: id } satisfies Request);
        reject(new JobStopped());
      });
      worker.postMessage({ id, task } satisfies Request, transfer);
    });
  }

  private start(): Worker {
    const worker = this.create();
    worker.addEventListener('message', (event: MessageEvent<unknown>) => {
      const reply = Reply.safeParse(event.data);
      if (!reply.success) return;
      const waiting = this.waiting.get(reply.data.id);
      this.waiting.delete(reply.data.id);
      if (!waiting) return;
      if ('problem' in reply.data)
        waiting.reject(
          reply.data.problem.code === 'stopped' ? new JobStopped() : new Error(reply.data.problem.message),
        );
      else waiting.resolve(reply.data.answer as never);
    });
    worker.addEventListener('error', () => {
      // A worker that died takes its jobs along; the next task starts another.
      this.worker = undefined;
      for (const { reject } of this.waiting.values()) reject(new Error('Preparing the picture failed. Try again.'));
      this.waiting.clear();
    });
    return worker;
  }
}

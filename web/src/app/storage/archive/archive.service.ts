import { Injectable, signal } from '@angular/core';
import { bad, good, type Result } from '@bright-slot/core';
import { ArchiveReply, type ArchiveTask, type BroughtBack } from './messages';
import { BRINGING, undoBringing } from './bringing';
import { database } from '../database';
import { createArchiveWorker } from './archive-worker';

const stopped = bad('stopped', '');

/** “Save everything” and “Bring back”: in a worker, with progress, and stopped at a word. */
@Injectable({ providedIn: 'root' })
export class ArchiveService {
  /** What is under way: 0…1; null when nothing is. */
  readonly progress = signal<number | null>(null);
  private stop: (() => void) | undefined;

  async pack(): Promise<Result<{ blob: Blob; left: readonly string[] }>> {
    const reply = await this.run({ kind: 'pack' });
    if (!reply) return stopped;
    return reply.kind === 'packed' ? good(reply) : bad('pack', messageOf(reply));
  }

  /** Some graphics, as they are now, as one zip that “Bring back” takes, here or in another browser. */
  async bundle(graphics: readonly string[]): Promise<Result<{ blob: Blob; left: readonly string[] }>> {
    const reply = await this.run({ kind: 'bundle', graphics: [...graphics] });
    if (!reply) return stopped;
    return reply.kind === 'packed' ? good(reply) : bad('bundle', messageOf(reply));
  }

  async bringBack(file: Blob): Promise<Result<BroughtBack>> {
    const done = await navigator.locks.request(BRINGING, { ifAvailable: true }, async (lock) => {
      if (!lock) return bad('busy', 'Another tab is bringing something back. Wait until it is done.');
      const reply = await this.run({ kind: 'bring-back', file });
      if (reply?.kind === 'brought') return good(reply.summary);
      // The worker may have been ended in the middle of it.
      await undoBringing(database()).catch(() => undefined);
      return reply ? bad('bring-back', messageOf(reply)) : stopped;
    });
    return done;
  }

  /** Takes back what a bringing back had written when its page went, unless another tab is at one. */
  async tidy(): Promise<void> {
    await navigator.locks.request(BRINGING, { ifAvailable: true }, async (lock) => {
      if (lock) await undoBringing(database());
    });
  }

  /** Calls off what is under way: a bringing back leaves nothing behind. */
  cancel(): void {
    this.stop?.();
  }

  private run(task: ArchiveTask): Promise<ArchiveReply | null> {
    const worker = createArchiveWorker();
    this.progress.set(0);
    return new Promise<ArchiveReply | null>((resolve) => {
      this.stop = () => resolve(null);
      worker.addEventListener('error', () =>
        resolve({ kind: 'problem', message: 'The work broke off. Try again; nothing here was changed.' }),
      );
      worker.addEventListener('message', (event: MessageEvent<unknown>) => {
        const reply = ArchiveReply.safeParse(event.data);
        if (!reply.success) return;
        if (reply.data.kind === 'progress') this.progress.set(reply.data.done / Math.max(1, reply.data.of));
        else resolve(reply.data);
      });
      worker.postMessage(task);
    }).finally(() => {
      worker.terminate();
      this.stop = undefined;
      this.progress.set(null);
    });
  }
}

const messageOf = (reply: ArchiveReply) =>
  reply.kind === 'problem' ? reply.message : 'The work broke off. Try again.';

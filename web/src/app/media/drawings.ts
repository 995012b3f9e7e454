import { bad, good, type Result, type ShapeForm } from '@bright-slot/core';
import { DrawingReply, type DrawingTask } from './drawing-messages';
import { createDrawingWorker } from './drawing-worker';

/** A drawing that is not read after so long is given up, ms: within its limits it takes a second or two. */
const LONGEST = 20_000;

/** Asks a worker that is there for this one drawing, and gone afterwards, whatever it was given. */
function ask(task: DrawingTask, signal?: AbortSignal): Promise<DrawingReply> {
  return new Promise<DrawingReply>((resolve) => {
    const worker = createDrawingWorker();
    const end = (reply: DrawingReply) => {
      clearTimeout(late);
      worker.terminate();
      resolve(reply);
    };
    const failed = (code: string, message: string) => end({ kind: 'problem', problem: { code, message } });
    const late = setTimeout(
      () =>
        failed(
          'too-large',
          `${task.called} takes too long to read. Simplify it where it was drawn, or save it as a PNG. Nothing was changed.`,
        ),
      LONGEST,
    );
    signal?.addEventListener('abort', () => failed('stopped', 'Stopped.'));
    if (signal?.aborted) return failed('stopped', 'Stopped.');
    worker.addEventListener('message', (event: MessageEvent<unknown>) => {
      const reply = DrawingReply.safeParse(event.data);
      if (reply.success) end(reply.data);
      else failed('unreadable', `${task.called} could not be read. Nothing was changed.`);
    });
    worker.addEventListener('error', (event) => {
      event.preventDefault();
      failed(
        'unreachable',
        'The part of Bright Slot that reads drawings could not be fetched, or broke off. Check that Bright Slot is running, then try again.',
      );
    });
    worker.postMessage(task);
  });
}

/** A drawing as it may be kept, its size in CSS px; it can be called off. */
export async function readDrawing(
  file: Blob,
  called: string,
  signal?: AbortSignal,
): Promise<Result<{ svg: Blob; width: number; height: number }>> {
  const reply = await ask({ kind: 'clean', file, called }, signal);
  if (reply.kind === 'problem') return { ok: false, problem: reply.problem };
  if (reply.kind !== 'clean') return bad('unreadable', `${called} could not be read. Nothing was changed.`);
  const { svg, width, height } = reply;
  return good({ svg: new Blob([svg], { type: 'image/svg+xml' }), width, height });
}

/** A drawing's outline as the form of a shape. */
export async function readOutline(
  file: Blob,
  called: string,
  signal?: AbortSignal,
): Promise<Result<ShapeForm & { kind: 'path' }>> {
  const reply = await ask({ kind: 'outline', file, called }, signal);
  if (reply.kind === 'problem') return { ok: false, problem: reply.problem };
  return reply.kind === 'outline'
    ? good(reply.form)
    : bad('unreadable', `${called} could not be read. Nothing was changed.`);
}

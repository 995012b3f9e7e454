/// <reference lib="webworker" />
import { cleanDrawing } from '@bright-slot/core/formats/drawing';
import { pathOfDrawing } from '@bright-slot/core/formats/shape-path';
import { DrawingTask, type DrawingReply } from './drawing-messages';

const reply = (r: DrawingReply) => postMessage(r);
const broken = {
  kind: 'problem',
  problem: { code: 'unreadable', message: 'The drawing could not be read. Nothing was changed.' },
} as const;

async function work(task: DrawingTask): Promise<DrawingReply> {
  const bytes = new Uint8Array(await task.file.arrayBuffer());
  if (task.kind === 'clean') {
    const done = cleanDrawing(bytes, task.called);
    if (!done.ok) return { kind: 'problem', problem: done.problem };
    const { svg, width, height } = done.value;
    return { kind: 'clean', svg, width, height };
  }
  const done = pathOfDrawing(bytes, task.called);
  return done.ok ? { kind: 'outline', form: done.value } : { kind: 'problem', problem: done.problem };
}

addEventListener('message', (event: MessageEvent<unknown>) => {
  const task = DrawingTask.safeParse(event.data);
  if (!task.success) return reply(broken);
  work(task.data).then(reply, () => reply(broken));
});

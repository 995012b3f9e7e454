/// <reference lib="webworker" />
import { bringBack } from './job/bring-back';
import { pack } from './job/pack';
import { ArchiveTask, type ArchiveReply } from './archive-messages';

const reply = (r: ArchiveReply) => postMessage(r);

addEventListener('message', (event: MessageEvent<unknown>) => {
  const task = ArchiveTask.safeParse(event.data);
  if (!task.success) return;
  const progress = (done: number, of: number) => reply({ kind: 'progress', done, of });
  const work =
    task.data.kind === 'pack'
      ? pack(progress).then((blob) => reply({ kind: 'packed', blob }))
      : bringBack(task.data.file, progress).then((r) =>
          reply(r.ok ? { kind: 'brought', summary: r.value } : { kind: 'problem', message: r.problem.message }),
        );
  work.catch((error: unknown) =>
    reply({ kind: 'problem', message: error instanceof Error ? error.message : String(error) }),
  );
});

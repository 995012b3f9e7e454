/// <reference lib="webworker" />
import { bringBack } from './bring-back';
import { storageProblem } from '../storage-problem';
import { pack } from './pack';
import { ArchiveTask, type ArchiveReply } from './messages';

const reply = (r: ArchiveReply) => postMessage(r);

addEventListener('message', (event: MessageEvent<unknown>) => {
  const task = ArchiveTask.safeParse(event.data);
  if (!task.success)
    return reply({ kind: 'problem', message: 'What was asked could not be read. Reload the page and try again.' });
  const progress = (done: number, of: number) => reply({ kind: 'progress', done, of });
  const work =
    task.data.kind === 'pack'
      ? pack(progress).then(({ blob, left }) => reply({ kind: 'packed', blob, left: [...left] }))
      : bringBack(task.data.file, progress).then((r) =>
          reply(r.ok ? { kind: 'brought', summary: r.value } : { kind: 'problem', message: r.problem.message }),
        );
  work.catch((error: unknown) => reply({ kind: 'problem', message: storageProblem(error, 'pack').message }));
});

/// <reference lib="webworker" />
import { bringBack } from './bring-back';
import { storageProblem } from '../storage-problem';
import { pack, packBundle, type Packed } from './pack';
import { ArchiveTask, type ArchiveReply } from './messages';

const reply = (r: ArchiveReply) => postMessage(r);

addEventListener('message', (event: MessageEvent<unknown>) => {
  const task = ArchiveTask.safeParse(event.data);
  if (!task.success)
    return reply({ kind: 'problem', message: 'What was asked could not be read. Reload the page and try again.' });
  const progress = (done: number, of: number) => reply({ kind: 'progress', done, of });
  const packed = ({ blob, left }: Packed) => reply({ kind: 'packed', blob, left: [...left] });
  const { data } = task;
  const work =
    data.kind === 'pack'
      ? pack(progress).then(packed)
      : data.kind === 'bundle'
        ? packBundle(data.graphics, progress).then(packed)
        : bringBack(data.file, progress).then((r) =>
            reply(r.ok ? { kind: 'brought', summary: r.value } : { kind: 'problem', message: r.problem.message }),
          );
  work.catch((error: unknown) => reply({ kind: 'problem', message: storageProblem(error, 'pack').message }));
});

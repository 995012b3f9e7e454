import { JobStopped, PixelClient } from './pixel-client';

/** A worker that does nothing of itself: tests answer for it. */
class StillWorker extends EventTarget {
  ended = false;
  terminate(): void {
    this.ended = true;
  }
  readonly sent: unknown[] = [];
  postMessage(message: unknown): void {
    this.sent.push(message);
  }
  says(data: unknown): void {
    this.dispatchEvent(new MessageEvent('message', { data }));
  }
}

const started: StillWorker[] = [];
const client = () => {
  started.length = 0;
  return new PixelClient(() => {
    const worker = new StillWorker();
    started.push(worker);
    return worker as unknown as Worker;
  });
};
const task = (key: string) => ({ kind: 'palette' as const, pictures: [new Blob([key])] });

it('starts one worker when first asked, and gives each job its own answer, in whatever order they come', async () => {
  const pixels = client();
  expect(started).toHaveLength(0);
  const jobs = [pixels.run(task('a')), pixels.run(task('b'))];
  expect(started).toHaveLength(1);
  expect(started[0]!.sent).toEqual([
    { id: 1, task: task('a') },
    { id: 2, task: task('b') },
  ]);
  started[0]!.says({ id: 2, answer: ['second'] });
  started[0]!.says({ id: 1, answer: ['first'] });
  expect(await Promise.all(jobs)).toEqual([['first'], ['second']]);
});

it('a job called off is told to the worker, and rejects as ours; its late answer goes nowhere', async () => {
  const pixels = client();
  const off = new AbortController();
  const [called, other] = [pixels.run(task('a'), off.signal), pixels.run(task('b'))];
  off.abort();
  await expect(called).rejects.toBeInstanceOf(JobStopped);
  expect(started[0]!.sent.at(-1)).toEqual({ cancel: 1 });
  started[0]!.says({ id: 1, answer: ['late'] });
  started[0]!.says({ id: 2, answer: ['there'] });
  expect(await other).toEqual(['there']);
});

it('a job that is called off before it began is not sent; one that is done is not called off', async () => {
  const pixels = client();
  await expect(pixels.run(task('a'), AbortSignal.abort())).rejects.toBeInstanceOf(JobStopped);
  expect(started[0]!.sent).toEqual([]);
  const off = new AbortController();
  const done = pixels.run(task('b'), off.signal);
  started[0]!.says({ id: 2, answer: ['done'] });
  expect(await done).toEqual(['done']);
  off.abort();
  expect(started[0]!.sent).toHaveLength(1);
});

it('problems come as sentences, being stopped as such', async () => {
  const pixels = client();
  const [bad, stopped] = [pixels.run(task('a')), pixels.run(task('b'))];
  started[0]!.says({ id: 1, problem: { code: 'pixels', message: 'The picture is no longer stored.' } });
  started[0]!.says({ id: 2, problem: { code: 'stopped', message: 'Stopped.' } });
  await expect(bad).rejects.toThrow('The picture is no longer stored.');
  await expect(stopped).rejects.toBeInstanceOf(JobStopped);
});

it('a file that is not read in time is given up with a word, and its worker ended; the next has another', async () => {
  jest.useFakeTimers();
  const pixels = client();
  const job = pixels.within(1000, task('a'));
  const told = expect(job).rejects.toThrow('takes too long to read');
  jest.advanceTimersByTime(1001);
  await told;
  expect([started[0]!.ended, pixels.started]).toEqual([true, false]);
  const sound = pixels.within(1000, task('b'));
  started[1]!.says({ id: 2, answer: ['read'] });
  expect(await sound).toEqual(['read']);
  jest.advanceTimersByTime(5000);
  expect(started[1]!.ended).toBe(false);
  jest.useRealTimers();
});

it('what is no reply is passed over', async () => {
  const pixels = client();
  const job = pixels.run(task('a'));
  for (const junk of [null, 'answer', { answer: 1 }, { id: '1', answer: 1 }, { id: 7, answer: 1 }, { id: 9 }])
    started[0]!.says(junk);
  started[0]!.says({ id: 1, answer: ['it'] });
  expect(await job).toEqual(['it']);
});

it('an answer that is not what was asked for is told to whoever asked, as one that cannot be read', async () => {
  const pixels = client();
  const [colours, box] = [
    pixels.run(task('a')),
    pixels.run({ kind: 'trim', asset: 'a'.repeat(64), cutout: null, tolerance: 1, breathing: 0 }),
  ];
  started[0]!.says({ id: 1, answer: 'red' });
  started[0]!.says({ id: 2, answer: { x: 0, y: 0, width: 1 } });
  await expect(colours).rejects.toThrow('Preparing the picture failed');
  await expect(box).rejects.toThrow('Preparing the picture failed');
});

it('a worker that dies takes its jobs along, with a sentence; the next job starts another', async () => {
  const pixels = client();
  const lost = [pixels.run(task('a')), pixels.run(task('b'))];
  started[0]!.dispatchEvent(new Event('error'));
  for (const job of lost) await expect(job).rejects.toThrow('Preparing the picture failed. Try again.');
  const again = pixels.run(task('c'));
  expect(started).toHaveLength(2);
  started[1]!.says({ id: 3, answer: ['well'] });
  expect(await again).toEqual(['well']);
});

it('an answer that cannot be read is told to whoever waits for it', async () => {
  const pixels = client();
  const job = pixels.run(task('a'));
  started[0]!.says({ id: 1, problem: 'of another shape' });
  await expect(job).rejects.toThrow('failed. Try again.');
});

it('a worker without work is ended after a while, and its memory with it; not one that is busy', async () => {
  jest.useFakeTimers();
  started.length = 0;
  const pixels = new PixelClient(() => {
    const worker = new StillWorker();
    started.push(worker);
    return worker as unknown as Worker;
  }, 1000);
  const [a, b] = [pixels.run(task('a')), pixels.run(task('b'))];
  started[0]!.says({ id: 1, answer: [] });
  await a;
  jest.advanceTimersByTime(5000);
  expect(started[0]!.ended).toBe(false);
  started[0]!.says({ id: 2, answer: [] });
  await b;
  jest.advanceTimersByTime(999);
  expect([started[0]!.ended, pixels.started]).toEqual([false, true]);
  jest.advanceTimersByTime(2);
  expect([started[0]!.ended, pixels.started]).toEqual([true, false]);
  void pixels.run(task('c'));
  expect(started).toHaveLength(2);
  jest.useRealTimers();
});

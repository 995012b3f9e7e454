import { Stopped, Turns } from './turn';

const rest = (ms = 30) => new Promise((go) => setTimeout(go, ms));
/** Work that has to be done for longer than a job may go on without letting others in. */
const work = () => {
  for (const from = performance.now(); performance.now() - from < 26;);
};

it('what has to come first is done first, also where another has begun; in one rank they take turns', async () => {
  const turns = new Turns();
  const done: string[] = [];
  const job = async (id: number, rank: number, name: string, parts: number) => {
    const turn = turns.begin(id, rank);
    for (let i = 1; i <= parts; i++) {
      await turn.pass();
      work();
      done.push(`${name}${i}`);
    }
    turns.end(id);
  };
  const slow = job(1, 3, 'list', 4);
  await rest(30);
  const others = [job(2, 0, 'screen', 2), job(3, 0, 'other', 2), job(4, 1, 'asked', 1)];
  await Promise.all([slow, ...others]);
  expect(done[0]).toBe('list1');
  const rest4 = done.filter((d) => d.startsWith('list')).at(-1);
  expect(done.at(-1)).toBe(rest4);
  expect(done.indexOf('asked1')).toBeGreaterThan(done.indexOf('screen2'));
  expect(done.indexOf('asked1')).toBeLessThan(done.indexOf('list4'));
  expect(turns.idle).toBe(true);
});

it('a job that is called off ends where it next could rest, also while it waits for another', async () => {
  const turns = new Turns();
  const screen = turns.begin(1, 0);
  await screen.pass();
  const waits = turns.begin(2, 2).pass();
  turns.stop(2);
  await expect(waits).rejects.toBeInstanceOf(Stopped);
  const long = (async () => {
    let parts = 0;
    try {
      for (; parts < 1000; parts++) {
        await screen.pass();
        work();
      }
    } catch {
      return parts;
    }
    return parts;
  })();
  setTimeout(() => turns.stop(1), 40);
  expect(await long).toBeLessThan(10);
  // Nobody is kept waiting by a job that was called off.
  const next = turns.begin(3, 2);
  await next.pass();
  turns.stop(9);
});

it('short work is not kept up by letting others in', async () => {
  let now = 1000;
  const clock = jest.spyOn(performance, 'now').mockImplementation(() => now);
  const tasks = jest.spyOn(globalThis, 'setTimeout');
  try {
    const turn = new Turns().begin(1, 0);
    await turn.pass();
    // Twenty passes a millisecond: 100 ms of work lets others in four times, not 2000.
    for (let i = 0; i < 2000; i++) {
      now += 1 / 20;
      await turn.pass();
    }
    expect(tasks.mock.calls.length).toBe(1 + 4);
  } finally {
    clock.mockRestore();
    tasks.mockRestore();
  }
});

import { giveGlobalsBack, putGlobals } from '../testing/globals';
import { FetchAhead } from './fetch-ahead';

/** A page that answers to every path, and what was asked of it. */
function page() {
  const asked: string[] = [];
  const answers: Record<string, unknown> = { '/ahead.json': { build: 'b', code: ['/a.js', '/b.js'], files: [] } };
  putGlobals({
    window: {},
    navigator: {},
    fetch: (path: string) => {
      asked.push(path);
      return Promise.resolve({
        json: () => Promise.resolve(answers[path]),
        arrayBuffer: () => Promise.resolve(new ArrayBuffer(0)),
      });
    },
  });
  return asked;
}

/** Lets time pass, and what is answered meanwhile be read. */
async function pass(ms: number): Promise<void> {
  for (let at = 0; at < ms; at += 100) {
    jest.advanceTimersByTime(Math.min(100, ms - at));
    for (let turns = 0; turns < 20; turns++) await Promise.resolve();
  }
}
beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  jest.useRealTimers();
  giveGlobalsBack();
});

it('fetches what is needed later some time after the start, one after the other', async () => {
  const asked = page();
  new FetchAhead().begin(() => false);
  await pass(2900);
  expect(asked).toEqual([]);
  await pass(3000);
  expect(asked).toEqual(['/ahead.json', '/a.js', '/b.js']);
});

it('keeps still while something is being prepared, and goes on afterwards', async () => {
  const asked = page();
  let busy = false;
  new FetchAhead().begin(() => busy);
  for (let at = 0; at < 5000 && !asked.includes('/a.js'); at += 10) await pass(10);
  busy = true;
  await pass(60_000);
  expect(asked).toEqual(['/ahead.json', '/a.js']);
  busy = false;
  await pass(3000);
  expect(asked).toEqual(['/ahead.json', '/a.js', '/b.js']);
});

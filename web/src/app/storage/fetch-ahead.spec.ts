import { jest } from '@jest/globals';
import { FetchAhead } from './fetch-ahead';

/** A page that answers to every path, and what was asked of it. */
function page() {
  const asked: string[] = [];
  const answers: Record<string, unknown> = { '/ahead.json': { build: 'b', code: ['/a.js', '/b.js'], files: [] } };
  Object.assign(globalThis, {
    window: {},
    navigator: {},
    fetch: (path: string) => {
      asked.push(path);
      return Promise.resolve(new Response(JSON.stringify(answers[path] ?? '')));
    },
  });
  return asked;
}

const before = globalThis.fetch;
beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  jest.useRealTimers();
  Object.assign(globalThis, { window: undefined, navigator: undefined, fetch: before });
});

it('fetches what is needed later some time after the start, one after the other', async () => {
  const asked = page();
  new FetchAhead().begin(() => false);
  await jest.advanceTimersByTimeAsync(2900);
  expect(asked).toEqual([]);
  await jest.advanceTimersByTimeAsync(3000);
  expect(asked).toEqual(['/ahead.json', '/a.js', '/b.js']);
});

it('keeps still while something is being prepared, and goes on afterwards', async () => {
  const asked = page();
  let busy = false;
  new FetchAhead().begin(() => busy);
  while (!asked.includes('/a.js')) await jest.advanceTimersByTimeAsync(10);
  busy = true;
  await jest.advanceTimersByTimeAsync(60_000);
  expect(asked).toEqual(['/ahead.json', '/a.js']);
  busy = false;
  await jest.advanceTimersByTimeAsync(3000);
  expect(asked).toEqual(['/ahead.json', '/a.js', '/b.js']);
});

import { breather, framesFirst, yieldTurn } from './breather';

const page = globalThis as { document?: { hidden: boolean }; scheduler?: { yield: () => Promise<void> } };
afterEach(() => {
  delete page.document;
  delete page.scheduler;
  jest.restoreAllMocks();
});

it('pauses once a slice is done, and not again before another is', async () => {
  let now = 0;
  jest.spyOn(performance, 'now').mockImplementation(() => now);
  let pauses = 0;
  const breathe = breather(() => Promise.resolve(void pauses++));
  now = 7;
  expect(breathe()).toBeUndefined();
  now = 9;
  const pause = breathe();
  expect(pause).toBeInstanceOf(Promise);
  // A slice begins when the pause is over.
  now = 50;
  await pause;
  now = 57;
  expect(breathe()).toBeUndefined();
  now = 58;
  expect(breathe()).toBeDefined();
  expect(pauses).toBe(2);
});

it.each([
  ['goes by a timer while the page is seen', false, 0],
  ['does not while it is hidden: timers are held back there', true, 1],
])('what lets frames come first %s', async (_, hidden, yielded) => {
  page.document = { hidden };
  let asked = 0;
  page.scheduler = { yield: () => Promise.resolve(void asked++) };
  await framesFirst();
  expect(asked).toBe(yielded);
  await yieldTurn();
  expect(asked).toBe(yielded + 1);
});

it('a browser that cannot yield pauses by a timer', async () => {
  page.document = { hidden: true };
  let gone = false;
  setTimeout(() => (gone = true));
  await yieldTurn();
  await framesFirst();
  expect(gone).toBe(true);
});

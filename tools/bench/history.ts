/** Long histories and long lists: written as the app writes them, opened by its own list. */
import { packStep, startHistory, type Graphic, type Step, type Stored } from '../../core/src/index';
import { blank, random, withLayers, words } from '../../core/src/testing/samples';
import type { RunningApp } from '../../e2e/src/harness/app';
import { Browser } from '../../e2e/src/harness/browser';
import { settleDemo } from '../../e2e/src/harness/workbench';

export type Row = (what: string, figure: number, goal: string, unit?: string) => void;

const put = (browser: Browser, store: string, values: readonly unknown[]) =>
  browser.driver.executeAsyncScript(
    `const [store, values, done] = arguments;
     indexedDB.open('bright-slot').onsuccess = (e) => {
       const t = e.target.result.transaction(store, 'readwrite');
       for (const v of values) t.objectStore(store).put(v);
       t.oncomplete = () => { e.target.result.close(); done(); };
     };`,
    store,
    values,
  );

const named = (id: string, name: string): Graphic => {
  const layers = Array.from({ length: 20 }, (_, i) => words(`w${i}`, { name: `Line ${i}` }));
  return { ...withLayers(blank(), ...layers), id, name };
};

/** Steps of moving one or another of 20 layers. */
function* walk(count: number): Generator<Step> {
  const r = random(6);
  let last = startHistory(named('long', 'Long'), 'long-0', 0).steps.get('long-0')!;
  yield last;
  for (let i = 1; i < count; i++) {
    const at = Math.floor(r() * 20);
    const layers = last.graphic.layers.map((l, k) => (k === at && 'x' in l ? { ...l, x: 900 * r(), y: 190 * r() } : l));
    last = {
      ...last,
      id: `long-${i}`,
      parent: last.id,
      name: 'Words moved',
      at: i,
      graphic: { ...last.graphic, layers },
    };
    yield last;
  }
}

/** How long it takes from a press to a picture of what it led to, ms, in the page's own clock. */
const until = (browser: Browser, press: string, there: string) =>
  browser.driver.executeAsyncScript<number>(
    `const [press, there, done] = arguments;
     const start = performance.now();
     document.querySelector(press).click();
     const look = () => (document.querySelector(there) ? done(performance.now() - start) : requestAnimationFrame(look));
     requestAnimationFrame(look);`,
    press,
    there,
  );

export async function history(app: RunningApp, row: Row, steps = 5000, graphics = 1000): Promise<void> {
  const browser = await Browser.open();
  try {
    await settleDemo(browser, app);
    await browser.driver.manage().setTimeouts({ script: 120_000 });
    const used = () =>
      browser.driver.executeAsyncScript<number>(
        `navigator.storage.estimate().then((e) => arguments[0](e.usageDetails?.indexedDB ?? e.usage))`,
      );
    const before = await used();
    let stored: Stored | undefined;
    let head: Step | undefined;
    let batch: unknown[] = [];
    let letters = 0;
    for (const step of walk(steps)) {
      const packed = packStep(step, stored);
      ({ stored } = packed);
      head = step;
      batch.push(packed.record);
      letters += JSON.stringify(packed.record).length;
      if (batch.length === 250) await put(browser, 'steps', batch.splice(0));
    }
    await put(browser, 'steps', batch);
    await put(browser, 'heads', [{ id: 'long', step: head, depth: stored!.depth, weight: stored!.weight }]);
    await put(browser, 'graphics', [{ id: 'long', head: head!.id, created: '', changed: 9e12 }]);
    row(`${steps} steps of 20 layers, as JSON`, letters / 1e6, '≤ 3', 'MB');
    row('… as the browser counts them', ((await used()) - before) / 1e6, '≤ 3', 'MB');
    await browser.go(`${app.app}/graphics`);
    const rested = async () => {
      await browser.find('bs-graphic-card');
      await browser.driver.wait(
        async () =>
          browser.run<boolean>(
            `return ![...document.querySelectorAll('.wait')].some((w) => w.getBoundingClientRect().top < innerHeight)`,
          ),
        60_000,
      );
      await browser.driver.sleep(500);
    };
    await rested();
    const first = await until(browser, 'a[href$="/graphics/long"]', '.thing');
    await browser.find('.lit canvas');
    const times: Record<'long' | 'demo-wren', number[]> = { long: [], 'demo-wren': [] };
    for (let i = 0; i < 3; i++)
      for (const id of ['demo-wren', 'long'] as const) {
        await browser.press('Graphics', 'a');
        await rested();
        times[id].push(await until(browser, `a[href$="/graphics/${id}"]`, '.thing'));
        await browser.find('.lit canvas');
      }
    const middle = (of: number[]) => of.sort((x, y) => x - y)[1]!;
    const open = middle(times.long);
    const short = middle(times['demo-wren']);
    row('… with the workbench’s own code fetched first', first, '', 'ms');
    row('that graphic opened, from the press to its layers on the stage', open, '≤ 200', 'ms');
    row('… against one of a single step', open / short, '');

    await browser.go(`${app.app}/slots`);
    batch = [];
    const many = Array.from({ length: graphics }, (_, i) =>
      startHistory(named(`many-${i}`, `Graphic ${i}`), `many-${i}-0`, i),
    );
    for (let i = 0; i < many.length; i += 100) {
      const some = many.slice(i, i + 100).map((h) => h.steps.get(h.head)!);
      await put(browser, 'steps', some);
      await put(
        browser,
        'heads',
        some.map((step) => ({ id: step.graphicId, step, depth: 0, weight: 0 })),
      );
      await put(
        browser,
        'listed',
        some.map(({ id, graphicId, graphic: { version, name, frames } }) => ({
          id: graphicId,
          head: id,
          version,
          name,
          frames,
        })),
      );
      await put(
        browser,
        'graphics',
        some.map((s) => ({ id: s.graphicId, head: s.id, created: '', changed: s.at })),
      );
    }
    const cards: number[] = [];
    for (let i = 0; i < 5; i++) {
      await browser.go(`${app.app}/slots`);
      await browser.driver.navigate().refresh();
      await browser.find('a[href$="/graphics"]');
      // As someone comes to it who looked at another page before: the code of what may come next is there by then.
      await browser.driver.sleep(4000);
      cards.push(await until(browser, 'a[href$="/graphics"]', 'bs-graphic-card'));
    }
    row(
      `Graphics with ${graphics} graphics of 20 layers, from the press to the first cards, the middle of five`,
      cards.sort((x, y) => x - y)[2]!,
      '≤ 300',
      'ms',
    );
  } finally {
    await browser.close();
  }
}

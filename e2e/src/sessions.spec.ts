// Covers: web/document, web/storage, web/house-style, web/sites
import { demo } from './harness/demo';
import { storedHead, writeHead } from './harness/stored';
import sharp from 'sharp';
import { startApp, type RunningApp } from './harness/app';
import { Browser, Key } from './harness/browser';
import { drop, newGraphic, settleDemo, things } from './harness/workbench';

// Who writes what, and what happens when it is another, or nobody answers.
let app: RunningApp;
let browser: Browser;
beforeAll(async () => {
  app = await startApp();
  browser = await Browser.open();
  await settleDemo(browser, app);
});
afterAll(async () => {
  await browser.close();
  await app.stop();
});

const names = () =>
  browser.run<string[]>(`return [...document.querySelectorAll('bs-graphic-card strong')].map((e) => e.textContent)`);
/** What stands in the graphic's name, read in one go: the field may be another in the next moment. */
const nameField = async () => {
  await browser.find('input.name');
  return browser.run<string | undefined>(`return document.querySelector('input.name')?.value`);
};
const inTabs = async (work: (first: string, second: string) => Promise<void>) => {
  const first = await browser.driver.getWindowHandle();
  await browser.driver.switchTo().newWindow('tab');
  const second = await browser.driver.getWindowHandle();
  await browser.size(1280, 800);
  try {
    await work(first, second);
  } finally {
    await browser.driver.switchTo().window(second);
    await browser.driver.close();
    await browser.driver.switchTo().window(first);
  }
};
const to = (tab: string) => browser.driver.switchTo().window(tab);

it.each([0, 40, 120, 400])('words typed %i ms before a reload are there after it', async (wait) => {
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  await browser.press('Add');
  await browser.menu('Words');
  const typed = `Typed ${wait} ms before the page was gone`;
  await browser.fill(await browser.find('bs-settings textarea'), typed);
  await browser.driver.sleep(wait);
  await browser.driver.navigate().refresh();
  await browser.find('.thing', 20_000);
  expect((await things(browser)).join()).toContain(typed.slice(0, 20));
  await browser.layer('Words');
  expect(await (await browser.find('bs-settings textarea')).getAttribute('value')).toBe(typed);
});

it('a name that is typed and not entered yet is there after a reload', async () => {
  await browser.fill(await browser.find('input.name'), 'Named, not entered');
  await browser.driver.navigate().refresh();
  await browser.find('.lit canvas', 20_000);
  expect(await nameField()).toBe('Named, not entered');
});

it('what was open stays closed: a new house colour in it is not undone by a new business name', async () => {
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  const address = await browser.driver.getCurrentUrl();
  await browser.press('Add');
  await browser.menu('Words');
  await browser.fill(await browser.find('bs-settings textarea'), 'By {business}');
  await browser.layer('Backdrop');
  await browser.press('Clay').catch(() => undefined);
  await browser.saved();
  await browser.press('Graphics', 'a');
  await browser.find('bs-graphic-card');
  await browser.driver.sleep(700);
  // Another writes to it, as House style does, without this page's knowing.
  const head = await storedHead(browser, address.split('/').at(-1)!);
  const graphic = { ...head.graphic, name: 'Changed by another' };
  const step = { ...head, id: 'by-another', parent: head.id, name: 'By another', graphic };
  await writeHead(browser, step, { writer: 'another' });
  await browser.press('House style', 'a');
  const business = await browser.find('input[maxlength="120"]');
  await browser.fill(business, `Ottermill and Daughters${Key.TAB}`);
  await browser.seeText('Saved');
  await browser.driver.sleep(400);
  await browser.go(address);
  await browser.find('.lit canvas', 20_000);
  expect(await nameField()).toBe('Changed by another');
  expect((await things(browser)).join()).toContain('By');
});

it('one that was deleted elsewhere is not listed again by a late change; what is here can be kept as its own', async () => {
  await newGraphic(browser, app, 'Round chat avatar');
  await browser.fill(await browser.find('input.name'), `Soon gone${Key.ENTER}`);
  await browser.saved();
  await inTabs(async (first, second) => {
    await to(second);
    await browser.go(`${app.app}/graphics`);
    await browser.find('bs-graphic-card');
    await browser.press('More for Soon gone');
    await browser.menu('Delete');
    await browser.seeText('was deleted');
    await to(first);
    await browser.fill(await browser.find('input.name'), `Late${Key.ENTER}`);
    await browser.seeText('was deleted elsewhere');
    await browser.press('Keep mine as its own');
    await browser.driver.wait(async () => (await nameField()) === 'Late, my state', 10_000);
    await to(second);
    await browser.driver.navigate().refresh();
    // Rows of cards come a few a frame.
    await browser.driver.wait(async () => (await names()).includes('Late, my state'), 15_000, 'It is not listed');
    expect(await names()).not.toContain('Soon gone');
  });
});

it('two graphics opened right after each other: the second is there, whatever the first took', async () => {
  await browser.go(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  await browser.driver.executeAsyncScript(
    `const done = arguments[0];
     const card = (id) => document.querySelector('a[href="/graphics/' + id + '"]');
     card('demo-autumn-glazes').click();
     const gone = setInterval(() => {
       if (!location.pathname.includes('autumn')) return;
       clearInterval(gone);
       history.back();
       const wait = setInterval(() => {
         const other = card('demo-new-jugs');
         if (!other) return;
         clearInterval(wait);
         other.click();
         done();
       }, 5);
     }, 1);`,
  );
  await browser.driver.wait(
    async () => (await browser.all('.lit canvas')).length > 0 && (await nameField()) === 'New jugs',
    15_000,
    'The second did not open',
  );
});

it('House style in two tabs: setting by setting, live in both', async () => {
  await browser.go(`${app.app}/house-style`);
  await browser.find('input[maxlength="120"]');
  await inTabs(async (first, second) => {
    await to(second);
    await browser.go(`${app.app}/house-style`);
    const address = await browser.find('input[maxlength="300"]');
    await to(first);
    await browser.fill(await browser.find('input[maxlength="120"]'), `Ottermill & Co${Key.TAB}`);
    await browser.seeText('Saved');
    await to(second);
    await browser.driver.wait(
      async () => (await (await browser.find('input[maxlength="120"]')).getAttribute('value')) === 'Ottermill & Co',
      5000,
      'The other tab did not follow',
    );
    await browser.fill(address, `mill.example${Key.TAB}`);
    await browser.seeText('Saved');
    await to(first);
    await browser.driver.wait(
      async () => (await (await browser.find('input[maxlength="300"]')).getAttribute('value')) === 'mill.example',
      5000,
    );
    expect(await (await browser.find('input[maxlength="120"]')).getAttribute('value')).toBe('Ottermill & Co');
  });
});

it('a first start in two tabs brings the demo once', async () => {
  const other = await Browser.open();
  try {
    await other.go(`${app.app}/mark.svg`);
    const first = await other.driver.getWindowHandle();
    await other.driver.switchTo().newWindow('tab');
    await other.size(1280, 800);
    await other.go(`${app.app}/graphics`);
    await other.find('bs-first-steps');
    const second = await other.driver.getWindowHandle();
    await other.driver.switchTo().window(first);
    await other.go(`${app.app}/graphics`);
    await other.find('bs-first-steps');
    // Both are asked, and both say the same, one right after the other.
    await other.press('Look round the pottery');
    await other.driver.switchTo().window(second);
    await other.press('Look round the pottery');
    await other.find('bs-graphic-card', 60_000);
    await other.driver.switchTo().window(first);
    await other.find('bs-graphic-card', 60_000);
    const count = () => other.run<number>(`return document.querySelectorAll('bs-graphic-card').length`);
    // Rows of cards come a few a frame.
    await other.driver.wait(async () => (await count()) >= demo.graphics.length, 15_000, 'Not all are listed');
    expect(await count()).toBe(demo.graphics.length);
    expect(await other.all('.problem-text[role=alert]')).toHaveLength(0);
  } finally {
    await other.close();
  }
});

describe('the server gone', () => {
  beforeAll(async () => {
    await browser.go(`${app.app}/graphics/demo-kiln-opening`);
    await browser.exact();
    // What is only needed later is fetched when there is nothing else to do.
    await browser.driver.wait(
      () =>
        browser.driver.executeAsyncScript<boolean>(
          // A profile that was used before has the files already, but this page has still to fetch the code.
          `const [done] = arguments;
           const fetched = new Set(performance.getEntriesByType('resource').map((e) => new URL(e.name).pathname));
           Promise.all([caches.match('/ahead-build'), fetch('/ahead.json').then((r) => r.json())]).then(
             ([build, { code }]) => done(!!build && code.every((path) => fetched.has(new URL(path, location.href).pathname))),
             () => done(false),
           );`,
        ),
      90_000,
      'Nothing was fetched ahead',
    );
    await app.stop();
  });
  afterAll(async () => {
    // For whatever stops it once more.
    app = await startApp();
  });

  it('pictures come in, words are set, shapes from an SVG are made', async () => {
    const bytes = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#335577' } })
      .png()
      .toBuffer();
    const before = (await things(browser)).length;
    await drop(browser, { name: 'offline.png', bytes });
    await browser.driver.wait(async () => (await things(browser)).length === before + 1, 10_000);
    await drop(browser, {
      name: 'pot.svg',
      bytes: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9v9z"/></svg>'),
    });
    await browser.driver.wait(async () => (await things(browser)).length === before + 2, 10_000);
    await browser.saved();
  });
  it('a web address and the shelf say that nobody answers; what is one’s own is on the shelf', async () => {
    await browser.press('Add');
    await browser.menu('Picture from a web address');
    await browser.fill(await browser.find('bs-address-dialog input'), 'http://localhost/a.jpg');
    await browser.press('Fetch it');
    await browser.seeText('does not answer');
    await browser.press('Cancel');
    await browser.press('Add');
    await browser.menu('From the shelf');
    await browser.find('.shelf li button');
    await browser.seeText('The site does not answer');
    await browser.keys(Key.ESCAPE);
  });
  it('Export makes its files', async () => {
    await browser.press('Export', 'a');
    await browser.driver.wait(
      async () => {
        const made = await browser.run<string[]>(
          `return [...document.querySelectorAll('.format .bytes')].map((e) => e.textContent)`,
        );
        return made.length > 1 && made.every((t) => /[kM]B/.test(t));
      },
      30_000,
      'The files were not made',
    );
  });
  it('Slots opens, Sites says that nobody answers and tries again', async () => {
    await browser.run('history.back()');
    await browser.find('.lit canvas');
    await browser.press('Graphics', 'a');
    await browser.press('Slots', 'a');
    await browser.find('bs-slot-outlines li');
    await browser.press('Sites', 'a');
    await browser.seeText('does not answer');
    await browser.press('Try again');
    await browser.seeText('does not answer');
  });
});

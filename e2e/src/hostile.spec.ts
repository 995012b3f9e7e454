// Covers: web, core/formats, core/slot, core/words, server
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Refusal } from '@bright-slot/core';
import { root } from './harness/app';
import { Key } from './harness/browser';
import { withApp } from './harness/suite';
import { opens, unreadableSteps } from './harness/walk';
import { newGraphic, things } from './harness/workbench';

// What did harm once, through every door of the running app.
const { app, browser } = withApp();

const folder = join(root, 'core/src/testing/hostile');
const files = readdirSync(folder)
  .filter((name) => name !== 'README.md')
  .map((name) => ({ name, bytes: readFileSync(join(folder, name)) }));
/** Kinds that are made here: too large, or too small, to be kept as files. */
files.push(
  { name: 'empty.png', bytes: Buffer.alloc(0) },
  { name: 'zeros.heic', bytes: Buffer.alloc(5000) },
  { name: 'ring.heic', bytes: Buffer.from('\0\0\0\x10ftypheic\0\0\0\0\0\0\0\x01meta\0\0\0\0\0\0\0\0', 'latin1') },
  {
    name: 'use-bomb.svg',
    bytes: Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${Array.from({ length: 24 }, (_, i) => `<g id="a${i}"><use href="#a${i + 1}"/><use href="#a${i + 1}"/></g>`).join('')}<rect id="a24" width="1" height="1"/></svg>`,
    ),
  },
  {
    name: 'script.svg',
    bytes: Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9" onload="window.harmed=1"><script>window.harmed=1</script><rect width="9" height="9"/></svg>',
    ),
  },
  {
    // As many points as are taken, criss-cross: what it costs to draw is what the limit has to bear.
    name: 'at-the-limit.svg',
    bytes: Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000"><path d="M0 0${Array.from({ length: 59_000 }, (_, k) => `L${(k * 7919) % 1000} ${(k * 104_729) % 1000}`).join('')}"/></svg>`,
    ),
  },
  {
    name: 'million.svg',
    bytes: Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0${'l9 9'.repeat(250_000)}"/></svg>`),
  },
);

/** The largest take their time: `npm run soak` gives them to every door. */
const LARGE = 100_000;
if (!process.env['FULL_SIZE'])
  for (const large of files.filter((f) => f.bytes.length > LARGE)) files.splice(files.indexOf(large), 1);

/** Longer than this without a breath and without a word of progress is a hang, ms; a busy machine is given grace. */
const HANG = 3000;

/** Hands a file to a door, waits until nothing is under way, and gives how long the page held its breath, ms. */
async function feed(door: string, file: { name: string; bytes: Buffer }): Promise<number> {
  await browser.give(file);
  return browser.driver.executeAsyncScript<number>(
    `const [door, done] = arguments;
     let worst = 0, last = performance.now();
     const beat = setInterval(() => { const now = performance.now(); worst = Math.max(worst, now - last); last = now; }, 20);
     const data = new DataTransfer();
     data.items.add(window.__files[0]);
     const bench = document.querySelector('bs-workbench-page');
     if (door === 'drop') bench.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
     else if (door === 'paste') bench.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
     else {
       const field = document.querySelector('input[type=file][aria-label="' + door + '"]');
       field.files = data.files;
       field.dispatchEvent(new Event('change', { bubbles: true }));
     }
     const until = performance.now() + 25_000;
     let still = 0;
     const look = setInterval(() => {
       const busy = [...document.querySelectorAll('.busy, [role=status]')].some((e) => /…/.test(e.textContent));
       still = busy ? 0 : still + 1;
       if (still < 8 && performance.now() < until) return;
       clearInterval(look); clearInterval(beat);
       done(performance.now() < until ? worst : 1e6);
     }, 25);`,
    door,
  );
}

const doors: [string, string, () => Promise<void>][] = [
  ['dropping', 'drop', () => newGraphic(browser, app, 'Blog header, 940 × 198')],
  ['pasting', 'paste', () => newGraphic(browser, app, 'Blog header, 940 × 198')],
  ['an outline', 'Outline from an SVG', () => newGraphic(browser, app, 'Blog header, 940 × 198')],
  [
    'a font',
    'Bring a font',
    async () => {
      await newGraphic(browser, app, 'Blog header, 940 × 198');
      await browser.press('Add');
      await browser.menu('Words');
      await browser.find('input[aria-label="Bring a font"]');
    },
  ],
  ['a logo', 'A logo from a file', () => browser.visit(`${app.app}/house-style`)],
  ['tokens', 'Tokens from a file', () => browser.visit(`${app.app}/house-style`)],
  ['a book of slots', 'A book of slots, JSON', () => browser.visit(`${app.app}/slots`)],
  [
    'the current picture',
    'The picture that is in use now',
    async () => {
      await browser.visit(`${app.app}/slots`);
      await browser.press('Current picture');
    },
  ],
  [
    'a screenshot',
    'A screenshot',
    async () => {
      await browser.visit(`${app.app}/slots?way=screenshot`);
      await browser.find('bs-shot-view');
    },
  ],
  ['Bring back', 'A zip that was saved here, or an OpenRaster file', () => browser.visit(`${app.app}/graphics`)],
];

it.each(doors)('%s: each hostile file is taken, or told in words; nothing hangs', async (_what, door, open) => {
  await open();
  if (door !== 'drop' && door !== 'paste') await browser.find(`input[type=file][aria-label="${door}"]`);
  let worst = { name: '', ms: 0 };
  for (const file of files) {
    // A measured screenshot takes the place of its door.
    if (door === 'A screenshot' && !(await browser.all(`input[type=file][aria-label="${door}"]`)).length) await open();
    const ms = await feed(door, file);
    if (ms > worst.ms) worst = { name: file.name, ms: Math.round(ms) };
    expect([file.name, ms < HANG]).toEqual([file.name, true]);
  }
  console.log(`${door}: longest breath ${worst.ms} ms, ${worst.name}`);
  expect(await browser.run('return window.harmed')).toBeNull();
  // Nobody was told a program's own words.
  const told = await browser.run<string>(
    `return [...document.querySelectorAll('mat-snack-bar-container, [role=alert]')].map((e) => e.textContent).join(' ')`,
  );
  expect(told).not.toMatch(/Error|undefined|null|exception|Cannot read|ConstraintError|DataError/);
  expect(await browser.violations()).toEqual([]);
});

it('texts that did harm are cut with a word, before anything is laid out', async () => {
  await newGraphic(browser, app, 'Blog header, 940 × 198');
  await browser.press('Add');
  await browser.menu('Words');
  await browser.find('bs-settings textarea');
  for (const name of ['501-lines.txt', '20001-characters.txt', 'million']) {
    const text = name === 'million' ? 'wort '.repeat(200_000) : readFileSync(join(folder, name), 'utf8');
    const took = await browser.driver.executeAsyncScript<number>(
      `const [text, done] = arguments;
       const field = document.querySelector('bs-settings textarea');
       const start = performance.now();
       field.value = text;
       field.dispatchEvent(new Event('input', { bubbles: true }));
       requestAnimationFrame(() => setTimeout(() => done(performance.now() - start)));`,
      text,
    );
    expect([name, took < HANG]).toEqual([name, true]);
    await browser.seeText('left out');
  }
  await browser.saved();
});

it('a very long name, nothing, and half a character are names that open again', async () => {
  const name = await browser.find('input.name');
  for (const to of ['x'.repeat(400), '😀'.repeat(100)]) {
    await browser.run(
      `arguments[0].value = arguments[1]; arguments[0].dispatchEvent(new Event('change', { bubbles: true }));`,
      name,
      to,
    );
    await browser.saved();
  }
  await browser.fill(name, ` ${Key.ENTER}`);
  expect(((await browser.run<string>(`return document.querySelector('h1').textContent`)) ?? '').length).toBeGreaterThan(
    50,
  );
});

it('uploads: each is refused in words with its own status, or kept', async () => {
  for (const { name, bytes } of files) {
    const body = new FormData();
    for (const [k, v] of Object.entries({
      name: 'a.jpg',
      slot: 'blog-header',
      alt: '',
      graphicId: 'g',
      graphicName: 'G',
    }))
      body.set(k, v);
    body.set('file', new Blob([Uint8Array.from(bytes)]), name);
    const start = Date.now();
    const answer = await fetch(`${app.site}/api/pictures`, { method: 'POST', body, headers: { Origin: app.app } });
    expect([name, answer.status, Date.now() - start < HANG]).toEqual([name, 422, true]);
    expect(Refusal.parse(await answer.json()).message).toMatch(/^[A-Z“].*\.$/);
  }
});

it('afterwards every graphic opens, every stored step can be read, and the app goes on', async () => {
  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  expect(await browser.all('.unreadable')).toHaveLength(0);
  expect(await unreadableSteps(browser)).toEqual([]);
  const links = await browser.driver.executeAsyncScript<string[]>(
    `const [done] = arguments;
     // Rows of cards come a few a frame.
     let frames = 20;
     const look = () =>
       frames-- ? requestAnimationFrame(look) : done([...document.querySelectorAll('bs-graphic-card a.window')].map((a) => a.href));
     look();`,
  );
  for (const link of links) {
    await browser.go(link);
    expect([link, await opens(browser)]).toEqual([link, true]);
    await browser.press('Steps');
    await browser.find('bs-steps-panel li');
  }
  expect((await things(browser)).length).toBeGreaterThanOrEqual(0);
});

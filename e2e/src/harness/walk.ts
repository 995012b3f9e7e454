import { Step } from '@bright-slot/core';
import type { RunningApp } from './app';
import type { Browser } from './browser';
import { storedSteps } from './stored';
import { newGraphic } from './workbench';

/** Small repeatable random numbers 0…1 (mulberry32), as the page's own script below has them too. */
const RANDOM = `const random = (seed) => () => {
  seed = (seed + 0x6d2b79f5) | 0;
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
};`;

/**
 * What a person may do at the workbench, wild: types, pastes, names, slides, presses, undoes. Everything goes through
 * the interface's own elements and events. Gives what it did, so that a walk can be told.
 */
const ACTS = `${RANDOM}
const [seed, count, done] = arguments;
const r = random(seed);
const pick = (list) => list[Math.floor(r() * list.length)];
const frame = () => new Promise((go) => requestAnimationFrame(() => setTimeout(go)));
const texts = () => pick([
  () => 'Autumn glazes', () => '', () => ' ', () => '😀'.repeat(1 + Math.floor(r() * 150)), () => 'x'.repeat(300),
  () => 'line\\n'.repeat(600), () => 'word '.repeat(5000), () => 'שלום Glasur Привет 釉薬', () => '{date} {nothing}', () => '\\ud83d',
  () => '"quotes" & <tags>', () => '\\u0000\\u2028\\t', () => '../..\\\\x', () => '__proto__', () => 'constructor',
])();
const figures = () => pick(['0', '-5', '1e9', '-1e9', '1e308', 'abc', '', '12.345', '0.0001', '100', '999999', 'NaN', '40', '3']);
const shown = (e) => !!e && e.getClientRects().length > 0 && !e.disabled;
const all = (css) => [...document.querySelectorAll(css)].filter(shown);
const give = (e, value, type) => { e.focus(); e.value = value; e.dispatchEvent(new Event(type, { bubbles: true })); };
const key = (k, own = {}) => (document.activeElement ?? document.body).dispatchEvent(
  new KeyboardEvent('keydown', { key: k, bubbles: true, cancelable: true, ...own }));
const chord = (k, own = {}) => { document.activeElement?.blur(); document.body.dispatchEvent(new KeyboardEvent('keydown', { key: k, ctrlKey: true, bubbles: true, cancelable: true, ...own })); };
const closeMenus = async () => { document.querySelector('.cdk-overlay-backdrop')?.click(); await frame(); };
const until = async (look) => { for (let i = 0; i < 60; i++) { const found = look(); if (found.length) return found; await frame(); } return []; };
const fromMenu = async (name) => {
  const add = all('.layer-row > button').at(-1);
  if (!add) return;
  add.click();
  const items = await until(() => all('.mat-mdc-menu-item').filter((i) => /^\\s*(Words|Veil|Shape)\\s*$/.test(i.textContent)));
  const item = name ? items.find((i) => i.textContent.trim() === name) : pick(items);
  item?.click(); await frame(); await frame();
  if (item?.textContent.trim() === 'Shape') {
    const shapes = await until(() => all('.mat-mdc-menu-item').filter((i) => !/SVG|Words|Veil|Shape|shelf|file|address|logo/.test(i.textContent)));
    pick(shapes)?.click(); await frame();
  }
  await closeMenus();
};
const picture = async (name) => {
  const c = new OffscreenCanvas(1 + Math.floor(r() * 60), 1 + Math.floor(r() * 40));
  const x = c.getContext('2d'); x.fillStyle = '#a4512f'; x.fillRect(0, 0, c.width, c.height);
  return new File([await c.convertToBlob()], name, { type: 'image/png' });
};
const svg = (inner, box) => new File(['<svg xmlns="http://www.w3.org/2000/svg" viewBox="' + box + '">' + inner + '</svg>'], texts().slice(0, 200) + '.svg', { type: 'image/svg+xml' });
const hand = (type, data) => document.querySelector('bs-workbench-page').dispatchEvent(
  type === 'paste' ? new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true })
                   : new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
const acts = {
  async words() { await fromMenu('Words'); },
  async shape() { await fromMenu(); },
  layer() { pick(all('.layer-item'))?.click(); },
  write() { const f = pick(all('bs-settings textarea, bs-words-editor textarea')); if (f) give(f, texts(), 'input'); },
  figure() { const f = pick(all('bs-settings bs-number input, bs-settings input[type=text]')); if (f) { give(f, figures(), 'change'); } },
  slide() { const f = pick(all('bs-settings input[type=range]')); if (f) { give(f, String(Number(f.min) + r() * (Number(f.max) - Number(f.min))), 'input'); f.dispatchEvent(new Event('change', { bubbles: true })); } },
  tab() { pick(all('bs-settings [role=tab]'))?.click(); },
  async press() { const b = pick(all('bs-settings button:not([role=tab])').filter((b) => !/file|Bring|Another|shelf|SVG|font|Find/i.test(b.textContent + b.ariaLabel))); b?.click(); await frame(); await closeMenus(); },
  name() { const f = all('input.name')[0]; if (f) give(f, texts(), 'change'); },
  async rename() { const l = pick(all('li .layer-item')); l?.dispatchEvent(new MouseEvent('dblclick', { bubbles: true })); await frame(); const f = all('.rename')[0]; if (f) { f.value = texts(); f.blur(); } },
  duplicate() { chord('d'); },
  copy() { chord('c'); chord('v'); },
  undo() { for (let i = 0; i < 1 + r() * 6; i++) chord('z'); },
  redo() { for (let i = 0; i < 1 + r() * 4; i++) chord('y'); },
  nudge() { document.activeElement?.blur(); for (let i = 0; i < 3; i++) document.body.dispatchEvent(new KeyboardEvent('keydown', { key: pick(['ArrowLeft', 'ArrowDown', 'ArrowRight']), shiftKey: r() < 0.5, bubbles: true, cancelable: true })); },
  remove() { if (r() < 0.3) { document.activeElement?.blur(); document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Delete', bubbles: true, cancelable: true })); } },
  async drop() { const d = new DataTransfer(); d.items.add(await picture(texts().slice(0, 250) + '.png')); hand(pick(['drop', 'paste']), d); await frame(); },
  async drawing() { const d = new DataTransfer(); d.items.add(svg('<path d="M0 0L' + figures() + ' 9L9 9Z"/>', '0 0 ' + pick(['9 9', '1e7 10', '0.001 2', '9,9', 'x']))); hand('drop', d); await frame(); },
  escape() { key('Escape'); },
  async steps() { const b = all('header button').find((b) => b.textContent.trim() === 'Steps'); b?.click(); await frame(); pick(all('bs-steps-panel li button'))?.click(); await frame(); all('bs-steps-panel button[aria-label="Close steps"]')[0]?.click(); },
};
(async () => {
  const said = [];
  for (let i = 0; i < count; i++) {
    const name = pick(Object.keys(acts));
    said.push(name);
    try { await acts[name](); } catch (e) { said.push('!' + e.message); }
    await frame();
  }
  document.activeElement?.blur();
  await closeMenus();
  done(said);
})();`;

/** Acts at the workbench that is open; gives their names. */
export function wildActs(browser: Browser, seed: number, count: number): Promise<string[]> {
  return browser.driver.executeAsyncScript<string[]>(ACTS, seed, count);
}

/** Every step that is stored, read by the schema; gives those that cannot be. */
export async function unreadableSteps(browser: Browser): Promise<string[]> {
  return (await storedSteps(browser)).flatMap((step) => {
    const read = Step.safeParse(step);
    return read.success ? [] : [`${(step as { id: string }).id}: ${JSON.stringify(read.error.issues.slice(0, 2))}`];
  });
}

/** How many steps the graphic with the most has. */
async function stepsOf(browser: Browser): Promise<{ walked: number }> {
  return browser.driver.executeAsyncScript(
    `const [done] = arguments;
     indexedDB.open('bright-slot').onsuccess = (e) => {
       const counts = new Map();
       e.target.result.transaction('steps').objectStore('steps').index('graphicId').openKeyCursor().onsuccess = (r) => {
         const c = r.target.result;
         if (!c) return done({ walked: Math.max(...counts.values()) });
         counts.set(c.key, (counts.get(c.key) ?? 0) + 1);
         c.continue();
       };
     };`,
  );
}

/** Waits for the workbench of the graphic that is open; false where it does not open. */
export async function opens(browser: Browser): Promise<boolean> {
  return browser.find('.lit canvas', 20_000).then(
    () => true,
    () => false,
  );
}

/** One walk: a new graphic, `acts` acts with reloads and duplicates between. Gives what went wrong; empty where nothing did. */
export async function walk(
  browser: Browser,
  app: RunningApp,
  slot: string,
  seed: number,
  acts: number,
): Promise<string[]> {
  const wrong: string[] = [];
  const AT_ONCE = 30;
  await newGraphic(browser, app, slot);
  const said: string[] = [];
  for (let i = 0; i < acts; i += AT_ONCE) {
    said.push(...(await wildActs(browser, seed * 1000 + i, Math.min(AT_ONCE, acts - i))));
    if ((i / AT_ONCE) % 2 === 1) {
      await browser.driver.navigate().refresh();
      if (!(await opens(browser))) {
        wrong.push(`seed ${seed}, after ${i + AT_ONCE} acts: does not open. ${said.slice(-AT_ONCE).join(' ')}`);
        return wrong;
      }
    }
  }
  const faults = said.filter((s) => s.startsWith('!'));
  if (faults.length) wrong.push(`seed ${seed}: the walk itself failed: ${faults.slice(0, 3).join(' ')}`);
  // A duplicate of whatever it is called by now.
  await browser.driver
    .wait(async () => !/Saving/.test(await (await browser.find('bs-save-state')).getText()), 15_000)
    .catch(() => wrong.push(`seed ${seed}: it goes on saving`));
  if (/Not saved/.test(await (await browser.find('bs-save-state')).getText()))
    wrong.push(`seed ${seed}: not saved: ${await (await browser.find('.banner.bad')).getText()}`);
  await browser.visit(`${app.app}/graphics`);
  await browser.find('bs-graphic-card');
  await browser.run(`document.querySelector('bs-graphic-card button[aria-label^="More for"]').click()`);
  await browser.menu('Duplicate');
  await browser.driver.sleep(300);
  if ((await browser.all('.unreadable')).length) wrong.push(`seed ${seed}: a graphic is listed that cannot be read`);
  await browser.run(`document.querySelector('bs-graphic-card a.window').click()`);
  if (!(await opens(browser))) wrong.push(`seed ${seed}: the duplicate does not open`);
  // A walk that did nothing shows nothing.
  const steps = await stepsOf(browser);
  if (steps.walked < acts / 6) wrong.push(`seed ${seed}: only ${steps.walked} steps were stored`);
  const told = (await browser.errors()).filter((e) => /Error/.test(e) && !/Failed to load resource/.test(e));
  if (told.length) wrong.push(`seed ${seed}: ${told.slice(0, 3).join(' ')}`);
  for (const bad of await unreadableSteps(browser)) wrong.push(`seed ${seed}: a step cannot be read: ${bad}`);
  return wrong;
}

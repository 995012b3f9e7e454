import { startApp } from './harness/app';
import { Browser, Key } from './harness/browser';
import { random } from '../../core/src/testing/samples';
const app = await startApp(); const browser = await Browser.open();
const seed = Number(process.argv[2] ?? 1); const steps = Number(process.argv[3] ?? 250);
const r = random(seed);
const log: string[] = [];
try {
  await browser.go(`${app.app}/graphics`); await browser.find('bs-graphic-card', 60_000);
  const demos = ['demo-autumn-glazes', 'demo-tuesday-wheel', 'demo-evening-classes', 'demo-new-jugs'];
  await browser.go(`${app.app}/graphics/${demos[seed % 4]}`);
  await browser.leaf('Words'); await browser.exact();
  await browser.run(`window.__errs = []; addEventListener('error', (e) => __errs.push(String(e.message))); addEventListener('unhandledrejection', (e) => __errs.push('rejection ' + String(e.reason)));`);
  for (let i = 0; i < steps; i++) {
    const what = await browser.run<string>(`
      const r = arguments[0], r2 = arguments[1];
      const bad = /Export|Graphics|Steps|Bring|file|shelf|web address|On the page|Only the picture|All but the subject|Outline from/i;
      const seen = (e) => { const b = e.getBoundingClientRect(); return b.width > 0 && b.height > 0 && !e.disabled; };
      const overlay = [...document.querySelectorAll('.cdk-overlay-container button, .cdk-overlay-container [role=menuitem], .cdk-overlay-container mat-option')].filter(seen);
      const pool = overlay.length ? overlay : [...document.querySelectorAll('bs-settings button, bs-settings input, bs-settings [role=tab], bs-leaves button, bs-settings mat-select, .thing, bs-settings textarea, button[aria-label^=Undo], button[aria-label^=Redo], .add')].filter(seen).concat([...document.querySelectorAll('button')].filter((b) => seen(b) && b.textContent.trim() === 'Add'));
      const list = pool.filter((e) => !bad.test(e.getAttribute('aria-label') ?? '') && !bad.test(e.textContent));
      if (!list.length) { document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' })); return 'nothing'; }
      const e = list[Math.floor(r * list.length)];
      const name = (e.getAttribute('aria-label') ?? e.textContent).trim().slice(0, 50);
      if (e.matches('textarea')) { e.value = ['', 'Wörter & more', 'a\\nb\\nc', '{date} {business}', 'x'.repeat(400), 'مرحبا', '🏺 pots'][Math.floor(r2 * 7)]; e.dispatchEvent(new Event('input')); return 'write ' + e.value.slice(0, 12); }
      if (e.matches('input[type=range]')) { e.value = Number(e.min) + r2 * (e.max - e.min); e.dispatchEvent(new Event('input', { bubbles: true })); e.dispatchEvent(new Event('change', { bubbles: true })); return 'slide ' + name; }
      if (e.matches('input[type=checkbox]')) { e.click(); return 'tick ' + name; }
      if (e.matches('input')) { const v = ['0', '-5', '99999', String(Math.round(r2 * 400)), 'abc', '12,5', '#' + Math.floor(r2 * 16777215).toString(16).padStart(6, '0')][Math.floor(r2 * 7)]; e.focus(); e.value = v; e.dispatchEvent(new Event('input', { bubbles: true })); e.dispatchEvent(new Event('change', { bubbles: true })); e.blur(); return 'type ' + v + ' in ' + name; }
      e.click(); return 'press ' + name;`, r(), r());
    log.push(what);
    if (r() < 0.06) { await browser.keys(Key.ESCAPE); }
    if (r() < 0.05) await browser.chord(Key.CONTROL, 'z');
    if (r() < 0.03) await browser.keys(Key.ARROW_LEFT);
    await new Promise((s) => setTimeout(s, 60));
    const errs = await browser.run<string[]>(`const e = window.__errs ?? ['LOST ' + location.pathname]; window.__errs = window.__errs ? [] : undefined; return e;`);
    const bar = await browser.run<string>(`return [...document.querySelectorAll('[role=alert], .banner, .problem-text')].map((e) => e.innerText.trim()).filter(Boolean).join(' | ')`);
    if (bar && !/needs|too faint/.test(bar)) console.log('SAID', i, bar.slice(0, 160), '<-', what);
    if (errs.length) { console.log('ERR', i, errs.join(' ; ').slice(0, 300), '\n   after', log.slice(-5).join(' → ')); if (errs[0]!.startsWith('LOST')) break; }
  }
  const logs = await browser.driver.manage().logs().get('browser');
  for (const l of logs) if (l.level.name === 'SEVERE') console.log('LOG', l.message.slice(0, 400));
  await browser.keys(Key.ESCAPE); await browser.keys(Key.ESCAPE);
  await browser.driver.navigate().refresh();
  await new Promise((s) => setTimeout(s, 3000));
  console.log('after reload:', (await browser.run<string>(`return document.body.innerText`)).slice(0, 120).replace(/\n/g, ' / '), 'leaves', (await browser.all('bs-leaves li')).length);
} catch (e) { console.log('THROWN', String(e).slice(0, 300), log.slice(-6).join(' → ')); } finally { await browser.close(); await app.stop(); }

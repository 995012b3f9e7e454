import { mkdirSync, writeFileSync } from 'node:fs';
import { startApp } from './harness/app';
import { Browser } from './harness/browser';
import { lookRound } from './harness/workbench';
mkdirSync('/tmp/shots', { recursive: true });
const app = await startApp();
const h = Number(process.env['H'] ?? 800);
const browser = await Browser.open({ width: 1280, height: h });
await browser.driver.get(`${app.app}/graphics`);
await lookRound(browser);
try {
for (const a of process.argv.slice(2)) {
  const [q, photo] = a.split('@');
  await browser.driver.get(`${app.app}/graphics/new?${q}`);
  const t = Date.now();
  await browser.seeText('Bare canvas');
  if (photo) { await browser.driver.sleep(1500); await browser.press(photo); }
  await browser.driver.wait(async () => browser.run(`return document.body.textContent.includes('All layouts are shown.') && [...document.querySelectorAll('bs-layout-tiles .picture')].every((p)=>p.querySelector('img'))`), 90000).catch(()=>console.log('not all'));
  await browser.driver.sleep(600);
  console.log(a, Date.now() - t);
  writeFileSync(`/tmp/shots/${a.replace(/\W/g,'-')}.png`, Buffer.from(await browser.driver.takeScreenshot(), 'base64'));
}
console.log(await browser.errors());
} finally { await browser.close?.(); await app.stop?.(); process.exit(0); }

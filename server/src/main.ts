import { existsSync, readFileSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { resolve } from 'node:path';
import { Demo, readUrl } from '@bright-slot/core';
import { appServer } from './app';
import { openSiteStore } from './site/store';
import { siteServer } from './site/server';
import { standIn } from './site/stand-in';

const root = resolve(process.env['BRIGHT_SLOT_ROOT'] ?? '.');
const data = resolve(process.env['BRIGHT_SLOT_DATA'] ?? `${root}/.data`);
const port = Number(process.env['PORT'] ?? 4600);
const sitePort = Number(process.env['SITE_PORT'] ?? port + 1);
// Behind a proxy these are the addresses that browsers know; without one, this computer's own.
const appOrigin = originOf('APP_ORIGIN', `http://localhost:${port}`);
const siteOrigin = originOf('SITE_ORIGIN', `http://localhost:${sitePort}`);
const demoFile = resolve(process.env['BRIGHT_SLOT_DEMO'] ?? `${root}/dist/demo/demo.json`);
const demo = process.argv.includes('--empty') ? null : readDemo(demoFile);

/** An origin as it was set, without a path. */
function originOf(name: string, otherwise: string): string {
  const given = process.env[name];
  if (!given) return otherwise;
  const url = readUrl(given);
  if (url && /^https?:$/.test(url.protocol) && url.pathname === '/' && !url.search) return url.origin;
  console.error(`${name} is “${given}”, which is no origin. Write it like https://slots.example`);
  process.exit(1);
}

/** What the demo brings; null where none was built. */
function readDemo(file: string): Demo | null {
  if (!existsSync(file)) return null;
  const read = Demo.safeParse(JSON.parse(readFileSync(file, 'utf8')));
  if (read.success) return read.data;
  console.error(`The demo in ${file} cannot be read, so Bright Slot starts without it.`);
  return null;
}

function listen(app: ReturnType<typeof appServer>, on: number): Promise<void> {
  return new Promise((done, fail) => {
    // Loopback only; Express 5 hands listen errors to the callback.
    const server = app.listen(on, '127.0.0.1', (error?: Error) => (error ? fail(error) : done()));
    server.requestTimeout = 60_000;
  });
}

try {
  if (demo) {
    await mkdir(`${data}/site`, { recursive: true });
    const store = await openSiteStore(`${data}/site`);
    const folder = `${root}/demo`;
    const site = standIn(
      { record: demo.site, slots: demo.slots, sets: demo.sets, first: `${folder}/site` },
      store,
      siteOrigin,
    );
    const fonts = `${root}/dist/web/browser/type-web`;
    await listen(
      siteServer({ site, store, demo: folder, files: `${data}/site/files`, fonts, appOrigin, siteOrigin }),
      sitePort,
    );
  }
  const own = demo ? { siteOrigin, demo: demoFile } : { siteOrigin: '' };
  await listen(appServer({ web: `${root}/dist/web/browser`, appOrigin, ...own }), port);
} catch (error) {
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(
    taken
      ? `Port ${port} or ${sitePort} is in use. Stop what runs there, or choose others: PORT=4700 npm start`
      : `Bright Slot could not start: ${String(error)}`,
  );
  process.exit(1);
}
const site = demo ? `\n  The demo site  ${siteOrigin}` : '';
console.log(`\n  Bright Slot    ${appOrigin}${site}\n\n  Stop with Ctrl+C.\n`);

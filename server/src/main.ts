import { mkdir } from 'node:fs/promises';
import { resolve } from 'node:path';
import { appServer } from './app';
import { openSiteStore } from './site/store';
import { siteServer } from './site/server';

const root = resolve(process.env['BRIGHT_SLOT_ROOT'] ?? '.');
const data = resolve(process.env['BRIGHT_SLOT_DATA'] ?? `${root}/.data`);
const port = Number(process.env['PORT'] ?? 4600);
const sitePort = Number(process.env['SITE_PORT'] ?? port + 1);
const appOrigin = `http://localhost:${port}`;
const siteOrigin = `http://localhost:${sitePort}`;

await mkdir(`${data}/site`, { recursive: true });
const store = await openSiteStore(`${data}/site`);

function listen(app: ReturnType<typeof appServer>, on: number): Promise<void> {
  return new Promise((done, fail) => {
    // Loopback only; Express 5 hands listen errors to the callback.
    const server = app.listen(on, '127.0.0.1', (error?: Error) => (error ? fail(error) : done()));
    server.requestTimeout = 60_000;
  });
}

try {
  await listen(
    siteServer({ store, demo: `${root}/demo`, fonts: `${root}/dist/web/browser/type-web`, appOrigin, siteOrigin }),
    sitePort,
  );
  await listen(appServer({ web: `${root}/dist/web/browser`, appOrigin, siteOrigin }), port);
} catch (error) {
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(
    taken
      ? `Port ${port} or ${sitePort} is in use. Stop what runs there, or choose others: PORT=4700 npm start`
      : `Bright Slot could not start: ${String(error)}`,
  );
  process.exit(1);
}
console.log(`\n  Bright Slot    ${appOrigin}\n  The demo site  ${siteOrigin}\n\n  Stop with Ctrl+C.\n`);

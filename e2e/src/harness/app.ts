import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

export const root = resolve(import.meta.dirname, '../../..');

export interface RunningApp {
  readonly app: string;
  readonly site: string;
  readonly data: string;
  stop(): Promise<void>;
}

/** Two free ports side by side. */
export async function freePorts(): Promise<number> {
  const tryPort = (port: number) =>
    new Promise<boolean>((done) => {
      const server = createServer().once('error', () => done(false));
      server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
    });
  for (;;) {
    const port = 20_000 + Math.floor(Math.random() * 30_000);
    if ((await tryPort(port)) && (await tryPort(port + 1))) return port;
  }
}

export interface AppChoices {
  /** Without the demo. */
  readonly empty?: boolean;
  readonly env?: Readonly<Record<string, string>>;
  /** The app's port, the site's is the next; any free ones where none is named. */
  readonly port?: number;
}

/** The built app and its stand-in site, with an empty memory of its own. */
export async function startApp({ empty = false, env = {}, ...asked }: AppChoices = {}): Promise<RunningApp> {
  const port = asked.port ?? (await freePorts());
  const data = mkdtempSync(join(tmpdir(), 'bright-slot-data-'));
  const child: ChildProcess = spawn('node', ['dist/server/main.mjs', ...(empty ? ['--empty'] : [])], {
    cwd: root,
    env: { ...process.env, PORT: String(port), SITE_PORT: String(port + 1), BRIGHT_SLOT_DATA: data, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  await new Promise<void>((ready, fail) => {
    let said = '';
    child.stdout!.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      if (said.includes('Stop with')) ready();
    });
    child.stderr!.on('data', (chunk: Buffer) => (said += chunk.toString()));
    child.once('exit', () => fail(new Error(`The server stopped: ${said}`)));
  });
  return {
    app: `http://localhost:${port}`,
    site: `http://localhost:${port + 1}`,
    data,
    stop: () =>
      new Promise((done) => {
        child.once('exit', () => {
          rmSync(data, { recursive: true, force: true });
          done();
        });
        child.kill();
      }),
  };
}

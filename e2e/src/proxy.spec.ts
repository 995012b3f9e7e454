// Covers: server, web/connector, web/output
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePorts, root, startApp, type RunningApp } from './harness/app';
import { Browser } from './harness/browser';
import { lookRound } from './harness/workbench';

/** The documented configuration of nginx, with ports and certificates of the test's own. */
function configured(folder: string, port: number, app: RunningApp): string {
  const conf = readFileSync(join(root, 'docs/nginx.conf'), 'utf8')
    .replaceAll('listen 443 ssl', `listen 127.0.0.1:${port} ssl`)
    .replaceAll('/etc/ssl/slots.example', join(folder, 'own'))
    .replaceAll('127.0.0.1:4600', app.app.replace('http://localhost', '127.0.0.1'))
    .replaceAll('127.0.0.1:4601', app.site.replace('http://localhost', '127.0.0.1'));
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']
    .map((what) => `${what}_temp_path ${folder}/${what};`)
    .join('\n');
  return `${process.getuid?.() === 0 ? 'user root;' : ''}\ndaemon off;\npid ${folder}/pid;\nerror_log ${folder}/error.log;\nevents {}\nhttp {\naccess_log off;\n${temporary}\n${conf}\n}\n`;
}

describe('behind nginx with TLS, as it is documented', () => {
  let app: RunningApp;
  let browser: Browser;
  let nginx: ChildProcess;
  const folder = mkdtempSync(join(tmpdir(), 'bright-slot-nginx-'));

  beforeAll(async () => {
    app = await startApp({ env: { APP_ORIGIN: 'https://slots.example', SITE_ORIGIN: 'https://site.slots.example' } });
    const port = await freePorts();
    execFileSync(
      'openssl',
      `req -x509 -newkey rsa:2048 -nodes -days 2 -subj /CN=slots.example -addext subjectAltName=DNS:slots.example,DNS:site.slots.example -keyout ${folder}/own.key -out ${folder}/own.pem`.split(
        ' ',
      ),
      { stdio: 'ignore' },
    );
    writeFileSync(join(folder, 'nginx.conf'), configured(folder, port, app));
    nginx = spawn('/usr/sbin/nginx', ['-c', join(folder, 'nginx.conf'), '-e', join(folder, 'error.log')]);
    browser = await Browser.open({
      arguments: ['--ignore-certificate-errors', `--host-resolver-rules=MAP *slots.example 127.0.0.1:${port}`],
    });
  });
  afterAll(async () => {
    await browser.close();
    const gone = new Promise((done) => nginx.once('exit', done));
    nginx.kill('SIGQUIT');
    await gone;
    await app.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  it('the app opens on its own name, is secure, and brings the demo from the site’s', async () => {
    await browser.go('https://slots.example/graphics');
    await lookRound(browser);
    expect(await browser.run<boolean>('return isSecureContext && location.origin === "https://slots.example"')).toBe(
      true,
    );
    expect(await browser.violations()).toEqual([]);
  });

  it('a picture is put on the site and stands there as a visitor sees it', async () => {
    await browser.go('https://slots.example/graphics/demo-notes/export');
    await browser.find('.lit canvas, bs-export-page', 20_000);
    await browser.find('aside .button.main:not(:disabled)', 30_000);
    await browser.press('Put on the site');
    await browser.seeText('It is on the site.');
    await browser.go('https://site.slots.example/blog');
    expect(
      await browser.run<string[]>(
        `return [...document.querySelectorAll('.slot img')].map((i) => new URL(i.src).origin + ' ' + (i.naturalWidth > 0))`,
      ),
    ).toEqual(['https://site.slots.example true']);
  });

  it('answers under no other name', async () => {
    const { hostname, port } = new URL(app.app);
    const status = await new Promise((done) => {
      request({ hostname, port, path: '/', headers: { Host: 'other.example' } }, (answer) => {
        answer.resume();
        done(answer.statusCode);
      }).end();
    });
    expect(status).toBe(421);
  });
});

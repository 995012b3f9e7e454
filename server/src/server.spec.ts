import { mkdtempSync, readdirSync, rmSync, writeFileSync, mkdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { Express } from 'express';
import sharp from 'sharp';
import request from 'supertest';
import { Refusal, SentPicture, Site } from '@bright-slot/core';
import { demo as pottery } from '../../demo/src/index';
import { appServer } from './app';
import { MOST_PICTURES } from './site/receive';
import { siteServer } from './site/server';
import { standIn } from './site/stand-in';
import { openSiteStore, type SiteStore } from './site/store';

const appOrigin = 'http://localhost:4600';
const siteOrigin = 'http://localhost:4601';
const demo = resolve(import.meta.dirname, '../../demo');
let folder: string;
let site: Express;

const played = { record: pottery.site, slots: pottery.slots, sets: pottery.sets, first: join(demo, 'site') };
const over = (store: SiteStore) =>
  siteServer({
    site: standIn(played, store, siteOrigin),
    store,
    demo,
    files: join(folder, 'files'),
    fonts: demo,
    appOrigin,
    siteOrigin,
  });
async function open(): Promise<Express> {
  return over(await openSiteStore(folder));
}

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'site-'));
  site = await open();
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const jpeg = (width = 940, height = 198) =>
  sharp({ create: { width, height, channels: 3, background: '#a4512f' } })
    .jpeg()
    .toBuffer();

async function send(own: Record<string, string> = {}, file?: Buffer) {
  const fields = {
    name: 'autumn-blog-header-2026-11-24a.jpg',
    slot: 'blog-header',
    alt: 'Pots',
    graphicId: 'g1',
    graphicName: 'Autumn',
    ...own,
  };
  let ask = request(site).post('/api/pictures').set('Origin', appOrigin);
  for (const [k, v] of Object.entries(fields)) ask = ask.field(k, v);
  return ask.attach('file', file ?? (await jpeg()), '../../evil.exe');
}

describe('the colours of a page', () => {
  const colours = { ground: '#101820', words: '#f0ead6', accent: '#ffb454', border: null, heading: null };
  const show = async (picture: string | null) =>
    request(site).put('/api/slots/blog-header').set('Origin', appOrigin).send({ picture });
  const css = async () => (await request(site).get('/blog.css')).text;

  it('go along with a picture, are worn while it is shown, and go with it', async () => {
    const before = await css();
    const answer = await send({ colours: JSON.stringify(colours) });
    expect(answer.status).toBe(201);
    const sent = SentPicture.parse(answer.body);
    expect(sent.colours).toEqual(colours);
    await show(sent.id);
    expect(await css()).toContain('--ground:#101820');
    await show(null);
    expect(await css()).toBe(before);
  });
  it.each([['{'], ['null'], ['{"ground":"red"}'], [JSON.stringify({ ...colours, ground: '#fff;}body{display:none' })]])(
    'that are none (%s) are refused with the picture',
    async (text) => {
      expect((await send({ name: 'other-2026-11-24b.jpg', colours: text })).status).toBe(422);
    },
  );
});

describe('sending a picture', () => {
  it('keeps it under a name of the server’s own and answers with an address that serves it', async () => {
    const answer = await send();
    expect(answer.status).toBe(201);
    const sent = SentPicture.parse(answer.body);
    expect([sent.width, sent.height, sent.type]).toEqual([940, 198, 'jpeg']);
    const [stored, ...more] = readdirSync(join(folder, 'pictures'));
    expect(more).toEqual([]);
    expect(stored).toBe(`${sent.id}.jpg`);
    const served = await request(site).get(new URL(sent.address).pathname);
    expect(served.headers['content-type']).toBe('image/jpeg');
    expect((await sharp(served.body as Buffer).metadata()).width).toBe(940);
  });

  it('shows it in its slot, takes it down, puts an earlier one back, and remembers over a restart', async () => {
    const first = SentPicture.parse((await send()).body);
    const second = SentPicture.parse((await send({ name: 'b.jpg' })).body);
    const show = (picture: string | null) =>
      request(site).put('/api/slots/blog-header').set('Origin', appOrigin).send({ picture });
    await show(first.id).expect(200);
    await show(second.id).expect(200);
    site = await open();
    const slot = Site.parse((await request(site).get('/api/site')).body)
      .pages.flatMap((p) => p.slots)
      .find((s) => s.slot.id === 'blog-header')!;
    expect([slot.now?.id, slot.earlier.map((e) => e.id)]).toEqual([second.id, [first.id]]);
    expect((await request(site).get('/blog')).text).toContain('b.jpg');
    await show(null).expect(200);
    expect((await request(site).get('/blog')).text).not.toContain('<img');
    await show('nonsense').expect(404);
  });

  it('takes a drawing that draws, and shows it so that it can do nothing else', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="32" height="32" viewBox="0 0 8 8"><metadata>m</metadata><circle r="4"/></svg>';
    const sent = SentPicture.parse((await send({ name: 'mark.svg' }, Buffer.from(svg))).body);
    expect(sent).toMatchObject({ type: 'svg', width: 32, height: 32 });
    const shown = await request(site).get(new URL(sent.address).pathname).expect(200);
    expect(shown.headers['content-type']).toMatch(/^image\/svg\+xml/);
    expect(shown.headers['content-security-policy']).toContain('sandbox');
    expect(String(shown.body)).toBe(svg);
    // Under a name that says it is something else it is not taken.
    const disguised = await send({ name: 'mark.jpg' }, Buffer.from(svg));
    expect([disguised.status, Refusal.parse(disguised.body).message]).toEqual([
      422,
      '“mark.jpg” holds SVG, whatever its name ends in. Name it .svg.',
    ]);
  });

  it('refuses a name already used and offers the next free one', async () => {
    await send();
    const again = await send();
    expect(again.status).toBe(409);
    expect(Refusal.parse(again.body).next).toBe('autumn-blog-header-2026-11-24b.jpg');
  });

  it.each([
    ['text called .jpg', Buffer.from('no picture at all'), 'its content is no picture'],
    ['nothing', Buffer.alloc(0), 'empty'],
    [
      'an SVG with a script',
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><script>alert(1)</script></svg>'),
      'does more than draw',
    ],
  ])('refuses %s in words and stores nothing', async (_what, file, sentence) => {
    const answer = await send({}, file);
    expect(answer.status).toBe(422);
    expect(Refusal.parse(answer.body).message).toContain(sentence);
    expect(readdirSync(join(folder, 'pictures'))).toEqual([]);
  });

  it('refuses a picture cut short, a heavy one, an unsafe name and an unknown slot', async () => {
    const whole = await jpeg();
    expect((await send({}, whole.subarray(0, whole.length - 40))).body).toMatchObject({ code: 'cut-short' });
    expect((await send({}, Buffer.alloc(9 * 1024 * 1024))).status).toBe(413);
    expect((await send({ name: '../x.jpg' })).body).toMatchObject({ code: 'name' });
    expect((await send({ slot: 'nowhere' })).body).toMatchObject({ code: 'no-slot' });
  });

  it('shows in a slot only what was sent for it', async () => {
    const { id } = SentPicture.parse((await send()).body);
    const shown = await request(site).put('/api/slots/shop-card').set('Origin', appOrigin).send({ picture: id });
    expect([shown.status, Refusal.parse(shown.body).code]).not.toContain(200);
    expect(Refusal.parse(shown.body).message).toMatch(/another place|no such slot/);
  });
  it('of two sent at the same moment under one name one wins, and the other is told the next', async () => {
    const answers = await Promise.all([send(), send(), send()]);
    expect(answers.map((a) => a.status).sort()).toEqual([201, 409, 409]);
    expect(readdirSync(join(folder, 'pictures'))).toHaveLength(1);
  });
  it('has a quota, and says so', async () => {
    const store = await openSiteStore(folder);
    const one = { name: 'x.jpg', type: 'jpeg', width: 1, height: 1, bytes: 1, alt: '', slot: 'blog-header' } as const;
    const full = {
      ...store,
      pictures: () =>
        Array.from({ length: MOST_PICTURES }, (_, i) => ({
          ...one,
          id: `${i}`,
          sent: '',
          graphic: { id: '', name: '' },
        })),
    };
    site = over(full);
    const answer = await send();
    expect([answer.status, Refusal.parse(answer.body).code]).toEqual([507, 'full']);
  });

  it('listens to the app’s origin alone', async () => {
    expect(
      (
        await request(site)
          .put('/api/slots/blog-header')
          .set('Origin', 'http://elsewhere.example')
          .send({ picture: null })
      ).status,
    ).toBe(403);
    expect((await request(site).put('/api/slots/blog-header').send({ picture: null })).status).toBe(403);
    expect((await request(site).get('/api/site').set('Origin', appOrigin)).headers['access-control-allow-origin']).toBe(
      appOrigin,
    );
  });

  it('answers malformed JSON in words', async () => {
    const answer = await request(site)
      .put('/api/slots/blog-header')
      .set('Origin', appOrigin)
      .set('Content-Type', 'application/json')
      .send('{"picture":');
    expect(answer.status).toBe(400);
    expect(Refusal.parse(answer.body).message).toContain('could not read');
  });
});

it('sets a damaged memory aside and starts with an empty one', async () => {
  writeFileSync(join(folder, 'site.json'), '{"version":1,"pictures":');
  site = await open();
  expect(Site.parse((await request(site).get('/api/site')).body).names).toEqual([]);
  expect(readdirSync(folder).some((f) => f.startsWith('site.json.unreadable'))).toBe(true);
});

it('shows the house’s own picture in a slot that nothing was ever sent to, and serves every kind of page', async () => {
  const pages = Site.parse((await request(site).get('/api/site')).body).pages;
  expect(new Set(pages.map((p) => p.kind)).size).toBe(14);
  for (const { path, slots } of pages) {
    const page = await request(site).get(path).expect(200);
    for (const { slot } of slots) {
      const { id } = slot;
      const shown = new RegExp(`data-slot="${id}"><img src="(/first/${id}\\.\\w+)"`).exec(page.text);
      expect([id, shown?.[1]]).toEqual([id, expect.any(String)]);
      await request(site).get(shown![1]!).expect(200);
    }
    await request(site).get(`${path}.css`).expect('Content-Type', /css/).expect(200);
  }
});

it('serves the shelf and its pictures, and nothing outside the folder', async () => {
  const shelf = (await request(site).get('/api/shelf')).body as { file: string }[];
  expect(shelf.length).toBeGreaterThan(10);
  await request(site).get(`/shelf/${shelf[0]!.file}`).expect(200);
  await request(site).get('/shelf/..%2f..%2fpackage.json').expect(404);
});

describe('the app’s own server', () => {
  const web = mkdtempSync(join(tmpdir(), 'web-'));
  mkdirSync(web, { recursive: true });
  writeFileSync(join(web, 'index.html'), '<bs-root ngCspNonce="__NONCE__"></bs-root><meta content="__SITE_ORIGIN__">');
  afterAll(() => rmSync(web, { recursive: true, force: true }));

  it('gives each response a nonce of its own, and a policy without inline script', async () => {
    const app = appServer({ web, appOrigin, siteOrigin });
    const one = await request(app).get('/graphics/abc');
    const two = await request(app).get('/');
    const nonce = (r: { text: string }) => /ngCspNonce="([^"]+)"/.exec(r.text)![1]!;
    expect(nonce(one)).not.toBe(nonce(two));
    const policy = one.headers['content-security-policy']!;
    expect(policy).toContain(`'nonce-${nonce(one)}'`);
    expect(/script-src ([^;]+)/.exec(policy)![1]).toBe("'self' 'wasm-unsafe-eval'");
    expect(one.text).toContain(siteOrigin);
    expect(one.headers['cache-control']).toBe('no-store');
    expect(one.headers['strict-transport-security']).toBeUndefined();
  });
  it('lets functions be made from text in two workers alone, which reach nothing else', async () => {
    for (const folder of ['subject', 'unpack']) mkdirSync(join(web, folder), { recursive: true });
    writeFileSync(join(web, 'unpack/unpack.js'), '1');
    for (const file of ['subject.js', 'opencv.js']) writeFileSync(join(web, 'subject', file), '1');
    const app = appServer({ web, appOrigin, siteOrigin });
    const policy = async (path: string) => (await request(app).get(path)).headers['content-security-policy']!;
    for (const path of ['/subject/subject.js', '/unpack/unpack.js'])
      expect(await policy(path)).toBe("default-src 'none'; script-src 'self' 'unsafe-eval'; connect-src data:");
    for (const path of ['/', '/subject/opencv.js', '/subject/subject.js.map'])
      expect(await policy(path)).not.toContain("'unsafe-eval'");
  });
  it('does not answer for files that are not there', async () => {
    await request(appServer({ web, appOrigin, siteOrigin })).get('/chunk-GONE.js').expect(404);
  });
  it('lists what may be fetched ahead', async () => {
    mkdirSync(join(web, 'wasm'), { recursive: true });
    writeFileSync(join(web, 'wasm/a.wasm'), '1');
    writeFileSync(join(web, 'chunk-ABCD1234.js'), '1');
    const list = (await request(appServer({ web, appOrigin, siteOrigin })).get('/ahead.json')).body as object;
    expect(list).toMatchObject({ code: ['/chunk-ABCD1234.js'], files: ['/wasm/a.wasm'] });
  });
  it('has pictures fetched for its own pages alone: that is looked at before anything is read', async () => {
    const app = appServer({ web, appOrigin, siteOrigin });
    const ask = (origin: string, body: string) =>
      request(app).post('/api/picture').set('Origin', origin).set('Content-Type', 'application/json').send(body);
    expect((await ask('http://elsewhere.example', '{"torn')).status).toBe(403);
    expect((await ask('http://elsewhere.example', `"${'x'.repeat(20_000)}"`)).status).toBe(403);
    expect((await ask(appOrigin, '{"torn')).status).toBe(400);
    expect((await ask(appOrigin, '{"address":7}')).status).toBe(400);
    expect((await ask(appOrigin, `"${'x'.repeat(20_000)}"`)).status).toBe(413);
  });
});

describe('both servers', () => {
  const apps = (): [string, Express][] => [
    ['the app’s', appServer({ web: demo, appOrigin, siteOrigin })],
    ['the site’s', site],
  ];
  it('answer under their own names alone, whatever is asked', async () => {
    for (const [, app] of apps())
      for (const [host, status] of [
        ['evil.example', 421],
        ['evil.example:4600', 421],
        ['localhost:4600.evil.example', 421],
        ['localhost@evil.example', 421],
        ['', 421],
      ] as const) {
        const answer = await request(app).get('/api/site').set('Host', host);
        expect([host, answer.status === 400 ? 421 : answer.status]).toEqual([host, status]);
      }
    await request(site).get('/api/site').set('Host', 'localhost:4601').expect(200);
  });
  it('say every error in a sentence of JSON with its status, and nothing of their own', async () => {
    const asked: [string, string][] = [
      ['get', '/shelf/%'],
      ['get', '/pictures/%E0%A4%A/x.jpg'],
      ['get', '/%c0%ae%c0%ae/etc/passwd'],
      ['get', '/pictures/none/x.jpg'],
      ['get', '/nothing.here'],
      ['put', '/api/slots/%'],
      ['delete', '/api/pictures'],
    ];
    for (const [name, app] of apps())
      for (const [method, path] of asked) {
        const answer = await (request(app) as unknown as Record<string, (p: string) => request.Test>)[method]!(
          path,
        ).set('Origin', appOrigin);
        const seen = [name, method, path, answer.status];
        if (answer.status === 200) {
          // The app answers any path without an ending with its page.
          expect([...seen, answer.type]).toEqual([...seen, 'text/html']);
          continue;
        }
        expect([...seen, answer.status >= 400 && answer.status < 500]).toEqual([...seen, true]);
        expect(Refusal.parse(answer.body).message).toMatch(/^[A-Z].*\.$/);
        expect(answer.text).not.toMatch(/node_modules|at .*\(|\/work\/|Error:/);
      }
  });
  it('state what the browser may be asked for', async () => {
    for (const [, app] of apps())
      expect((await request(app).get('/api/site')).headers['permissions-policy']).toContain('camera=()');
    expect((await request(apps()[0]![1]).get('/x.js')).headers['content-security-policy']).not.toMatch(
      /worker-src[^;]*blob:/,
    );
  });
});

import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { createHash } from 'node:crypto';
import sharp from 'sharp';
import { differenceOf, liveOf, type Looked, type RelayLine, type WayIn } from '@bright-slot/core';
import { demo as pottery } from '../../../demo/src/index';
import { Relay } from '../relay/relay';
import { asProblem } from '../relay/remote';
import { DOOR } from './doors';
import { siteServer } from './server';
import { standIn } from './stand-in';
import { openSiteStore } from './store';

const demo = resolve(import.meta.dirname, '../../../demo');
const never = new AbortController().signal;
const relay = new Relay({ ownNetwork: true });
const secret = { password: DOOR.password, key: '' };
const own = { plain: false, ownNetwork: false };
let folder: string;
let server: Server;
let origin: string;
let picture: Buffer;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'doors-'));
  const played = { record: pottery.site, slots: pottery.slots, sets: pottery.sets, first: join(demo, 'site') };
  const store = await openSiteStore(folder);
  const given: { app?: ReturnType<typeof siteServer> } = {};
  server = createServer((from, to) => void given.app!(from, to));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  origin = `http://localhost:${(server.address() as AddressInfo).port}`;
  given.app = siteServer({
    site: standIn(played, store, origin),
    store,
    demo,
    files: join(folder, 'files'),
    fonts: demo,
    appOrigin: 'http://localhost:1',
    siteOrigin: origin,
  });
  picture = await sharp(join(demo, 'pictures/shelf.jpg')).resize(940, 198).jpeg({ quality: 92 }).toBuffer();
});
afterAll(async () => {
  await new Promise((done) => server.close(done));
  rmSync(folder, { recursive: true, force: true });
});

const ways: Record<string, () => WayIn> = {
  WebDAV: () => ({ kind: 'webdav', address: `${origin}/dav/`, user: DOOR.user, visitors: `${origin}/files/`, ...own }),
  Micropub: () => ({ kind: 'micropub', address: `${origin}/micropub`, ...own }),
  form: () => ({
    kind: 'form',
    address: `${origin}/upload`,
    fileField: 'picture',
    fields: [],
    secretField: 'passcode',
    user: '',
    visitors: `${origin}/files/`,
    ...own,
  }),
};
const put = (name: string, bytes = picture, over: string | null = null) =>
  relay.send(
    {
      do: 'send',
      way: ways['WebDAV']!(),
      secret,
      name,
      over,
      token: `${Math.random().toString(36).slice(2, 12)}abcdef`,
    },
    bytes,
    () => undefined,
    never,
  );
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'done',
    (e: unknown) => asProblem(e).code,
  );
const misbehave = (faults: object) =>
  fetch(`${origin}/api/faults`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json', Origin: origin },
    body: JSON.stringify(faults),
  }).then((r) => expect(r.status).toBe(200));

it.each([
  ['WebDAV', ['signed-in', 'wrote', 'read', 'removed', 'done']],
  ['Micropub', ['signed-in', 'wrote', 'read', 'removed', 'done']],
  ['form', ['signed-in', 'wrote', 'read', 'problem']],
])('speaks %s as real sites do', async (kind, expected) => {
  const lines: RelayLine[] = [];
  await relay.try({ do: 'try', way: ways[kind]!(), secret }, (l) => lines.push(l), never);
  expect(lines.map((l) => (l.at === 'step' ? l.step : l.at))).toEqual(expected);
  if (kind === 'form') expect(lines.at(-1)).toMatchObject({ step: 'removed', code: 'cannot' });
  const wrong: RelayLine[] = [];
  await relay.try({ do: 'try', way: ways[kind]!(), secret: { password: 'x', key: '' } }, (l) => wrong.push(l), never);
  expect(wrong.at(-1)).toMatchObject({ at: 'problem', code: 'sign-in' });
});

// RFC 4918, sections 9.1 (PROPFIND), 9.9.4 (MOVE: 412 where Overwrite is F), 10.4 and RFC 9110, 13.1.2 (If-None-Match).
it('keeps to the conditions of its protocols, and to plain pictures', async () => {
  expect(await codeOf(put('one.jpg'))).toBe('done');
  const auth = `Basic ${Buffer.from(`${DOOR.user}:${DOOR.password}`).toString('base64')}`;
  const dav = (path: string, method: string, headers: Record<string, string> = {}, body?: string) =>
    fetch(`${origin}/dav/${path}`, { method, headers: { Authorization: auth, ...headers }, ...(body ? { body } : {}) });
  const found = await dav('', 'PROPFIND', { Depth: '1' });
  expect([found.status, (await found.text()).includes('/dav/one.jpg')]).toEqual([207, true]);
  expect((await dav('one.jpg', 'PUT', { 'If-None-Match': '*' }, 'x')).status).toBe(412);
  await dav('two.jpg', 'PUT', {}, 'x');
  const onto = { Destination: `${origin}/dav/one.jpg`, Overwrite: 'F' };
  // Its library says so in a multi-status, which a client has to read (section 13).
  const moved = await dav('two.jpg', 'MOVE', onto);
  expect([moved.status, (await moved.text()).includes('412')]).toEqual([207, true]);
  expect(readFileSync(join(folder, 'files/one.jpg')).equals(picture)).toBe(true);
  expect(await codeOf(put('one.jpg', Buffer.from('other')))).toBe('name-taken');
  for (const path of ['..%2Fsite.json', 'page.html', 'a%2Fb.jpg', '%2e%2e/site.json'])
    expect((await dav(path, 'PUT', {}, 'x')).status).toBeGreaterThanOrEqual(400);
  // What was tried by the form cannot be taken away by it.
  const files = readdirSync(join(folder, 'files')).filter((f) => !f.startsWith('bright-slot-test'));
  expect(files.sort()).toEqual(['one.jpg', 'two.jpg']);
  expect((await dav('two.jpg', 'DELETE')).status).toBe(204);
});

describe('misbehaves on request, and is found out', () => {
  let before: string;
  beforeAll(async () => {
    before = await put('live.jpg');
  });
  afterEach(() => misbehave({}));

  /** What a visitor is shown of a picture that was sent, in the word for it. */
  async function word(address: string, sent = picture): Promise<string> {
    const sha = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
    const raw = async (bytes: Buffer) => {
      const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
      return { data: new Uint8ClampedArray(data), width: info.width, height: info.height };
    };
    const [shown, fresh] = [
      await relay.look(address, false, false, never),
      await relay.look(address, false, true, never),
    ];
    const looked: Looked = {
      status: shown.status,
      sha256: sha(shown.bytes),
      fresh: { status: fresh.status, sha256: sha(fresh.bytes) },
      age: Number(shown.headers.age ?? 0),
      size: null,
      difference: shown.status === 200 ? differenceOf(await raw(sent), await raw(shown.bytes)) : null,
    };
    return liveOf({ sha256: sha(sent), width: 940, height: 198 }, looked, 'now').word;
  }

  it.each([
    ['nothing', {}, 'as-sent'],
    ['re-encoding', { reEncoding: 40 }, 're-encoded'],
    ['darkening', { darkening: 0.3 }, 'darkened'],
    ['forgetting', { forgetful: true }, 'gone'],
  ])('by %s', async (_what, faults, expected) => {
    await misbehave(faults);
    expect(await word(before)).toBe(expected);
    // By its way in, its own bytes are read all the same.
    const own = await relay.read({ do: 'read', way: ways['WebDAV']!(), secret, name: 'live.jpg' }, never);
    expect(own.bytes.equals(picture)).toBe(true);
  });

  it('by showing an old copy from a cache', async () => {
    await misbehave({ caching: true });
    await relay.look(before, false, false, never);
    const next = await sharp(picture).flop().jpeg().toBuffer();
    const digest = createHash('sha256').update(picture).digest('hex');
    await put('live.jpg', next, digest);
    expect(await word(before, next)).toBe('cached');
    await misbehave({});
    expect(await word(before, next)).toBe('as-sent');
  });

  it('by being full, and by being slow', async () => {
    await misbehave({ full: true });
    expect(await codeOf(put('more.jpg'))).toBe('full');
    await misbehave({ slow: 700 });
    const hasty = new Relay({ ownNetwork: true, patience: 200 });
    const way = ways['Micropub']!();
    const ask = { do: 'send', way, secret, name: 'more.jpg', over: null, token: 'abcdef012345' } as const;
    expect(await codeOf(hasty.send(ask, picture, () => undefined, never))).toBe('slow');
    expect(readdirSync(join(folder, 'files'))).not.toContain('more.jpg');
  });
});

it('takes the settings of a page, and the page wears them', async () => {
  const colours = { ground: '#101820', words: '#f0f0f0', accent: '#ffcc66', border: null, heading: null };
  const tell = (body: object) =>
    fetch(`${origin}/api/settings`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json', Origin: origin },
      body: JSON.stringify(body),
    }).then((r) => r.status);
  const css = async () => (await fetch(`${origin}/blog.css`)).text();
  const plain = await css();
  expect(await tell({ page: '/blog', colours })).toBe(200);
  expect(await css()).toContain('#101820');
  expect(await tell({ page: '/blog', colours: { ...colours, ground: 'red' } })).toBe(400);
  expect(await tell({ page: '/nowhere', colours })).toBe(400);
  expect(await tell({ page: '/blog', colours: null })).toBe(200);
  expect(await css()).toBe(plain);
});

import { randomBytes, createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, chmodSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { connect, createServer as createTcp, type AddressInfo, type Server as TcpServer } from 'node:net';
import { join } from 'node:path';
import sharp from 'sharp';
import type { RelayAsk, RelayLine, WayIn } from '@bright-slot/core';
import { Relay } from './relay';
import { asProblem } from './remote';
import {
  PASSWORD,
  USER,
  apache,
  certificate,
  nginxDav,
  openSsh,
  pureFtpd,
  type Real,
  type RealSsh,
} from '../testing/servers';

const pair = certificate();
const relay = new Relay({ ownNetwork: true, ca: pair.cert });
const secret = { password: PASSWORD, key: '' };
const never = new AbortController().signal;
const no = { ownNetwork: false, plain: false };

let dav: Real;
let digest: Real;
let plainDav: Real;
let ssh: RealSsh;
let ftp: Real;
let picture: Buffer;
const sha = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

beforeAll(async () => {
  [dav, digest, plainDav, ssh, ftp] = await Promise.all([
    apache({ tls: true, pair }),
    apache({ digest: true, pair }),
    nginxDav(),
    openSsh(),
    pureFtpd({ pair }),
  ]);
  picture = await sharp(randomBytes(300 * 200 * 3), { raw: { width: 300, height: 200, channels: 3 } })
    .jpeg({ quality: 95 })
    .toBuffer();
}, 30_000);
afterAll(() => Promise.all([dav, digest, plainDav, ssh, ftp].map((s) => s.stop())));

const davWay = (port: number, proto = 'https', visitors = port): WayIn => ({
  kind: 'webdav',
  address: `${proto}://localhost:${port}/pics/`,
  user: USER,
  visitors: `${proto}://localhost:${visitors}/pics/`,
  ...no,
});
/** Files by SFTP land where Apache shows them. */
const sftpWay = (port = ssh.port): WayIn => ({
  kind: 'sftp',
  host: 'localhost',
  port,
  user: ssh.user,
  folder: `${dav.folder}/ssh`,
  visitors: `https://localhost:${dav.port}/ssh/`,
  hostKey: ssh.print,
  ownNetwork: false,
});
const ftpWay = (port = ftp.port): WayIn => ({
  kind: 'ftp',
  host: 'localhost',
  port,
  user: USER,
  folder: 'pics',
  visitors: `https://localhost:${dav.port}/`,
  secure: true,
  ...no,
});

async function tried(way: WayIn, given = secret): Promise<RelayLine[]> {
  const lines: RelayLine[] = [];
  await relay.try({ do: 'try', way, secret: given }, (line) => lines.push(line), never);
  return lines;
}
const steps = (lines: RelayLine[]) => lines.map((l) => (l.at === 'step' ? l.step : l.at));

let sends = 0;
function send(
  way: WayIn,
  name: string,
  {
    bytes = picture,
    over = null as string | null,
    by = relay,
    tell = (_: RelayLine) => {},
    token = `${1000 + sends++}token`,
    given = secret,
    signal = never,
  } = {},
): Promise<string> {
  const ask: Extract<RelayAsk, { do: 'send' }> = { do: 'send', way, secret: given, name, over, token };
  return by.send(ask, bytes, tell, signal);
}
const codeOf = async (work: Promise<unknown>) => {
  try {
    await work;
    return 'done';
  } catch (error) {
    return asProblem(error).code;
  }
};

describe('a way in is tried', () => {
  it.each<[string, () => WayIn, () => { password: string; key: string }]>([
    ['Apache’s WebDAV by https', () => davWay(dav.port), () => secret],
    ['Apache’s WebDAV with Digest', () => davWay(digest.port, 'http'), () => secret],
    ['nginx’s WebDAV, without PROPFIND', () => davWay(plainDav.port, 'http'), () => secret],
    ['OpenSSH, by a key', () => sftpWay(), () => ({ password: '', key: ssh.key })],
  ])('%s: signs in, writes, reads as a visitor, removes', async (_what, way, given) => {
    expect(steps(await tried(way(), given()))).toEqual(['signed-in', 'wrote', 'read', 'removed', 'done']);
    // What was there once, and its folder, stays; nothing of the trial does.
    for (const { folder } of [dav, digest, plainDav])
      for (const f of existsSync(join(folder, 'pics')) ? readdirSync(join(folder, 'pics')) : [])
        expect(f).not.toMatch(/test/);
  });

  it('says which of the four failed and why', async () => {
    const wrong = { password: 'nothing', key: '' };
    expect(await tried(davWay(dav.port), wrong)).toMatchObject([{ at: 'problem', step: 'signed-in', code: 'sign-in' }]);
    expect(await tried(sftpWay(), wrong)).toMatchObject([{ at: 'problem', step: 'signed-in', code: 'sign-in' }]);
    expect(await tried(ftpWay(), wrong)).toMatchObject([{ at: 'problem', step: 'signed-in', code: 'sign-in' }]);
    expect(await tried(davWay(plainDav.port, 'http'), wrong)).toMatchObject([
      { at: 'problem', step: 'signed-in', code: 'sign-in' },
    ]);
    // The files are written, but elsewhere than visitors look.
    const ftpTried = await tried(ftpWay());
    expect(steps(ftpTried)).toEqual(['signed-in', 'wrote', 'problem']);
    expect(ftpTried.at(-1)).toMatchObject({ step: 'read', code: 'not-shown' });
    expect(readdirSync(join(ftp.folder, 'pics'))).toEqual([]);
  });

  it('a server met for the first time shows its key as OpenSSH writes it; another key than the one pinned ends it', async () => {
    const given = { password: '', key: ssh.key };
    const first = await tried({ ...sftpWay(), hostKey: null } as WayIn, given);
    expect(first).toMatchObject([{ at: 'problem', code: 'host-key', hostKey: ssh.print }]);
    const other = await tried({ ...sftpWay(), hostKey: `SHA256:${'A'.repeat(43)}` } as WayIn, given);
    expect(other).toMatchObject([{ at: 'problem', code: 'host-key-changed', hostKey: ssh.print }]);
  });

  it('a certificate nobody knows is not trusted, and nothing is sent in the open without a word', async () => {
    const strict = new Relay({ ownNetwork: true });
    expect(await codeOf(send(davWay(dav.port), 'a.jpg', { by: strict }))).toBe('certificate');
    expect(await codeOf(send(ftpWay(), 'a.jpg', { by: strict }))).toBe('certificate');
    expect(await codeOf(send({ ...ftpWay(), secure: false } as WayIn, 'a.jpg'))).toBe('plain-accept');
    const elsewhere = { ...davWay(80, 'http'), address: 'http://files.example/pics/' } as WayIn;
    expect(await codeOf(send(elsewhere, 'a.jpg'))).toBe('plain-accept');
    const openFtp = await pureFtpd({ tls: false });
    const open = { ...ftpWay(openFtp.port), secure: false, plain: true } as WayIn;
    expect(await codeOf(send(open, 'a.jpg'))).toBe('done');
    expect(await codeOf(send({ ...open, secure: true } as WayIn, 'b.jpg'))).toBe('no-tls');
    await openFtp.stop();
  });
});

describe.each<[string, () => WayIn, () => string, () => { password: string; key: string }]>([
  ['WebDAV (Apache)', () => davWay(dav.port), () => join(dav.folder, 'pics'), () => secret],
  ['WebDAV (nginx)', () => davWay(plainDav.port, 'http'), () => join(plainDav.folder, 'pics'), () => secret],
  ['SFTP', () => sftpWay(), () => join(dav.folder, 'ssh'), () => ({ password: '', key: ssh.key })],
  ['FTPS', () => ftpWay(), () => join(ftp.folder, 'pics'), () => secret],
])('sending by %s', (_what, way, folder, given) => {
  it('puts the very bytes there, tells how far it is, and writes over nothing', async () => {
    const told: number[] = [];
    const tell = (l: RelayLine) => void (l.at === 'progress' && told.push(l.sent));
    const address = await send(way(), 'mug.jpg', { tell, given: given() });
    expect(address).toMatch(/\/mug\.jpg$/);
    expect(readFileSync(join(folder(), 'mug.jpg')).equals(picture)).toBe(true);
    expect(told.at(-1)).toBe(picture.length);
    expect(told).toEqual([...told].sort((a, b) => a - b));
    const names = await relay.names({ do: 'names', way: way(), secret: given() }, never);
    if (names) expect(names).toContain('mug.jpg');
    expect(await codeOf(send(way(), 'mug.jpg', { bytes: Buffer.from('other'), given: given() }))).toBe('name-taken');
    expect(readFileSync(join(folder(), 'mug.jpg')).equals(picture)).toBe(true);
  });

  it('takes another’s place only where that is still what was fetched', async () => {
    const next = Buffer.concat([picture, Buffer.from('next')]);
    expect(await codeOf(send(way(), 'mug.jpg', { bytes: next, over: sha(picture), given: given() }))).toBe('done');
    expect(readFileSync(join(folder(), 'mug.jpg')).equals(next)).toBe(true);
    expect(await codeOf(send(way(), 'mug.jpg', { over: sha(picture), given: given() }))).toBe('changed');
    expect(readFileSync(join(folder(), 'mug.jpg')).equals(next)).toBe(true);
  });

  it('of two people who send to one name at one moment, one is told that it is taken', async () => {
    const both = await Promise.all(
      [1, 2].map((n) =>
        codeOf(send(way(), 'both.jpg', { bytes: Buffer.from(`file ${n}`.repeat(900)), given: given() })),
      ),
    );
    // Few servers look and rename in one step, so both may have come through; then one file stands there, whole.
    expect(both).toContain('done');
    for (const code of both) expect(['done', 'name-taken']).toContain(code);
    expect(readFileSync(join(folder(), 'both.jpg'), 'utf8')).toMatch(/^(file 1)+$|^(file 2)+$/);
    expect(readdirSync(folder()).filter((f) => f.includes('part'))).toEqual([]);
  });

  it('takes it away again', async () => {
    await relay.remove({ do: 'remove', way: way(), secret: given(), name: 'mug.jpg', address: '' }, never);
    expect(readdirSync(folder())).not.toContain('mug.jpg');
  });
});

/** Hands on what comes to a port, and once cuts whatever connection is on after a number of bytes in all. */
function cutter(port: number, after: number): Promise<{ server: TcpServer; port: number }> {
  let left = after;
  const server = createTcp((from) => {
    const to = connect({ host: '127.0.0.1', port });
    from.on('data', (part: Buffer) => {
      if (left <= 0) return void to.write(part);
      to.write(part.subarray(0, left));
      left -= part.length;
      if (left > 0) return;
      from.destroy();
      to.destroy();
    });
    to.on('data', (part: Buffer) => from.write(part));
    for (const [a, b] of [
      [from, to],
      [to, from],
    ] as const) {
      a.on('close', () => b.destroy());
      a.on('error', () => b.destroy());
    }
  });
  return new Promise((done) =>
    server.listen(0, '127.0.0.1', () => done({ server, port: (server.address() as AddressInfo).port })),
  );
}

it('a net that is cut at any tenth of the file leaves nothing half there, and the next try is whole', async () => {
  const large = randomBytes(400_000);
  type Try = [string, (port: number) => WayIn, number, string, { password: string; key: string }];
  const tries: Try[] = [
    ['dav', (p) => davWay(p), dav.port, join(dav.folder, 'pics'), secret],
    ['sftp', (p) => sftpWay(p), ssh.port, join(dav.folder, 'ssh'), { password: '', key: ssh.key }],
  ];
  const cut = async ([what, way, port, folder, given]: Try, tenth: number) => {
    const proxy = await cutter(port, Math.round((large.length * tenth) / 10.5));
    const name = `cut-${what}-${tenth}.jpg`;
    const sent = { bytes: large, token: `again${tenth}${what}0000`, given };
    const first = await codeOf(send(way(proxy.port), name, sent));
    if (first !== 'done') {
      expect(readdirSync(folder)).not.toContain(name);
      expect(await codeOf(send(way(proxy.port), name, sent))).toBe('done');
    }
    expect(readFileSync(join(folder, name)).equals(large)).toBe(true);
    proxy.server.close();
    return first;
  };
  const tenths = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
  for (const each of tries) {
    const first = await Promise.all(tenths.map((tenth) => cut(each, tenth)));
    expect(new Set(first)).toEqual(new Set(['cut-off']));
    expect(readdirSync(each[3]).filter((f) => f.includes('part'))).toEqual([]);
  }
});

describe('sites that are full, closed, or say nothing', () => {
  it('a full disk is told, and nothing of the file is left', async () => {
    const large = randomBytes(6 * 2 ** 20);
    // The server cuts the data off and says why on the other connection: whichever is heard first.
    expect(['full', 'cut-off']).toContain(await codeOf(send(ftpWay(), 'large.jpg', { bytes: large })));
    expect(readdirSync(join(ftp.folder, 'pics'))).not.toContain('large.jpg');
    expect(readdirSync(join(ftp.folder, 'pics')).filter((f) => f.includes('part'))).toEqual([]);
  });

  it('a folder that may not be written to is told', async () => {
    const closed = join(dav.folder, 'pics');
    chmodSync(closed, 0o555);
    expect(['forbidden', 'site']).toContain(await codeOf(send(davWay(dav.port), 'shut.jpg')));
    chmodSync(closed, 0o755);
    expect(existsSync(join(closed, 'shut.jpg'))).toBe(false);
  });

  it('a site that takes the connection and says nothing is given up', async () => {
    const silent = createTcp((socket) => socket.on('error', () => {}).resume()).listen(0, '127.0.0.1');
    await new Promise((done) => silent.once('listening', done));
    const { port } = silent.address() as AddressInfo;
    const hasty = new Relay({ ownNetwork: true, ca: pair.cert, patience: 250 });
    for (const way of [davWay(port), ftpWay(port), sftpWay(port)])
      expect(['slow', 'cut-off']).toContain(await codeOf(send(way, 'a.jpg', { by: hasty })));
    silent.close();
  });

  it('is called off when nobody wants it any more', async () => {
    const off = new AbortController();
    const tell = (l: RelayLine) => void (l.at === 'progress' && off.abort());
    const way = sftpWay();
    const given = { password: '', key: ssh.key };
    const bytes = randomBytes(3_000_000);
    expect(await codeOf(send(way, 'off.jpg', { bytes, signal: off.signal, tell, given }))).toBe('cancelled');
    expect(readdirSync(join(dav.folder, 'ssh')).filter((f) => f.startsWith('off'))).toEqual([]);
  });
});

/** A web server that answers as it is told, and keeps what it was sent. */
async function web(answer: (asked: IncomingMessage, body: Buffer, to: ServerResponse) => void) {
  const asked: { method: string; url: string; headers: IncomingMessage['headers']; body: Buffer }[] = [];
  const server: Server = createServer((from, to) => {
    const parts: Buffer[] = [];
    from.on('data', (p: Buffer) => parts.push(p));
    from.on('end', () => {
      const body = Buffer.concat(parts);
      asked.push({ method: from.method!, url: from.url!, headers: from.headers, body });
      answer(from, body, to);
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  return { asked, port, stop: () => new Promise((done) => server.close(done)) };
}

// W3C Recommendation Micropub (23 May 2017), sections 3.6.3 “Request”, 3.6.4 “Response”, 3.7.1 “Configuration”.
it('a media endpoint is found, sent its part `file`, and believed where the file is', async () => {
  const files = new Map<string, Buffer>();
  const site = await web((from, body, to) => {
    if (from.headers.authorization !== `Bearer ${PASSWORD}`)
      return void to.writeHead(401).end('{"error":"unauthorized"}');
    const { port } = site;
    if (from.url === '/micropub?q=config')
      return void to
        .writeHead(200, { 'Content-Type': 'application/json' })
        .end(JSON.stringify({ 'media-endpoint': `http://localhost:${port}/media` }));
    if (from.url === '/media') {
      const head = body.subarray(0, 400).toString('latin1');
      const sent = /name="file"; filename="([^"]+)"\r\nContent-Type: image\/(jpeg|png)\r\n\r\n/.exec(head);
      if (!sent)
        return void to.writeHead(400).end('{"error":"invalid_request","error_description":"No part called file"}');
      files.set(
        '/f/ff176c461dd111e6b6ba3e1d05defe78',
        body.subarray(sent.index + sent[0].length, body.lastIndexOf('\r\n--')),
      );
      return void to.writeHead(201, { Location: `http://localhost:${port}/f/ff176c461dd111e6b6ba3e1d05defe78` }).end();
    }
    if (from.url === '/micropub' && body.toString().startsWith('action=delete')) {
      files.delete(new URL(new URLSearchParams(body.toString()).get('url')!).pathname);
      return void to.writeHead(204).end();
    }
    to.writeHead(404).end();
  });
  // What visitors get asks for no token.
  const shown = await web(
    (from, _body, to) => void to.writeHead(files.has(from.url!) ? 200 : 404).end(files.get(from.url!)),
  );
  const way: WayIn = { kind: 'micropub', address: `http://localhost:${site.port}/micropub`, ...no };
  const address = await send(way, 'mug.jpg');
  expect(address).toBe(`http://localhost:${site.port}/f/ff176c461dd111e6b6ba3e1d05defe78`);
  expect(files.get(new URL(address).pathname)!.equals(picture)).toBe(true);
  await relay.remove({ do: 'remove', way, secret, name: 'mug.jpg', address }, never);
  expect(files.size).toBe(0);
  expect(await codeOf(send(way, 'mug.jpg', { given: { password: 'x', key: '' } }))).toBe('sign-in');
  await Promise.all([site.stop(), shown.stop()]);
});

it('a form gets its own fields, and is believed where the file is, or taken to keep the name', async () => {
  const site = await web((from, _body, to) => {
    if (from.url === '/says') to.writeHead(200, { 'Content-Type': 'application/json' }).end('{"url":"/up/7.jpg"}');
    else if (from.url === '/leads') to.writeHead(303, { Location: '/thanks' }).end();
    else to.writeHead(413).end();
  });
  const way = (path: string): WayIn => ({
    kind: 'form',
    address: `http://localhost:${site.port}${path}`,
    fileField: 'upload[picture]',
    fields: [{ name: 'title', value: 'Sent: {name}' }],
    secretField: 'passcode',
    user: '',
    visitors: `http://localhost:${site.port}/up/`,
    ...no,
  });
  expect(await send(way('/says'), 'a.jpg')).toBe(`http://localhost:${site.port}/up/7.jpg`);
  expect(await send(way('/leads'), 'a.jpg')).toBe(`http://localhost:${site.port}/up/a.jpg`);
  expect(await codeOf(send(way('/large'), 'a.jpg'))).toBe('too-heavy');
  const text = site.asked[0]!.body.toString('latin1');
  for (const part of ['name="upload[picture]"; filename="a.jpg"', 'Sent: a.jpg', `name="passcode"\r\n\r\n${PASSWORD}`])
    expect(text).toContain(part);
  await site.stop();
});

describe('where the relay goes', () => {
  const outside = '93.184.216.34';
  it('not to this computer’s network unless that was named, whatever a name says the second time', async () => {
    let asked = 0;
    const answers = [outside, '127.0.0.1'];
    const lookup = ((_name: string, _options: unknown, done: (e: null, a: unknown) => void) =>
      done(null, [{ address: answers[Math.min(asked++, 1)]!, family: 4 }])) as never;
    const turning = new Relay({ ownNetwork: true, lookup, patience: 300 });
    const way = { ...davWay(dav.port), address: `https://files.example:${dav.port}/` } as WayIn;
    // The first connection would go out; every later one is looked at again.
    await codeOf(send(way, 'a.jpg', { by: turning }));
    expect(await codeOf(send(way, 'a.jpg', { by: turning }))).toBe('not-public');
    expect(asked).toBeGreaterThan(1);
    const meant = { ...way, ownNetwork: true } as WayIn;
    expect(await codeOf(send(meant, 'a.jpg', { by: turning }))).toBe('certificate');
    // On a server that is not the person's own computer, nothing of its network is anyone's to name.
    const hosted = new Relay({ ownNetwork: false, ca: pair.cert });
    expect(await codeOf(send(davWay(dav.port), 'a.jpg', { by: hosted }))).toBe('not-public');
    expect(await codeOf(send(sftpWay(), 'a.jpg', { by: hosted }))).toBe('not-public');
    expect(await codeOf(send(ftpWay(), 'a.jpg', { by: hosted }))).toBe('not-public');
  });

  it('not on to a host that was not named, with what signs in or without', async () => {
    const inside = await web((_from, _body, to) => void to.writeHead(200).end('secret'));
    const leads = await web(
      (_from, _body, to) => void to.writeHead(302, { Location: `http://127.0.0.1:${inside.port}/secret` }).end(),
    );
    const look = (address: string) => relay.look(address, false, false, never);
    expect(await codeOf(look(`http://localhost:${leads.port}/a.png`))).toBe('not-public');
    expect(['leads-on', 'no-folder']).toContain(await codeOf(send(davWay(leads.port, 'http'), 'a.jpg')));
    expect(inside.asked).toEqual([]);
    await Promise.all([inside.stop(), leads.stop()]);
  });

  it('a site that lies about size or kind is found out by its bytes', async () => {
    const lies = await web((from, _body, to) => {
      if (from.url === '/short') {
        to.writeHead(200, { 'Content-Length': '5000' });
        to.write('short');
        to.destroy();
      } else if (from.url === '/long') to.writeHead(200, { 'Content-Length': '3' }).end('abc');
      else to.writeHead(200, { 'Content-Type': 'text/html' }).end(picture);
    });
    const look = (path: string) => relay.look(`http://localhost:${lies.port}${path}`, false, false, never);
    expect(await codeOf(look('/short'))).toBe('cut-off');
    expect((await look('/picture')).bytes.equals(picture)).toBe(true);
    await lies.stop();
  });
});

it('nothing that signs in is told or logged, whatever goes wrong', async () => {
  const logged: unknown[] = [];
  const { log, error } = console;
  console.log = console.error = (...all: unknown[]) => void logged.push(...all);
  const said: unknown[] = [];
  try {
    for (const way of [
      davWay(dav.port),
      davWay(1),
      sftpWay(),
      ftpWay(),
      { ...ftpWay(), folder: 'no/\u00fc' } as WayIn,
    ]) {
      said.push(await tried(way));
      await send(way, 'x.jpg').catch((e: unknown) => said.push(asProblem(e).message, asProblem(e).more));
    }
  } finally {
    Object.assign(console, { log, error });
  }
  expect(JSON.stringify([logged, said])).not.toContain(PASSWORD);
});

import { createHash, timingSafeEqual, randomUUID } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { readFile, readdir, stat, unlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Router, json, urlencoded, type RequestHandler } from 'express';
import multer from 'multer';
import nephele from 'nephele';
import FileSystemAdapter from '@nephele/adapter-file-system';
import NoneAuthenticator from '@nephele/authenticator-none';
import * as z from 'zod';
import {
  endingFor,
  fileFormats,
  formatNamed,
  identify,
  isFileFormat,
  isSafeName,
  nextFreeName,
  pictureFormats,
} from '@bright-slot/core';
import { said } from '../guard';
import { drawsOnly } from './drawings';
import { Faults, type FaultyWays } from './faults';

/** What opens the stand-in's doors. It runs on this computer only, and holds nothing of anyone's. */
export const DOOR = { user: 'otter', password: 'mill' } as const;
/** Most that it takes in one file, and all files of its folder may weigh, bytes. */
const MOST_FILE = 8 * 2 ** 20;
const MOST_FOLDER = 200 * 2 ** 20;

const same = (a: string, b: string) =>
  timingSafeEqual(createHash('sha256').update(a).digest(), createHash('sha256').update(b).digest());

/** Basic (RFC 7617): the name and the password of the doors. */
const signedIn: RequestHandler = (request, response, next) => {
  const given = /^Basic (.+)$/i.exec(request.get('authorization') ?? '')?.[1] ?? '';
  if (same(Buffer.from(given, 'base64').toString('utf8'), `${DOOR.user}:${DOOR.password}`)) return next();
  response.setHeader('WWW-Authenticate', 'Basic realm="files"');
  response.status(401).json(said('sign-in', 'Sign in first.'));
};

/** Bearer (RFC 6750), or `access_token` in a form: Micropub, section 3.1 of its text. */
const withToken: RequestHandler = (request, response, next) => {
  const token = /^Bearer (.+)$/i.exec(request.get('authorization') ?? '')?.[1] ?? '';
  if (same(token, DOOR.password)) return next();
  response.status(401).json({ error: 'unauthorized', error_description: 'That token is not known here.' });
};

/**
 * The ways by which the stand-in takes files as real sites do: WebDAV, Micropub's media endpoint and a form, all into one
 * folder, which visitors see under `/files/`.
 */
export function doors(folder: string, origin: string, ways: FaultyWays): Router {
  mkdirSync(folder, { recursive: true });
  const router = Router();
  const fileOf = (name: string) => (isSafeName(name) ? join(folder, name) : null);
  const upload = multer({ storage: multer.memoryStorage(), limits: { fileSize: MOST_FILE, files: 1, fields: 8 } });
  const room = async () => {
    const names = await readdir(folder);
    const sizes = await Promise.all(names.map((n) => stat(join(folder, n)).then((s) => s.size)));
    return sizes.reduce((a, b) => a + b, 0) < MOST_FOLDER;
  };
  /** Keeps a picture under its name, or the next free one. Gives its address; null where it is none. */
  const keep = async (bytes: Buffer, name: string): Promise<string | null> => {
    const facts = identify(bytes, name);
    if (!facts.ok || !isFileFormat(facts.value.type)) return null;
    const { type } = facts.value;
    if (type === 'svg' && !drawsOnly(bytes, name)) return null;
    let free = isSafeName(name) && formatNamed(name) === type ? name : `${randomUUID()}.${endingFor(type)}`;
    for (;;) {
      const taken = await writeFile(join(folder, free), bytes, { flag: 'wx' }).then(
        () => false,
        (e: NodeJS.ErrnoException) => {
          if (e.code === 'EEXIST') return true;
          throw e;
        },
      );
      if (!taken) return `${origin}/files/${free}`;
      free = nextFreeName(free, new Set([...(await readdir(folder)), free]));
    }
  };

  router.use(['/files', '/dav', '/micropub', '/upload'], ways.before);

  router.get('/files/:name', async (request, response) => {
    const file = fileOf(request.params.name);
    const bytes = file ? await readFile(file).catch(() => null) : null;
    const shown = await ways.shown(request.originalUrl, bytes);
    if (!shown) {
      response.status(404).json(said('not-found', 'There is no such picture.'));
      return;
    }
    const facts = identify(shown.bytes, request.params.name);
    response.type(facts.ok ? pictureFormats[facts.value.type].mime : 'application/octet-stream');
    response.setHeader('Cache-Control', 'no-cache');
    if (shown.age !== null) response.setHeader('Age', String(shown.age));
    response.send(shown.bytes);
  });

  router.use('/dav', signedIn, async (request, response, next) => {
    // Pictures under names that are sound in addresses, and nothing else.
    const path = decodeURIComponent(request.path).replace(/^\//, '');
    if (path && !isSafeName(path)) {
      request.resume();
      response.status(request.method === 'PUT' ? 403 : 404).json(said('name', 'Only pictures by a plain name.'));
      return;
    }
    if (request.method === 'PUT' && (Number(request.get('content-length') ?? 0) > MOST_FILE || !(await room()))) {
      request.resume();
      response.status(507).json(said('full', 'The site has no room left.'));
      return;
    }
    next();
  });
  router.use(
    '/dav',
    nephele({ adapter: new FileSystemAdapter({ root: folder }), authenticator: new NoneAuthenticator() }),
  );

  router.get('/micropub', withToken, (_request, response) => {
    response.json({ 'media-endpoint': `${origin}/micropub/media`, 'syndicate-to': [] });
  });
  router.post('/micropub/media', withToken, upload.single('file'), async (request, response) => {
    const address = request.file && (await room()) && (await keep(request.file.buffer, request.file.originalname));
    if (address) response.status(201).setHeader('Location', address).end();
    else
      response.status(400).json({
        error: 'invalid_request',
        error_description: `A picture is wanted (${fileFormats.join(', ')}), as the part called file.`,
      });
  });
  router.post('/micropub', withToken, urlencoded({ extended: false, limit: '8kb' }), async (request, response) => {
    const asked = z.object({ action: z.literal('delete'), url: z.string() }).safeParse(request.body);
    const name = asked.success ? asked.data.url.split('/').pop()! : '';
    const file = asked.success && asked.data.url.startsWith(`${origin}/files/`) ? fileOf(name) : null;
    const gone =
      file &&
      (await unlink(file).then(
        () => true,
        () => false,
      ));
    if (gone) response.status(204).end();
    else response.status(400).json({ error: 'invalid_request', error_description: 'There is no such file here.' });
  });

  router.post('/upload', upload.single('picture'), async (request, response) => {
    const { passcode } = request.body as { passcode?: unknown };
    if (!same(String(passcode), DOOR.password)) {
      response.status(401).json(said('sign-in', 'That passcode is not known here.'));
      return;
    }
    const address = request.file && (await room()) && (await keep(request.file.buffer, request.file.originalname));
    if (address) response.json({ url: address });
    else response.status(415).json(said('type', 'A picture is wanted.'));
  });

  router.get('/api/faults', (_request, response) => {
    response.json(ways.faults);
  });
  router.put('/api/faults', json({ limit: '4kb' }), (request, response) => {
    const faults = Faults.safeParse(request.body);
    if (!faults.success) {
      response.status(400).json(said('malformed', 'Those are no faults it knows.'));
      return;
    }
    ways.set(faults.data);
    response.json(ways.faults);
  });
  return router;
}

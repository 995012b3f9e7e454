import { existsSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import compression from 'compression';
import cors from 'cors';
import express, { type Express } from 'express';
import helmet from 'helmet';
import multer from 'multer';
import * as z from 'zod';
import { PageColours, ShelfPicture, escapeHtml, families, pictureFormats } from '@bright-slot/core';
import { hostGuard, nothingThere, permissions, said, sentences } from '../guard';
import { quietDrawings } from './drawings';
import { doors } from './doors';
import { FaultyWays } from './faults';
import type { StandIn } from './stand-in';
import type { SiteStore } from './store';

/** Most a picture sent to the site may weigh. */
export const MOST_UPLOAD = 8 * 1024 * 1024;

interface Options {
  site: StandIn;
  store: SiteStore;
  /** Folder with the pictures of its shelf, and with what its pages showed at first. */
  demo: string;
  /** Folder for the files that come by the doors of real sites. */
  files: string;
  /** Folder with the type the pages use. */
  fonts: string;
  appOrigin: string;
  siteOrigin: string;
}

const fontCss = `${families.map(({ name, file, weights }) => `@font-face{font-family:'${name} Variable';src:url(/type/${file}.woff2) format('woff2');font-weight:${weights.join(' ')};font-display:swap}`).join('\n')}
html,body{margin:0;height:100%}`;

/** The statuses of what the site says no to; what is not here is a picture that cannot be taken (422). */
const statuses = new Map([
  ['no-slot', 404],
  ['no-picture', 404],
  ['other-slot', 409],
  ['name-taken', 409],
  ['full', 507],
]);

/** The stand-in for the outside: a site's pages, its picture store and its photo shelf, on an origin of its own. */
export function siteServer({ site, store, demo, files, fonts, appOrigin, siteOrigin }: Options): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(hostGuard(siteOrigin));
  app.use(permissions);
  app.use(
    helmet({
      strictTransportSecurity: false,
      crossOriginResourcePolicy: { policy: 'cross-origin' },
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          imgSrc: ["'self'"],
          styleSrc: ["'self'"],
          fontSrc: ["'self'"],
          baseUri: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
    }),
  );
  app.use(quietDrawings);
  app.use(compression());

  // Only the app may talk to the API from a browser; a page elsewhere is refused before anything is read.
  app.use('/api', (request, response, next) => {
    const origin = request.get('origin');
    if (origin !== undefined && origin !== appOrigin && origin !== siteOrigin) {
      response.status(403).json({ code: 'origin', message: 'This site takes pictures from Bright Slot only.' });
      return;
    }
    if (request.method !== 'GET' && request.method !== 'OPTIONS' && origin === undefined) {
      response.status(403).json({ code: 'origin', message: 'This site takes pictures from Bright Slot only.' });
      return;
    }
    next();
  });
  app.use(
    ['/api', '/shelf', '/pictures', '/thumbs', '/shots'],
    cors({ origin: appOrigin, methods: ['GET', 'POST', 'PUT', 'DELETE'], allowedHeaders: ['Content-Type'] }),
  );

  app.use(doors(files, siteOrigin, new FaultyWays()));

  app.get('/api/site', async (_request, response) => {
    response.setHeader('Cache-Control', 'no-store');
    response.json(await site.list());
  });

  const upload = multer({
    storage: multer.memoryStorage(),
    limits: { fileSize: MOST_UPLOAD, files: 1, fields: 8, fieldSize: 4096 },
  });
  app.post('/api/pictures', upload.single('file'), async (request, response) => {
    const answer = await site.put(request.file?.buffer, request.body as unknown);
    if (answer.ok) response.status(201).json(answer.value);
    else response.status(statuses.get(answer.problem.code) ?? 422).json(answer.problem);
  });

  const Show = z.union([
    z.object({ picture: z.string().nullable() }),
    z.object({ row: z.array(z.string().max(100)).min(1).max(60) }),
  ]);
  app.put('/api/slots/:slot', express.json({ limit: '4kb' }), async (request, response) => {
    const slot = String(request.params['slot']);
    const body = Show.safeParse(request.body);
    if (!body.success) {
      response.status(400).json(said('malformed', 'The site could not read what was sent. Try again.'));
      return;
    }
    const { data } = body;
    const answer =
      'row' in data
        ? await site.showRow(slot, data.row)
        : data.picture === null
          ? await site.withdraw(slot)
          : await site.show(slot, data.picture);
    if (answer.ok) response.json({ shown: 'row' in data ? data.row[0] : data.picture });
    else response.status(statuses.get(answer.problem.code) ?? 422).json(answer.problem);
  });

  const Told = z.object({ page: z.string().max(200), colours: PageColours.nullable() });
  app.put('/api/settings', express.json({ limit: '4kb' }), async (request, response) => {
    const told = Told.safeParse(request.body);
    if (!told.success || !site.paths.includes(told.data.page)) {
      response.status(400).json(said('malformed', 'The site could not read those settings. Nothing was changed.'));
      return;
    }
    await store.set(told.data.page, told.data.colours);
    response.json(told.data);
  });

  app.get('/pictures/:id/:name', (request, response) => {
    const picture = store.pictures().find((p) => p.id === request.params['id'] && p.name === request.params['name']);
    if (!picture) {
      response.status(404).json(said('not-found', 'There is no such picture.'));
      return;
    }
    response.type(pictureFormats[picture.type].mime);
    response.setHeader('Cache-Control', 'public, max-age=31536000, immutable');
    response.sendFile(resolve(store.fileOf(picture)), { dotfiles: 'allow' });
  });

  app.get('/api/shelf', (_request, response) => {
    response.json(z.array(ShelfPicture).parse(JSON.parse(readFileSync(`${demo}/shelf.json`, 'utf8'))));
  });
  for (const folder of ['pictures', 'logos']) app.use('/shelf', express.static(`${demo}/${folder}`, { index: false }));
  app.use('/shots', express.static(`${demo}/shots`, { index: false, maxAge: '1h' }));
  app.use('/thumbs', express.static(`${demo}/thumbs`, { index: false, maxAge: '1h' }));
  app.use('/type', express.static(fonts, { index: false, maxAge: '1h' }));

  app.use('/first', express.static(`${demo}/site`, { index: false, maxAge: '1h' }));

  app.get('/', (_request, response) => response.redirect(site.paths[0] ?? '/api/site'));
  for (const path of site.paths) {
    app.get(path, (_request, response) => {
      const { title, html } = site.page(path);
      response.setHeader('Cache-Control', 'no-store');
      response
        .type('html')
        .send(
          `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapeHtml(
            title,
          )}</title><link rel="stylesheet" href="${path}.css"></head><body>${html}</body></html>`,
        );
    });
    app.get(`${path}.css`, (_request, response) => {
      response.type('css').send(`${fontCss}\n${site.page(path).css}`);
    });
  }
  app.get('/favicon.ico', (_request, response) => {
    response.sendStatus(204);
  });
  app.use(nothingThere);
  app.use(
    sentences((error) => {
      if (error instanceof multer.MulterError && error.code === 'LIMIT_FILE_SIZE')
        return {
          status: 413,
          code: 'too-heavy',
          message: 'The site takes files up to 8 MB. Lower the quality or choose another format.',
        };
      if (error instanceof multer.MulterError)
        return { status: 400, code: 'malformed', message: 'The site could not read what was sent. Try again.' };
      return existsSync(demo) ? null : { status: 500, code: 'site', message: 'The site’s demo folder is missing.' };
    }),
  );
  return app;
}

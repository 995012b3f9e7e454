import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { resolve } from 'node:path';
import compression from 'compression';
import cors from 'cors';
import express, { type Express } from 'express';
import helmet from 'helmet';
import multer from 'multer';
import * as z from 'zod';
import {
  ShelfPicture,
  demoPages,
  escapeHtml,
  pictureFormats,
  renderPage,
  potterySlots,
  type SitePage,
} from '@bright-slot/core';
import { hostGuard, nothingThere, permissions, said, sentences } from '../guard';
import { receive } from './receive';
import type { SiteStore, StoredPicture } from './store';

/** Most a picture sent to the site may weigh. */
export const MOST_UPLOAD = 8 * 1024 * 1024;

interface Options {
  store: SiteStore;
  demo: string;
  /** Folder with the type the pages use. */
  fonts: string;
  appOrigin: string;
  siteOrigin: string;
}

const fontCss = `@font-face{font-family:'Public Sans Variable';src:url(/type/public-sans.woff2) format('woff2');font-weight:100 900;font-display:swap}
@font-face{font-family:'Lora Variable';src:url(/type/lora.woff2) format('woff2');font-weight:400 700;font-display:swap}
html,body{margin:0;height:100%}`;

/** The stand-in for the outside: the pottery's pages, its picture store and its photo shelf, on an origin of its own. */
export function siteServer({ store, demo, fonts, appOrigin, siteOrigin }: Options): Express {
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

  const address = (p: StoredPicture) => `${siteOrigin}/pictures/${p.id}/${p.name}`;
  const sent = (p: StoredPicture) => ({ ...p, address: address(p) });
  const slotById = (id: string) => potterySlots.find((s) => s.id === id);

  // What the pages showed before Bright Slot sent them anything.
  const first = new Map(
    (existsSync(`${demo}/site`) ? readdirSync(`${demo}/site`) : []).map((file) => [file.replace(/\.\w+$/, ''), file]),
  );
  /** The house's own picture, in a slot that nothing was ever sent to. */
  const firstOf = (id: string) => (store.untouched(id) ? (first.get(id) ?? null) : null);

  const describe = (): SitePage[] =>
    demoPages.map(({ path, kind, slots }) => ({
      path,
      kind,
      address: `${siteOrigin}${path}`,
      title: renderPage(kind, { slots: [] }).title,
      slots: slots.map((id) => {
        const now = store.shown(id);
        const file = firstOf(id);
        return {
          id,
          now: now && sent(now),
          first: file && `${siteOrigin}/first/${file}`,
          earlier: store.earlier(id).map(sent),
        };
      }),
    }));

  app.get('/api/site', (_request, response) => {
    response.setHeader('Cache-Control', 'no-store');
    response.json({
      name: 'Ottermill Pottery',
      host: 'ottermill.example',
      pages: describe(),
      names: store.pictures().map((p) => p.name),
    });
  });

  const upload = multer({
    storage: multer.memoryStorage(),
    limits: { fileSize: MOST_UPLOAD, files: 1, fields: 8, fieldSize: 4096 },
  });
  app.post('/api/pictures', upload.single('file'), async (request, response) => {
    const answer = await receive(store, request.file?.buffer, request.body as unknown);
    if (answer.ok) response.status(201).json(sent(answer.value));
    else {
      const statuses = new Map([
        ['name-taken', 409],
        ['full', 507],
      ]);
      response.status(statuses.get(answer.problem.code) ?? 422).json(answer.problem);
    }
  });

  const Show = z.object({ picture: z.string().nullable() });
  app.put('/api/slots/:slot', express.json({ limit: '4kb' }), async (request, response) => {
    const slot = slotById(String(request.params['slot']));
    const body = Show.safeParse(request.body);
    if (!slot || !body.success) {
      response.status(404).json({ code: 'no-slot', message: 'The site has no such slot.' });
      return;
    }
    const id = body.data.picture;
    const picture = store.pictures().find((p) => p.id === id);
    if (picture && picture.slot !== slot.id) {
      response.status(409).json(said('other-slot', 'That picture was sent for another place. Send it for this one.'));
      return;
    }
    if (id !== null && !picture) {
      response.status(404).json({ code: 'no-picture', message: 'The site no longer has that picture.' });
      return;
    }
    await store.show(slot.id, id);
    response.json({ shown: id });
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

  app.get('/', (_request, response) => response.redirect('/welcome'));
  for (const { path, kind, slots } of demoPages) {
    const page = () =>
      renderPage(kind, {
        slots: slots.map((id) => {
          const slot = slotById(id)!;
          const now = store.shown(id);
          if (now) return { slot, picture: { url: `/pictures/${now.id}/${now.name}`, alt: now.alt } };
          const file = firstOf(id);
          return { slot, picture: file ? { url: `/first/${file}`, alt: '' } : null };
        }),
      });
    app.get(path, (_request, response) => {
      const { title, html } = page();
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
      response.type('css').send(`${fontCss}\n${page().css}`);
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

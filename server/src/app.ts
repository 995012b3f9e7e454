import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import compression from 'compression';
import express, { type Express } from 'express';
import helmet from 'helmet';
import * as z from 'zod';
import { isLoopback } from '@bright-slot/core';
import { ahead, isHashed } from './ahead';
import { fetchPicture } from './fetch-picture';
import { relayRoutes } from './relay/routes';
import { hostGuard, nothingThere, permissions, said, sentences } from './guard';

const Wanted = z.object({ address: z.string().max(4000) });

/** Serves the built app: static files, and the page itself with a fresh style nonce each time. */
export function appServer(options: {
  web: string;
  appOrigin: string;
  /** Where the stand-in is; empty where none runs. */
  siteOrigin: string;
  /** The file with what the demo brings; none where there is no demo. */
  demo?: string | undefined;
}): Express {
  const { web, appOrigin, siteOrigin, demo } = options;
  const site = siteOrigin ? [siteOrigin] : [];
  const app = express();
  app.disable('x-powered-by');
  app.use(hostGuard(appOrigin));
  app.use(permissions);
  app.use((_request, response, next) => {
    response.locals['nonce'] = randomBytes(16).toString('base64');
    next();
  });
  app.use(
    helmet({
      // HSTS means nothing on a plain local address (RFC 6797, section 7.2); the opener policy would cut off the site's window.
      strictTransportSecurity: appOrigin.startsWith('https:'),
      crossOriginOpenerPolicy: false,
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          baseUri: ["'self'"],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          formAction: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          scriptSrcAttr: ["'none'"],
          styleSrc: [
            "'self'",
            (_request, response) => `'nonce-${(response as express.Response).locals['nonce'] as string}'`,
          ],
          workerSrc: ["'self'"],
          imgSrc: ["'self'", 'data:', 'blob:', ...site],
          fontSrc: ["'self'"],
          connectSrc: ["'self'", 'blob:', ...site],
        },
      },
    }),
  );
  app.use(compression());
  // The libraries that find a picture's subject and unpack fonts make functions from text. Their workers alone may, and
  // reach nothing else.
  app.get(['/subject/subject.js', '/unpack/unpack.js'], (_request, response, next) => {
    response.setHeader(
      'Content-Security-Policy',
      "default-src 'none'; script-src 'self' 'unsafe-eval'; connect-src data:",
    );
    next();
  });
  // Only this app's own pages may have pictures fetched; others are refused before anything is read.
  app.use('/api', (request, response, next) => {
    if (request.get('origin') === appOrigin) next();
    else response.status(403).json(said('origin', 'Pictures are fetched for Bright Slot’s own pages only.'));
  });
  app.post('/api/picture', express.json({ limit: '8kb' }), async (request, response) => {
    const body = Wanted.safeParse(request.body);
    if (!body.success) {
      response.status(400).json(said('no-link', 'That is no address of a picture.'));
      return;
    }
    const found = await fetchPicture(body.data.address, siteOrigin);
    if (!found.ok) {
      response.status(422).json(found.problem);
      return;
    }
    response.setHeader('Cache-Control', 'no-store');
    response.setHeader('Content-Disposition', 'attachment');
    response.setHeader('X-Picture-Name', encodeURIComponent(found.value.name.toWellFormed()));
    response.type('application/octet-stream').send(found.value.bytes);
  });
  // A site on this computer's own network is the person's only where this server runs on their own computer.
  app.use('/api/relay', relayRoutes({ ownNetwork: isLoopback(new URL(appOrigin).hostname) }));
  app.use('/api', nothingThere);
  if (demo) app.get('/demo.json', (_request, response) => response.sendFile(demo, { cacheControl: false }));
  app.get('/ahead.json', (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.json(ahead(web));
  });
  app.use(
    express.static(web, {
      index: false,
      setHeaders(response, path) {
        // Built files carry a hash in their name; the others may change from build to build.
        response.setHeader('Cache-Control', isHashed(path) ? 'public, max-age=31536000, immutable' : 'no-cache');
      },
    }),
  );
  app.get('/{*path}', (request, response) => {
    if (/\.[a-z0-9]{2,5}$/i.test(request.path)) {
      response.status(404).json(said('not-found', 'There is no such file.'));
      return;
    }
    const page = readFileSync(`${web}/index.html`, 'utf8')
      .replaceAll('__NONCE__', response.locals['nonce'] as string)
      .replaceAll('__SITE_ORIGIN__', siteOrigin)
      .replaceAll('__DEMO__', demo ? '/demo.json' : '');
    response.setHeader('Cache-Control', 'no-store');
    response.type('html').send(page);
  });
  app.use(nothingThere);
  app.use(sentences(() => null));
  return app;
}

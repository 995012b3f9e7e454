import { Router, type Request, type Response } from 'express';
import multer from 'multer';
import * as z from 'zod';
import { LookFacts, MOST_BYTES, RelayAsk, valueOf, type RelayLine } from '@bright-slot/core';
import { said } from '../guard';
import { asProblem } from './remote';
import { Relay, type RelayOptions } from './relay';

const upload = multer({
  storage: multer.memoryStorage(),
  limits: { fileSize: MOST_BYTES, files: 1, fields: 1, fieldSize: 64 * 1024 },
});

const Asked = z.object({ ask: z.string().transform(valueOf).pipe(RelayAsk) });

/**
 * Speaks to the person's own site for their browser, which may not. Answers in lines of JSON as things happen; a look
 * and a file that is read answer with the bytes themselves. Nothing of what signs in is kept, logged or told.
 */
export function relayRoutes(options: RelayOptions): Router {
  const relay = new Relay(options);
  const router = Router();
  router.post('/', upload.single('file'), async (request: Request, response: Response) => {
    const read = Asked.safeParse(request.body);
    if (!read.success) {
      response.status(400).json(said('malformed', 'What was asked of the site cannot be read. Reload the page.'));
      return;
    }
    const { ask } = read.data;
    const gone = new AbortController();
    response.on('close', () => {
      if (!response.writableFinished) gone.abort();
    });
    response.setHeader('Cache-Control', 'no-store');
    if (ask.do === 'look' || ask.do === 'read') {
      try {
        const found =
          ask.do === 'look'
            ? await relay.look(ask.address, ask.ownNetwork, ask.fresh, gone.signal)
            : await relay.read(ask, gone.signal);
        const age = Number(found.headers.age);
        const facts: LookFacts = {
          status: found.status,
          type: (found.headers['content-type'] ?? '').slice(0, 200),
          age: found.headers.age !== undefined && Number.isFinite(age) ? age : null,
          address: found.address.href.slice(0, 2000),
        };
        response.setHeader('Content-Disposition', 'attachment');
        response.setHeader('X-Look', encodeURIComponent(JSON.stringify(facts)));
        response.type('application/octet-stream').send(found.bytes);
      } catch (error) {
        const { code, message } = asProblem(error);
        if (!response.destroyed) response.status(422).json(said(code, message));
      }
      return;
    }
    response.type('application/x-ndjson');
    const tell = (line: RelayLine) => {
      if (response.destroyed) return;
      response.write(`${JSON.stringify(line)}\n`);
      // Compression would hold it back.
      (response as Response & { flush?: () => void }).flush?.();
    };
    try {
      switch (ask.do) {
        case 'try':
          await relay.try(ask, tell, gone.signal);
          break;
        case 'names': {
          const names = await relay.names(ask, gone.signal);
          tell({ at: 'done', ...(names ? { names: names.filter((n) => n.length <= 300).slice(0, 20_000) } : {}) });
          break;
        }
        case 'send': {
          const bytes = request.file?.buffer;
          if (!bytes) tell({ at: 'problem', code: 'malformed', message: 'No file came with it. Send it again.' });
          else tell({ at: 'done', address: await relay.send(ask, bytes, tell, gone.signal) });
          break;
        }
        case 'remove':
          await relay.remove(ask, gone.signal);
          tell({ at: 'done' });
          break;
      }
    } catch (error) {
      const { code, message, more } = asProblem(error);
      tell({ at: 'problem', code, message, ...more });
    }
    response.end();
  });
  return router;
}

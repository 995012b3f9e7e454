import type { ErrorRequestHandler, RequestHandler } from 'express';

/** An error's answer: a code for the program, a sentence for the person. */
export const said = (code: string, message: string) => ({ code, message });

/**
 * Answers only what was asked of this server by its own name. A page elsewhere whose name was made to point here
 * would otherwise be of the same origin (RFC 9110, section 7.4: 421 Misdirected Request).
 */
export function hostGuard(origin: string): RequestHandler {
  const names = new Set([new URL(origin).hostname, 'localhost', '127.0.0.1', '[::1]']);
  return (request, response, next) => {
    const host = /^(\[[0-9a-f:.]+\]|[^:/@\s]+)(?::\d{1,5})?$/i.exec(request.get('host') ?? '')?.[1]?.toLowerCase();
    if (host !== undefined && names.has(host)) next();
    else response.status(421).json(said('host', 'This server does not answer under that name.'));
  };
}

/** What the pages may ask the browser for; everything else is off. */
export const permissions: RequestHandler = (_request, response, next) => {
  const off = ['camera', 'microphone', 'geolocation', 'payment', 'usb', 'serial', 'midi', 'hid', 'bluetooth'];
  const own = ['display-capture', 'clipboard-read', 'clipboard-write', 'fullscreen'];
  response.setHeader('Permissions-Policy', [...off.map((f) => `${f}=()`), ...own.map((f) => `${f}=(self)`)].join(', '));
  next();
};

/** What is asked of a path where nothing is. */
export const nothingThere: RequestHandler = (_request, response) => {
  response.status(404).json(said('not-found', 'There is no such thing here.'));
};

/**
 * Every error as a sentence with its status; nothing of the server's own is told: no stack, no path. `own` gives the
 * answer for errors that a server knows of.
 */
export function sentences(
  own: (error: unknown) => { status: number; code: string; message: string } | null,
): ErrorRequestHandler {
  // Express knows an error handler by its four parameters.
  return (error: unknown, _request, response, next) => {
    if (response.headersSent) return next(error);
    const known = own(error);
    if (known) {
      response.status(known.status).json(said(known.code, known.message));
      return;
    }
    const status = Number((error as { status?: unknown } | null)?.status);
    if (status === 413) response.status(413).json(said('too-heavy', 'What was sent is larger than is taken here.'));
    else if (status === 404) response.status(404).json(said('not-found', 'There is no such thing here.'));
    else if (status >= 400 && status < 500)
      response.status(status).json(said('malformed', 'The site could not read what was sent. Try again.'));
    else {
      console.error(error);
      response.status(500).json(said('site', 'The server had a fault of its own. Nothing was changed; try again.'));
    }
  };
}

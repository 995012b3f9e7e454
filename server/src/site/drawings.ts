import { cleanDrawing } from '@bright-slot/core/formats/drawing';
import type { RequestHandler } from 'express';

/** Whether a drawing draws and does nothing else. */
export function drawsOnly(bytes: Uint8Array, called: string): boolean {
  const clean = cleanDrawing(bytes, called);
  return clean.ok && !clean.value.acted;
}

/** Shown by itself a drawing is a page: it runs nothing and fetches nothing all the same. CSP 3, sections 6.1 and 6.3. */
export const quietDrawings: RequestHandler = (request, response, next) => {
  if (/\.svg$/i.test(request.path))
    response.setHeader(
      'Content-Security-Policy',
      "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox",
    );
  next();
};

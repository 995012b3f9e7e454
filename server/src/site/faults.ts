import { setTimeout as rest } from 'node:timers/promises';
import type { RequestHandler } from 'express';
import sharp from 'sharp';
import * as z from 'zod';

/** What the stand-in does wrong on request, as real sites do. */
export const Faults = z.object({
  /** ms before anything is answered. */
  slow: z.number().int().min(0).max(60_000).default(0),
  /** Takes no file: its disk is full. */
  full: z.boolean().default(false),
  /** Has lost what it was sent. */
  forgetful: z.boolean().default(false),
  /** Writes pictures anew, as JPEG of this quality; 0 for never. */
  reEncoding: z.number().int().min(0).max(100).default(0),
  /** Shows each address as it was first asked for. */
  caching: z.boolean().default(false),
  /** So much of the light of pictures is taken away, 0 to 1. */
  darkening: z.number().min(0).max(0.95).default(0),
});
export type Faults = z.infer<typeof Faults>;

/** The stand-in's faults of the moment; none as it starts. */
export class FaultyWays {
  private now: Faults = Faults.parse({});
  private readonly cached = new Map<string, { bytes: Buffer; at: number }>();

  get faults(): Faults {
    return this.now;
  }

  set(faults: Faults): void {
    this.now = faults;
    if (!faults.caching) this.cached.clear();
  }

  /** Before anything is answered. */
  readonly before: RequestHandler = async (request, response, next) => {
    if (this.now.slow) await rest(this.now.slow);
    if (this.now.full && ['PUT', 'POST', 'COPY', 'MOVE', 'MKCOL'].includes(request.method)) {
      request.resume();
      response.status(507).json({ code: 'full', message: 'The site has no room left.' });
      return;
    }
    next();
  };

  /** A picture as visitors are shown it at an address; null where it was lost. */
  async shown(address: string, bytes: Buffer | null): Promise<{ bytes: Buffer; age: number | null } | null> {
    const kept = this.now.caching ? this.cached.get(address) : undefined;
    if (kept) return { bytes: kept.bytes, age: Math.round((Date.now() - kept.at) / 1000) };
    if (!bytes || this.now.forgetful) return null;
    const { reEncoding, darkening } = this.now;
    let out = bytes;
    if (reEncoding || darkening) {
      const image = sharp(bytes);
      const { format } = await image.metadata();
      if (darkening)
        image.linear(
          [1, 1, 1].map((n) => n - darkening),
          [0, 0, 0],
        );
      if (reEncoding) image.jpeg({ quality: reEncoding });
      else if (format === 'png') image.png();
      else image.jpeg({ quality: 95 });
      out = await image.toBuffer();
    }
    if (this.now.caching) this.cached.set(address, { bytes: out, at: Date.now() });
    return { bytes: out, age: null };
  }
}

import { readFileSync, readdirSync } from 'node:fs';
import { createShaper, type BrowserWidth, type Shaper } from '../words/shaper';

/** The shipped faces, unpacked by tools/prepare.mjs, behind the real shaping library. */
export async function realShaper(browserWidth?: BrowserWidth): Promise<Shaper> {
  const folder = new URL('../../../.cache/type/', import.meta.url);
  const files = new Map(
    readdirSync(folder)
      .filter((f) => f.endsWith('.ttf'))
      .map((f) => [f.replace('.ttf', ''), new Uint8Array(readFileSync(new URL(f, folder)))] as const),
  );
  return createShaper(await import('harfbuzzjs'), files, { browserWidth });
}

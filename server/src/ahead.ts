import { createHash } from 'node:crypto';
import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** Names that carry a digest of what they hold. */
export const isHashed = (path: string): boolean => /-[A-Z0-9]{8}\.(js|css|woff2)$/.test(path);

/** What the page fetches ahead when it has nothing to do: its code, and the codecs and type it reads as files. */
export function ahead(web: string): { build: string; code: string[]; files: string[] } {
  const digest = createHash('sha256');
  const list = (folder: string): string[] => {
    try {
      return readdirSync(join(web, folder)).sort();
    } catch {
      return [];
    }
  };
  const code = list('.').filter((f) => isHashed(f) && f.endsWith('.js'));
  const files = [
    ...list('wasm').map((f) => `/wasm/${f}`),
    ...list('type').map((f) => `/type/${f}`),
    ...list('.')
      .filter((f) => f.endsWith('.wasm'))
      .map((f) => `/${f}`),
  ];
  for (const f of files) {
    const { size, mtimeMs } = statSync(join(web, f));
    digest.update(`${f} ${size} ${Math.round(mtimeMs)}\n`);
  }
  return { build: digest.digest('hex').slice(0, 16), code: code.map((f) => `/${f}`), files };
}

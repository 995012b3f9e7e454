import { Injectable, inject } from '@angular/core';
import { bad, good, identify, MOST_BYTES, typeLabel, type PictureType, type Result } from '@bright-slot/core';
import type { AssetRecord } from '../storage/database';
import { GraphicsRepository, storageProblem } from '../storage/graphics-repository';
import { sha256 } from '../storage/hash';
import { PixelsService } from './pixels.service';

const mime: Record<PictureType, string> = {
  jpeg: 'image/jpeg',
  png: 'image/png',
  webp: 'image/webp',
  avif: 'image/avif',
  gif: 'image/gif',
  svg: 'image/svg+xml',
};

/** An SVG without scripts, handlers and foreign content. */
async function cleaned(bytes: Uint8Array): Promise<Uint8Array<ArrayBuffer>> {
  const { default: purify } = await import('dompurify');
  const text = purify.sanitize(new TextDecoder().decode(bytes), { USE_PROFILES: { svg: true, svgFilters: true } });
  const withNamespace = /<svg[^>]*\sxmlns=/.test(text)
    ? text
    : text.replace(/<svg/, '<svg xmlns="http://www.w3.org/2000/svg"');
  return new TextEncoder().encode(withNamespace);
}

/** Brings pictures in: checked by their content, tried, stored once under their hash. */
@Injectable({ providedIn: 'root' })
export class PicturesService {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);

  async bringIn(file: Blob & { name?: string }, credit = '', signal?: AbortSignal): Promise<Result<AssetRecord>> {
    const name = file.name ?? '';
    if (file.size > MOST_BYTES) {
      const facts = identify(new Uint8Array(MOST_BYTES + 1), name);
      if (!facts.ok) return facts;
    }
    let bytes = new Uint8Array(await file.arrayBuffer());
    const facts = identify(bytes, name);
    if (!facts.ok) return facts;
    const { type } = facts.value;
    let { width, height } = facts.value;
    if (type === 'svg') bytes = await cleaned(bytes);
    const blob = new Blob([bytes], { type: mime[type] });
    const hash = await sha256(bytes);
    const known = await this.repository.asset(hash);
    if (known) return good(known);
    let opaque = false;
    if (type !== 'svg')
      try {
        ({ opaque, width, height } = await this.pixels.inspect(blob, signal));
      } catch {
        return bad(
          'unreadable',
          `“${name}” is a ${typeLabel(type)} that cannot be decoded; it may be damaged. Nothing was changed.`,
        );
      }
    const asset: AssetRecord = {
      hash,
      blob,
      type,
      width,
      height,
      opaque,
      name: name.replace(/\.[a-z0-9]+$/i, '') || 'Picture',
      added: Date.now(),
      credit,
    };
    try {
      await this.repository.addAsset(asset);
    } catch (error) {
      return { ok: false, problem: storageProblem(error) };
    }
    return good(asset);
  }
}

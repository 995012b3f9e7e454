import { Injectable, inject } from '@angular/core';
import { bad, good, identify, MOST_BYTES, typeLabel, type Result, type Silhouette } from '@bright-slot/core';
import type { AssetRecord } from '../storage/database';
import { GraphicsRepository, storageProblem } from '../storage/graphics-repository';
import { sha256 } from '../storage/hash';
import { mimeOf } from '../storage/mime';
import { JobStopped } from '../workers/pixel-client';
import { PixelsService } from './pixels.service';
import { drawingSilhouette } from './vectors';

/** Whether an address in a drawing stays within it. */
const within = (address: string) => /^\s*(#|data:image\/(png|jpeg|webp|gif);)/i.test(address);

/**
 * An SVG without scripts, handlers, foreign content and outside references, its size stated;
 * null when nothing of a drawing is left.
 */
async function cleaned(
  bytes: Uint8Array,
  size: { width: number; height: number },
): Promise<Uint8Array<ArrayBuffer> | null> {
  const { default: purify } = await import('dompurify');
  const tree = purify.sanitize(new TextDecoder().decode(bytes), {
    USE_PROFILES: { svg: true, svgFilters: true },
    RETURN_DOM: true,
  });
  const svg = (tree as HTMLElement).querySelector('svg');
  if (!svg) return null;
  for (const element of [svg, ...svg.querySelectorAll('*')])
    for (const { name, value } of [...element.attributes]) {
      const points = /(^|:)href$/.test(name) && !within(value);
      const fetches = /url\(\s*['"]?(?!['"]?#)/i.test(value) || /@import/i.test(value);
      if (points || fetches) element.removeAttribute(name);
    }
  for (const style of svg.querySelectorAll('style'))
    style.textContent = (style.textContent ?? '').replace(/@import[^;]*;?|url\(\s*['"]?(?!['"]?#)[^)]*\)/gi, '');
  // Without them, browsers fall back on sizes of their own.
  if (!svg.hasAttribute('viewBox')) svg.setAttribute('viewBox', `0 0 ${size.width} ${size.height}`);
  svg.setAttribute('width', String(size.width));
  svg.setAttribute('height', String(size.height));
  return new TextEncoder().encode(new XMLSerializer().serializeToString(svg));
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
    if (type === 'svg') {
      const clean = await cleaned(bytes, { width, height });
      if (!clean)
        return bad('unreadable', `“${name}” holds no drawing that can be used. Save it as plain SVG and try again.`);
      bytes = clean;
    }
    const blob = new Blob([bytes], { type: mimeOf(type) });
    const hash = await sha256(bytes);
    const known = await this.repository.asset(hash);
    if (known) return good(known);
    let opaque = false;
    let silhouette: Silhouette | null = null;
    try {
      if (type === 'svg') silhouette = await drawingSilhouette(blob, { width, height });
      else ({ opaque, width, height, silhouette } = await this.pixels.inspect(blob, signal));
    } catch (error) {
      if (error instanceof JobStopped) throw error;
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
      silhouette,
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

import { Injectable, inject } from '@angular/core';
import { bad, good, MOST_BYTES, tooHeavy, type Result } from '@bright-slot/core';
import type { AssetRecord } from '../storage/database';
import { GraphicsRepository, storageProblem } from '../storage/graphics-repository';
import { sha256 } from '../storage/hash';
import { mimeOf } from '../storage/mime';
import { PixelsService } from './pixels.service';
import { drawingSilhouette } from './vectors';

/** An SVG made harmless, by core first and by a sanitiser with a real DOM after it; null when nothing is left. */
async function cleaned(text: string, size: { width: number; height: number }): Promise<Blob | null> {
  const [{ default: purify }, { assembleDrawing, disarmDrawing }] = await Promise.all([
    import('dompurify'),
    import('@bright-slot/core/formats/drawing'),
  ]);
  const disarmed = disarmDrawing(text);
  if (!disarmed) return null;
  // Read as XML, since that is how it will be drawn: as HTML the same text can have another meaning.
  const svg = new DOMParser().parseFromString(disarmed.svg, 'image/svg+xml').documentElement;
  purify.sanitize(svg, { USE_PROFILES: { svg: true, svgFilters: true }, IN_PLACE: true });
  const whole = assembleDrawing(new XMLSerializer().serializeToString(svg), disarmed.styles, size);
  return whole === null ? null : new Blob([whole], { type: mimeOf('svg') });
}

/** Whose a picture is, and on what terms. */
export interface PictureSource {
  readonly credit?: string;
  readonly licence?: string;
  readonly showCredit?: boolean;
}

/** Brings pictures in: checked by their content, tried, stored once under their hash. */
@Injectable({ providedIn: 'root' })
export class PicturesService {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);

  async bringIn(
    file: Blob & { name?: string },
    from: PictureSource = {},
    signal?: AbortSignal,
  ): Promise<Result<AssetRecord>> {
    const name = file.name ?? '';
    if (file.size > MOST_BYTES) return tooHeavy(file.size, name);
    const found = await this.pixels.inspect(file, name, signal);
    if (!found.ok) return found;
    const { type, width, height } = found.value;
    const picture = found.value.type === 'svg' ? await this.drawing(file, found.value, name) : good(found.value);
    if (!picture.ok) return picture;
    const { hash, opaque, silhouette, flatBorder } = picture.value;
    const called = name.replace(/\.[a-z0-9]+$/i, '') || 'Picture';
    const known = await this.repository.asset(hash);
    // The same picture may come again under another name.
    if (known) return good({ ...known, name: called });
    const blob = 'blob' in picture.value ? picture.value.blob : new Blob([file], { type: mimeOf(type) });
    const asset: AssetRecord = {
      hash,
      blob,
      type,
      width,
      height,
      opaque,
      silhouette,
      flatBorder,
      name: called,
      added: Date.now(),
      credit: from.credit ?? '',
      licence: from.licence,
      showCredit: from.showCredit,
      ...('focus' in picture.value
        ? { focus: picture.value.focus, subject: picture.value.subject, thumb: picture.value.thumb }
        : {}),
    };
    try {
      await this.repository.addAsset(asset);
    } catch (error) {
      return { ok: false, problem: storageProblem(error) };
    }
    return good(asset);
  }

  /** A drawing, made harmless, and tried. */
  private async drawing(file: Blob, size: { width: number; height: number }, name: string) {
    const blob = await cleaned(await file.text(), size);
    if (!blob)
      return bad('unreadable', `“${name}” holds no drawing that can be used. Save it as plain SVG and try again.`);
    try {
      return good({
        blob,
        hash: await sha256(await blob.arrayBuffer()),
        opaque: false,
        flatBorder: false,
        silhouette: await drawingSilhouette(blob, size),
      });
    } catch {
      return bad('unreadable', `“${name}” is an SVG that cannot be drawn; it may be damaged. Nothing was changed.`);
    }
  }
}

import { Injectable, inject } from '@angular/core';
import {
  pictureFormats,
  bad,
  cutText,
  good,
  limits,
  MOST_BYTES,
  nameFrom,
  tooHeavy,
  type Result,
} from '@bright-slot/core';
import type { AssetRecord } from '../storage/database';
import { GraphicsRepository } from '../storage/graphics-repository';
import { storageProblem } from '../storage/storage-problem';
import { sha256 } from '../storage/hash';
import { readDrawing } from './drawings';
import { PixelsService } from '../pixels/pixels.service';
import { drawingSilhouette } from '../pixels/vectors';

/** Whose a picture is, and on what terms. */
export interface PictureSource {
  readonly credit?: string;
  readonly licence?: string;
  readonly showCredit?: boolean;
  /** A screenshot of a page: kept, but no picture to be used in graphics. */
  readonly page?: boolean;
}

/** How a picture is brought in. */
export interface Bringing {
  readonly signal?: AbortSignal;
  /** Whether it goes on the canvas at once: what was decoded of it is kept then, and the rest decoded already. */
  readonly toCanvas?: boolean;
}

/** Brings pictures in: checked by their content, tried, stored once under their hash. */
@Injectable({ providedIn: 'root' })
export class PicturesService {
  private readonly repository = inject(GraphicsRepository);
  private readonly pixels = inject(PixelsService);

  async bringIn(
    file: Blob & { name?: string },
    from: PictureSource = {},
    { signal, toCanvas = false }: Bringing = {},
  ): Promise<Result<AssetRecord>> {
    const name = file.name ?? '';
    if (file.size > MOST_BYTES) return tooHeavy(file.size, name);
    const found = await this.pixels.importPicture(file, name, toCanvas, signal);
    if (!found.ok) return found;
    const { type } = found.value;
    const picture = found.value.type === 'svg' ? await this.drawing(file, name, signal) : good(found.value);
    if (!picture.ok) return picture;
    const { width, height, hash, opaque, silhouette, flatBorder } = picture.value;
    const called = nameFrom(name.replace(/\.[a-z0-9]{1,5}$/i, ''), limits.name, 'Picture');
    const known = await this.repository.asset(hash);
    // The same picture may come again under another name.
    if (known) return good({ ...known, name: called });
    const blob = 'blob' in picture.value ? picture.value.blob : new Blob([file], { type: pictureFormats[type].mime });
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
      credit: cutText(from.credit ?? '', 300),
      licence: from.licence && cutText(from.licence, 300),
      showCredit: from.showCredit,
      mask: from.page,
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

  /** A drawing, made harmless in a worker, and tried. */
  private async drawing(file: Blob, name: string, signal?: AbortSignal) {
    const called = name ? `“${cutText(name, 80, true)}”` : 'The drawing';
    const read = await readDrawing(file, called, signal);
    if (!read.ok) return read;
    const { svg: blob, width, height } = read.value;
    try {
      return good({
        blob,
        width,
        height,
        hash: await sha256(await blob.arrayBuffer()),
        opaque: false,
        flatBorder: false,
        silhouette: await drawingSilhouette(blob, { width, height }),
      });
    } catch {
      return bad('unreadable', `${called} is an SVG that cannot be drawn; it may be damaged. Nothing was changed.`);
    }
  }
}

import { Injectable, inject } from '@angular/core';
import { partAsLayer, withPart, type PictureLayer } from '@bright-slot/core';
import { PixelsService } from '../../../pixels/pixels.service';
import { Workbench } from '../../../document/workbench';

/** How far pixels of a margin may differ, 0…255: what JPEG leaves. */
export const USUAL_TOLERANCE = 10;

/** Takes a picture's empty margins off; what is left lies where it lay. */
@Injectable({ providedIn: 'root' })
export class Trimming {
  private readonly pixels = inject(PixelsService);
  private readonly workbench = inject(Workbench);

  /** Gives what is to be told. */
  async trim(layer: PictureLayer, tolerance = USUAL_TOLERANCE, breathing = 0): Promise<string> {
    const part = await this.pixels.trim(layer, tolerance, breathing);
    const { natural } = layer;
    if (!part) return 'Nothing would be left.';
    if (part.width >= natural.width && part.height >= natural.height) return 'There are no margins to take off.';
    const graphic = this.workbench.graphic();
    if (!graphic?.layers.includes(layer)) return '';
    const free = layer.place.mode === 'free' ? layer : { ...layer, crop: null };
    const next =
      layer.place.mode === 'cover' ? withPart(free, part, graphic.canvas) : partAsLayer(free, part, graphic.canvas);
    this.workbench.change(next, `${layer.name} trimmed`);
    const off = [natural.width - part.width, natural.height - part.height].map((n) => Math.round(n));
    return `${off[0]} px off its width, ${off[1]} off its height.`;
  }
}

import { concernsFrame, type Frame } from '../graphic/frame';
import type { Graphic } from '../graphic/graphic';
import { pictureBounds, pictureScale } from '../graphic/picture-geometry';
import { SLACK } from './enlarged';
import { visiblePictures } from './uncovered';

/**
 * Why a frame is not sharp at a density (device px a CSS px): the photo that has too few pixels for it; null where all
 * have enough.
 */
export function softAt({ layers, canvas, frames }: Graphic, { rect }: Frame, density: number): string | null {
  const [worst] = visiblePictures(layers)
    .filter((l) => !l.vector && concernsFrame(pictureBounds(l, canvas), rect, frames))
    .map((l) => ({ name: l.name, scale: pictureScale(l, canvas) * density }))
    .filter((l) => l.scale > SLACK)
    .sort((a, b) => b.scale - a.scale);
  if (!worst) return null;
  return `At ${density}× ${worst.name} would be drawn at ${Math.round(worst.scale * 100)} % of its own pixels: soft.`;
}

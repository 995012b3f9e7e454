import type { Graphic } from '../graphic/graphic';
import type { Frame } from '../graphic/frame';
import { concernsFrame } from '../graphic/frame';
import { pictureBounds, pictureScale } from '../graphic/picture-geometry';
import { visiblePictures } from '../report/uncovered';

export const densities = [1, 2, 3] as const;
export type Density = (typeof densities)[number];

/** More than a thousandth above its own pixels is soft; see the rule `enlarged`. */
const SLACK = 1.001;

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

/** Where a name says its density. */
const SAID = /(^|-)[123]x(?=[-.])/;

/** A file's name at a density: `header.jpg` at 1×, `header-2x.jpg` at 2×; one that says its density says this one. */
export function nameAt(name: string, density: number): string {
  if (SAID.test(name)) return name.replace(SAID, `$1${density}x`);
  if (density === 1) return name;
  const dot = name.lastIndexOf('.');
  return `${name.slice(0, dot)}-${density}x${name.slice(dot)}`;
}

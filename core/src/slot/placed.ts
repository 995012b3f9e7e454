import type { Box, Size } from '../geometry/box';
import type { PageFit } from './slot';

export interface Placed {
  /** The whole picture, CSS px from the slot's corner. */
  readonly image: Box;
  /** The part of the picture that is seen, in its own px. */
  readonly seen: Box;
  /** That part's share of the picture's area. */
  readonly share: number;
  /** Whether parts of the slot stay bare. */
  readonly bare: boolean;
}

/**
 * Where a picture of another size comes to lie in a slot, by what the page does to it.
 * CSS Images Module Level 3, sections 5.1 (`object-fit`) and 5.2 (`object-position`):
 * fills is `cover`, fits within is `contain`, stretches is `fill`, top left is `none` at 0 0;
 * a page that asks for a crop begins from its middle. `slot` in CSS px, `picture` in its own px.
 */
export function placed(picture: Size, slot: Size, fit: PageFit): Placed {
  const across = slot.width / picture.width;
  const down = slot.height / picture.height;
  const scale = fit === 'top-left' ? 1 : fit === 'fits-within' ? Math.min(across, down) : Math.max(across, down);
  const [sx, sy] = fit === 'stretches' ? [across, down] : [scale, scale];
  const width = picture.width * sx;
  const height = picture.height * sy;
  const image = {
    x: fit === 'top-left' ? 0 : (slot.width - width) / 2,
    y: fit === 'top-left' || fit === 'fills-top' ? 0 : (slot.height - height) / 2,
    width,
    height,
  };
  const left = Math.max(0, -image.x);
  const top = Math.max(0, -image.y);
  const seen = {
    x: left / sx,
    y: top / sy,
    width: (Math.min(slot.width, image.x + width) - Math.max(0, image.x)) / sx,
    height: (Math.min(slot.height, image.y + height) - Math.max(0, image.y)) / sy,
  };
  return {
    image,
    seen,
    share: Math.min(1, (seen.width * seen.height) / (picture.width * picture.height)),
    bare: width < slot.width - 1e-6 || height < slot.height - 1e-6,
  };
}

import { differenceFrom } from './file-difference';
import { encode, type Encoding } from './encode';
import type { FileDifference } from '@bright-slot/core';

/** A file of what another worker painted. */
export interface MadeOfPainted {
  readonly blob: Blob;
  readonly width: number;
  readonly height: number;
  readonly difference: FileDifference;
}

/** What another worker painted, as it was handed over last. */
let held: { readonly key: string; readonly canvas: OffscreenCanvas } | undefined;

/** Lets go of what was painted elsewhere. */
export function forgetHeld(): void {
  held = undefined;
}

/** Writes a file of what is held under a key, or is handed over with it, and compares it; null where neither is. */
export async function encodePainted(
  key: string,
  painted: ImageBitmap | undefined,
  choices: Encoding,
): Promise<MadeOfPainted | null> {
  if (painted) {
    const canvas = new OffscreenCanvas(painted.width, painted.height);
    canvas.getContext('2d', { willReadFrequently: true })!.drawImage(painted, 0, 0);
    painted.close();
    held = { key, canvas };
  }
  if (held?.key !== key) return null;
  const { canvas } = held;
  const { blob, difference } = await encode(canvas, choices, true);
  return { blob, width: canvas.width, height: canvas.height, difference: difference! };
}

/** How a file differs from the canvas it was made from. */
export async function differenceOfFile(
  canvas: OffscreenCanvas,
  ground: string,
  file: Blob | ImageBitmap,
): Promise<FileDifference> {
  const bitmap = file instanceof ImageBitmap ? file : await createImageBitmap(file, { colorSpaceConversion: 'none' });
  try {
    return differenceFrom(canvas, ground, bitmap);
  } finally {
    bitmap.close();
  }
}

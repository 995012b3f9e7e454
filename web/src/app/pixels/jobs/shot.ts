import { bad, good, identify, measureSlot, type Box, type Measured, type Raster, type Result } from '@bright-slot/core';
import { decodedOrWhy } from './pictures';

/** Largest screenshot that is measured: its pixels are kept as they are, 4 bytes each. */
const MOST_PIXELS = 40e6;

/** The screenshot in hand; a new one takes its place. */
let shot: { key: string; raster: Raster } | null = null;

/** Opens a screenshot: keeps its pixels here, and gives a bitmap to show. */
export async function openShot(key: string, blob: Blob, name: string): Promise<Result<ImageBitmap>> {
  const facts = identify(new Uint8Array(await blob.arrayBuffer()), name);
  if (!facts.ok) return facts;
  const { type, width, height } = facts.value;
  if (type === 'svg')
    return bad('not-a-shot', `“${name}” is a drawing, which has no pixels to measure. Take a screenshot of the page.`);
  if (width * height > MOST_PIXELS)
    return bad(
      'too-large',
      `“${name}” is ${width} × ${height} px, too large to measure at once. Take the screenshot of the part of the page you need.`,
    );
  const decoded = await decodedOrWhy(blob, type, name);
  if (!decoded.ok) return decoded;
  const bitmap = decoded.value;
  const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d', { willReadFrequently: true });
  if (!context)
    return bad('too-large', `“${name}” is too large for this browser to measure. Take a smaller part of it.`);
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  shot = { key, raster: { data, width: bitmap.width, height: bitmap.height } };
  return good(bitmap);
}

/** Snaps a rough drag on the screenshot in hand. */
export function measureShot(key: string, rough: Box, density: number): Result<Measured> {
  if (shot?.key !== key) return bad('no-shot', 'The screenshot is no longer open. Bring it in again.');
  return good(measureSlot(shot.raster, rough, density));
}

/** Lets the screenshot in hand go, and its memory with it. */
export function closeShot(key: string): void {
  if (shot?.key === key) shot = null;
}

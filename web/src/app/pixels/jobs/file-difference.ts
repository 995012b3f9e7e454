import {
  bandRows,
  comparable,
  fileDifference,
  joinedDifference,
  type Comparable,
  type FileDifference,
} from '@bright-slot/core';

/** The canvas is kept ready for further files up to so many px; larger ones are looked at anew for each. */
const MOST_READY = 12e6;

/** Rows of a picture as they show on an opaque ground. */
function rowsOf(picture: OffscreenCanvas | ImageBitmap, ground: string, y: number, rows: number): Comparable {
  const context = new OffscreenCanvas(picture.width, rows).getContext('2d', { willReadFrequently: true })!;
  context.fillStyle = ground;
  context.fillRect(0, 0, picture.width, rows);
  context.drawImage(picture, 0, -y);
  return comparable(context.getImageData(0, 0, picture.width, rows));
}

/** What a canvas was made ready as, by the row where each band begins. */
const ready = new WeakMap<OffscreenCanvas, { readonly ground: string; readonly bands: Map<number, Comparable> }>();

/** How a file that was read back differs from the canvas it was made from, both on the page’s ground. */
export function differenceFrom(canvas: OffscreenCanvas, ground: string, file: ImageBitmap): FileDifference {
  let known = ready.get(canvas);
  if (known?.ground !== ground) ready.set(canvas, (known = { ground, bands: new Map() }));
  const { width, height } = canvas;
  const all = [];
  for (let y = 0; y < height; y += bandRows(width)) {
    const rows = Math.min(bandRows(width), height - y);
    const own = known.bands.get(y) ?? rowsOf(canvas, ground, y, rows);
    if (width * height <= MOST_READY) known.bands.set(y, own);
    all.push({ y, rows, difference: fileDifference(own, rowsOf(file, ground, y, rows)) });
  }
  return joinedDifference(all);
}

import { cutText, limits, openRaster, withAllShown, type Frame, type Graphic } from '@bright-slot/core';
import { render, type Vectors } from './render';
import type { Turn } from './turn';

/** A layer as a picture of its own: where its corner lies, file px, and how it is laid over what is below. */
export interface LayerFile {
  readonly name: string;
  readonly x: number;
  readonly y: number;
  readonly opacity: number;
  readonly visible: boolean;
  readonly blob: Blob;
}

/** A frame in its layers, back to front, and as a whole. */
export interface LayerFiles {
  readonly width: number;
  readonly height: number;
  readonly layers: readonly LayerFile[];
  readonly merged: Blob;
  readonly thumbnail: Blob;
}

const png = (canvas: OffscreenCanvas) => canvas.convertToBlob({ type: 'image/png' });

/** The part of a sheet that is not empty; one px of it where all is. */
function inked(canvas: OffscreenCanvas): { x: number; y: number; width: number; height: number } {
  const { width, height } = canvas;
  const pixels = new Uint32Array(canvas.getContext('2d')!.getImageData(0, 0, width, height).data.buffer);
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (pixels[y * width + x]! >>> 24) {
        left = Math.min(left, x);
        right = Math.max(right, x + 1);
        top = Math.min(top, y);
        bottom = y + 1;
      }
  return right > left
    ? { x: left, y: top, width: right - left, height: bottom - top }
    : { x: 0, y: 0, width: 1, height: 1 };
}

/** Paints each layer alone, without its opacity, hidden ones too. `vectors` has to hold drawings of hidden layers. */
export async function layerFiles(
  graphic: Graphic,
  frame: Frame,
  density: number,
  vectors: Vectors,
  turn: Turn,
): Promise<LayerFiles> {
  const shown = withAllShown(graphic);
  const made = new Map<string, ImageBitmap>();
  const files: LayerFile[] = [];
  const add = async (canvas: OffscreenCanvas, facts: Pick<LayerFile, 'name' | 'opacity' | 'visible'>) => {
    const { x, y, width, height } = inked(canvas);
    const part = new OffscreenCanvas(width, height);
    part.getContext('2d')!.drawImage(canvas, -x, -y);
    files.push({ ...facts, x, y, blob: await png(part) });
    await turn.pass();
  };
  if (graphic.backdrop.kind !== 'none') {
    const { canvas } = await render({ ...graphic, layers: [] }, frame, density, [], turn);
    await add(canvas, { name: 'Backdrop', opacity: 1, visible: true });
  }
  for (const layer of graphic.layers) {
    const { canvas } = await render(shown, frame, density, vectors, turn, { only: layer.id }, made);
    const opacity = 'opacity' in layer ? layer.opacity : 1;
    await add(canvas, { name: cutText(layer.name, limits.name), opacity, visible: layer.visible });
  }
  const { canvas } = await render(graphic, frame, density, vectors, turn, {}, made);
  const by = Math.min(1, openRaster.thumbnailSide / Math.max(canvas.width, canvas.height));
  const small = new OffscreenCanvas(
    Math.max(1, Math.round(canvas.width * by)),
    Math.max(1, Math.round(canvas.height * by)),
  );
  const context = small.getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(canvas, 0, 0, small.width, small.height);
  const { width, height } = canvas;
  return { width, height, layers: files, merged: await png(canvas), thumbnail: await png(small) };
}

import { LRUCache } from 'lru-cache';
import {
  pictureFormats,
  plan,
  silhouetteOf,
  silhouetteSize,
  surfacesOf,
  typeOf,
  type CanvasWindow,
  type Graphic,
  type Shaper,
  type Silhouette,
  type SurfaceNeed,
} from '@bright-slot/core';
import { database } from '../storage/database';

/** So many drawings are kept as images. */
const MOST_IMAGES = 24;

/** Longest side that a drawing from elsewhere is drawn at, px. */
const LONGEST_SIDE = 4096;

const images = new LRUCache<string, Promise<HTMLImageElement>>({
  max: MOST_IMAGES,
  dispose: (image) => void image.then((i) => URL.revokeObjectURL(i.src)).catch(() => undefined),
});

async function decoded(svg: Blob): Promise<HTMLImageElement> {
  const element = new Image();
  element.src = URL.createObjectURL(svg);
  try {
    await element.decode();
  } catch (error) {
    URL.revokeObjectURL(element.src);
    throw error;
  }
  return element;
}

/** Where a drawing is to be seen. Rejects when the browser cannot draw it. */
export async function drawingSilhouette(svg: Blob, natural: { width: number; height: number }): Promise<Silhouette> {
  const image = await decoded(svg);
  const { width, height } = silhouetteSize(natural);
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.drawImage(image, 0, 0, width, height);
  URL.revokeObjectURL(image.src);
  return silhouetteOf(context.getImageData(0, 0, width, height));
}

/** An SVG as an image element: in that form its scripts never run and nothing outside it is loaded. */
function imageOf(asset: string): Promise<HTMLImageElement> {
  let image = images.get(asset);
  if (!image) {
    image = (async () => {
      const record = await database().assets.get(asset);
      if (!record) throw new Error('The drawing is no longer stored in this browser.');
      return decoded(record.blob);
    })();
    image.catch(() => images.delete(asset));
    images.set(asset, image);
  }
  return image;
}

/** What of a need a drawing's reduction depends on. */
type Drawn = Pick<SurfaceNeed, 'asset' | 'image' | 'shown' | 'out' | 'orient'>;

/** The reduction of a drawing: at exactly the pixels needed, sharp at every size, mirrored and turned by quarters. */
export async function drawnSurface({ asset, image: i, shown, out, orient }: Drawn): Promise<ImageBitmap> {
  const image = await imageOf(asset);
  const canvas = new OffscreenCanvas(out.width, out.height);
  const context = canvas.getContext('2d')!;
  context.beginPath();
  context.rect(shown.x - out.x, shown.y - out.y, shown.width, shown.height);
  context.clip();
  context.translate(i.x - out.x + i.width / 2, i.y - out.y + i.height / 2);
  context.rotate((orient.quarters * Math.PI) / 2);
  context.scale(orient.across ? -1 : 1, orient.down ? -1 : 1);
  const [width, height] = orient.quarters % 2 ? [i.height, i.width] : [i.width, i.height];
  context.drawImage(image, -width / 2, -height / 2, width, height);
  return canvas.transferToImageBitmap();
}

/** An SVG file as a page shows it, at so many px. Rejects when the browser cannot draw it. */
export async function drawnFile(
  svg: Blob,
  { width, height }: { readonly width: number; readonly height: number },
): Promise<ImageBitmap> {
  const image = await decoded(svg);
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.drawImage(image, 0, 0, width, height);
  URL.revokeObjectURL(image.src);
  return canvas.transferToImageBitmap();
}

/** A picture for a worker to decode: a drawing, which no worker can, as it shows at its own size; all else as it is. */
export async function decodable(picture: Blob): Promise<Blob> {
  if (typeOf(new Uint8Array(await picture.slice(0, 4096).arrayBuffer())) !== 'svg') return picture;
  const image = await decoded(new Blob([picture], { type: pictureFormats.svg.mime }));
  const { naturalWidth: width, naturalHeight: height } = image;
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.min(width, LONGEST_SIDE)),
    Math.max(1, Math.min(height, LONGEST_SIDE)),
  );
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  URL.revokeObjectURL(image.src);
  return canvas.convertToBlob();
}

/** A whole drawing, as it came, about `most` px on its longer side. */
export function drawnWhole(
  asset: string,
  natural: { width: number; height: number },
  most: number,
): Promise<ImageBitmap> {
  const by = Math.min(4, most / Math.max(natural.width, natural.height));
  const size = {
    width: Math.max(1, Math.ceil(natural.width * by)),
    height: Math.max(1, Math.ceil(natural.height * by)),
  };
  const box = { x: 0, y: 0, ...size };
  return drawnSurface({ asset, image: box, shown: box, out: box, orient: { across: false, down: false, quarters: 0 } });
}

/** The drawings a worker needs to paint a window of a canvas at a scale; the worker cannot make them itself. */
export async function vectorsFor(
  graphic: Graphic,
  window: CanvasWindow,
  scale: number,
  shaper: Shaper,
): Promise<{ key: string; bitmap: ImageBitmap }[]> {
  const needs = surfacesOf(plan(graphic, window, scale, shaper)).filter((n) => n.vector);
  return Promise.all(needs.map(async (n) => ({ key: n.base, bitmap: await drawnSurface(n) })));
}

import {
  mainFrame,
  plan,
  silhouetteOf,
  silhouetteSize,
  surfacesOf,
  type Graphic,
  type Shaper,
  type Silhouette,
  type SurfaceNeed,
} from '@bright-slot/core';
import { database } from '../storage/database';

const images = new Map<string, Promise<HTMLImageElement>>();

async function decoded(svg: Blob): Promise<HTMLImageElement> {
  const element = new Image();
  element.src = URL.createObjectURL(svg);
  await element.decode();
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

/** A surface of a drawing at exactly the pixels needed, sharp at every size. */
export async function vectorSurface(need: SurfaceNeed): Promise<ImageBitmap> {
  const image = await imageOf(need.asset);
  const canvas = new OffscreenCanvas(need.out.width, need.out.height);
  const context = canvas.getContext('2d')!;
  const { image: i, shown, out } = need;
  context.beginPath();
  context.rect(shown.x - out.x, shown.y - out.y, shown.width, shown.height);
  context.clip();
  context.drawImage(image, i.x - out.x, i.y - out.y, i.width, i.height);
  return canvas.transferToImageBitmap();
}

/** The drawings a worker needs to paint a graphic at a scale; the worker cannot make them itself. */
export async function vectorsFor(
  graphic: Graphic,
  scale: number,
  shaper: Shaper,
): Promise<{ key: string; bitmap: ImageBitmap }[]> {
  const needs = surfacesOf(plan(graphic, mainFrame(graphic), scale, shaper)).filter((n) => n.vector);
  return Promise.all(needs.map(async (n) => ({ key: n.key, bitmap: await vectorSurface(n) })));
}

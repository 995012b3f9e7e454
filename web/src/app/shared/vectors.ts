import { mainFrame, plan, surfacesOf, type Graphic, type Shaper, type SurfaceNeed } from '@bright-slot/core';
import { database } from '../storage/database';

const images = new Map<string, Promise<HTMLImageElement>>();

/** An SVG as an image element: in that form its scripts never run and nothing outside it is loaded. */
function imageOf(asset: string): Promise<HTMLImageElement> {
  let image = images.get(asset);
  if (!image) {
    image = (async () => {
      const record = await database().assets.get(asset);
      if (!record) throw new Error('The drawing is no longer stored in this browser.');
      const element = new Image();
      element.src = URL.createObjectURL(record.blob);
      await element.decode();
      return element;
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

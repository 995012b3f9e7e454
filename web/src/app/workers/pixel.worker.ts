/// <reference lib="webworker" />
import { isOpaque, silhouetteOf, silhouetteSize } from '@bright-slot/core';
import { encode } from './job/encode';
import { legibility } from './job/legibility';
import { picture } from './job/pictures';
import { render, renderFile } from './job/render';
import { makeSurface } from './job/surface';
import { Request, type Answers, type Reply, type Task } from './messages';

const stoppedJobs = new Set<number>();
const running = new Set<number>();

class Stopped extends Error {}

async function inspect(blob: Blob): Promise<Answers['inspect']> {
  const bitmap = await createImageBitmap(blob, { imageOrientation: 'from-image' });
  const { width, height } = bitmap;
  let opaque = blob.type === 'image/jpeg';
  if (!opaque) {
    opaque = true;
    // In bands, so that a large picture needs no second copy of itself.
    const band = Math.max(1, Math.min(height, Math.floor(4e6 / width)));
    const context = new OffscreenCanvas(width, band).getContext('2d', { willReadFrequently: true })!;
    for (let y = 0; y < height && opaque; y += band) {
      const rows = Math.min(band, height - y);
      context.clearRect(0, 0, width, band);
      context.drawImage(bitmap, 0, -y);
      const { data } = context.getImageData(0, 0, width, rows);
      opaque = isOpaque({ width, height: rows, data });
    }
  }
  const small = silhouetteSize(bitmap);
  const context = new OffscreenCanvas(small.width, small.height).getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, 0, 0, small.width, small.height);
  const silhouette = opaque ? null : silhouetteOf(context.getImageData(0, 0, small.width, small.height));
  bitmap.close();
  return { opaque, width, height, silhouette };
}

async function rough(asset: string, most: number): Promise<ImageBitmap> {
  const whole = await picture(asset);
  const by = Math.min(1, most / Math.max(whole.width, whole.height));
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(whole.width * by)),
    Math.max(1, Math.round(whole.height * by)),
  );
  const context = canvas.getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(whole, 0, 0, canvas.width, canvas.height);
  return canvas.transferToImageBitmap();
}

async function answer(task: Task, stopped: () => boolean): Promise<{ value: unknown; transfer: Transferable[] }> {
  switch (task.kind) {
    case 'surface': {
      const surface = await makeSurface(task.need, stopped);
      if (!surface) throw new Stopped();
      const bitmap = await createImageBitmap(surface);
      return { value: bitmap, transfer: [bitmap] };
    }
    case 'rough': {
      const bitmap = await rough(task.asset, task.most);
      return { value: bitmap, transfer: [bitmap] };
    }
    case 'inspect':
      return { value: await inspect(task.blob), transfer: [] };
    case 'file': {
      const canvas = await renderFile(task.graphic, task.vectors, stopped);
      if (!canvas || stopped()) throw new Stopped();
      const blob = await encode(canvas, task);
      return { value: { blob, width: canvas.width, height: canvas.height }, transfer: [] };
    }
    case 'legibility': {
      const samples = await legibility(task.graphic, task.ground, task.vectors, stopped);
      if (!samples) throw new Stopped();
      return { value: samples, transfer: [] };
    }
    case 'miniature': {
      const done = await render(task.graphic, task.width / task.graphic.canvas.width, task.vectors, stopped);
      if (!done) throw new Stopped();
      return { value: await done.canvas.convertToBlob({ type: 'image/webp', quality: 0.9 }), transfer: [] };
    }
  }
}

addEventListener('message', (event: MessageEvent<unknown>) => {
  const parsed = Request.safeParse(event.data);
  if (!parsed.success) return;
  if ('cancel' in parsed.data) {
    if (running.has(parsed.data.cancel)) stoppedJobs.add(parsed.data.cancel);
    return;
  }
  const { id, task } = parsed.data;
  running.add(id);
  const reply = (r: Reply, transfer: Transferable[] = []) => {
    running.delete(id);
    stoppedJobs.delete(id);
    postMessage(r, { transfer });
  };
  answer(task, () => stoppedJobs.has(id)).then(
    ({ value, transfer }) => reply({ id, answer: value }, transfer),
    (error: unknown) => {
      if (error instanceof Stopped) reply({ id, problem: { code: 'stopped', message: 'Stopped.' } });
      else reply({ id, problem: { code: 'pixels', message: error instanceof Error ? error.message : String(error) } });
    },
  );
});

import smartcrop, { type CropOptions } from 'smartcrop';
import { boxAbout, type Box, type Point } from '@bright-slot/core';

/** Side of the copy that is looked at, px. */
const SIDE = 112;

type Sheet = OffscreenCanvas;

/** The library's own work on canvases, with such as a worker has. */
const imageOperations = {
  open: (image: Sheet) => Promise.resolve(image),
  resample: (image: Sheet, width: number, height: number) => {
    const sheet = new OffscreenCanvas(Math.max(1, Math.round(width)), Math.max(1, Math.round(height)));
    sheet.getContext('2d')!.drawImage(image, 0, 0, sheet.width, sheet.height);
    return Promise.resolve(sheet);
  },
  getData: (image: Sheet) => Promise.resolve(image.getContext('2d')!.getImageData(0, 0, image.width, image.height)),
};

/** The point to keep in sight and what is around it, in shares of the picture, proposed from its content by a library. */
export async function proposedFocus(picture: ImageBitmap): Promise<{ focus: Point; subject: Box }> {
  const by = Math.min(1, SIDE / Math.max(picture.width, picture.height));
  const sheet = new OffscreenCanvas(
    Math.max(2, Math.round(picture.width * by)),
    Math.max(2, Math.round(picture.height * by)),
  );
  const context = sheet.getContext('2d')!;
  // What is transparent is neither light nor dark.
  context.fillStyle = '#808080';
  context.fillRect(0, 0, sheet.width, sheet.height);
  context.drawImage(picture, 0, 0, sheet.width, sheet.height);
  const side = Math.min(sheet.width, sheet.height);
  const options = { width: side, height: side, minScale: 0.5, imageOperations } as unknown as CropOptions;
  try {
    const { topCrop: c } = await smartcrop.crop(sheet, options);
    const focus = { x: (c.x + c.width / 2) / sheet.width, y: (c.y + c.height / 2) / sheet.height };
    // The library gives a pleasing square; what it is about is the middle half of it. Common practice, no source.
    const size = { width: c.width / 2 / sheet.width, height: c.height / 2 / sheet.height };
    return { focus, subject: boxAbout(focus, size) };
  } catch {
    return { focus: { x: 0.5, y: 0.5 }, subject: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 } };
  }
}

// Pictures for component tests, made by sharp as they are asked for, and how independent readers see them: exifr tells
// how one is turned, sharp its pixels.
import exifr from 'exifr';
import sharp from 'sharp';

/** Four quarters, each of its own colour: shows how a picture is turned. */
const quarters = (width, height) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" shape-rendering="crispEdges">` +
        `<rect width="${width / 2}" height="${height / 2}" fill="#c00000"/><rect x="${width / 2}" width="${width / 2}" height="${height / 2}" fill="#00a000"/>` +
        `<rect y="${height / 2}" width="${width / 2}" height="${height / 2}" fill="#0000c0"/><rect x="${width / 2}" y="${height / 2}" width="${width / 2}" height="${height / 2}" fill="#e0e000"/></svg>`,
    ),
  ).removeAlpha();

/** Answers `/made/FORMAT/WIDTHxHEIGHT/ORIENTATION`, and the same with `/seen`: size and the middles of its quarters. */
export function madePictures(app) {
  const made = async ({ format, size, orientation }) => {
    const [width, height] = size.split('x').map(Number);
    return quarters(width, height)
      .withMetadata({ orientation: Number(orientation) })
      .toFormat(format, { quality: 95 })
      .toBuffer();
  };
  app.get('/made/:format/:size/:orientation', async (from, to) => to.send(await made(from.params)));
  app.get('/made/:format/:size/:orientation/seen', async (from, to) => {
    const file = await made(from.params);
    const { data, info } = await sharp(file).autoOrient().removeAlpha().raw().toBuffer({ resolveWithObject: true });
    const at = (u, v) => {
      const i = (Math.round(info.height * v) * info.width + Math.round(info.width * u)) * 3;
      return [...data.subarray(i, i + 3)];
    };
    const swapped = (await exifr.rotation(file).catch(() => null))?.dimensionSwapped ?? false;
    const middles = [0.25, 0.75].flatMap((v) => [0.25, 0.75].map((u) => at(u, v)));
    to.json({ width: info.width, height: info.height, swapped, middles });
  });
}

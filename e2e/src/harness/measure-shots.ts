import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { measureSlot, type Box } from '@bright-slot/core';

/**
 * Measures drags on pictures: `tsx measure-shots.ts jobs.json`, where jobs are
 * `{ png, density, drags }`; prints what was measured as JSON. A process of its own,
 * since loops over pixels are thirty times slower within the test runner's sandbox.
 */
const jobs = JSON.parse(readFileSync(process.argv[2]!, 'utf8')) as { png: string; density: number; drags: Box[] }[];
const measured = [];
for (const { png, density, drags } of jobs) {
  const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const raster = { data, width: info.width, height: info.height };
  measured.push(drags.map((drag) => measureSlot(raster, drag, density)));
}
process.stdout.write(JSON.stringify(measured));

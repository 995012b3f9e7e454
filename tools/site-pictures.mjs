// Makes the pictures that the pottery's pages show before any is sent there: `node tools/site-pictures.mjs`.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { root } from './prepare.mjs';

const to = join(root, 'demo/site');
mkdirSync(to, { recursive: true });

/** Slot, photo, size in px, and which part of the photo: sharp's words for where to cut from. */
const pictures = [
  ['landing-header', 'sill', 1600, 520, 'centre'],
  ['blog-header', 'pano', 940, 198, 'centre'],
  ['slim-header', 'tiles', 960, 100, 'centre'],
  ['menu-tile', 'shelf', 320, 200, 'entropy'],
  ['mosaic-wide', 'pots-tall', 518, 600, 'centre'],
  ['mosaic-tall', 'kiln', 252, 600, 'centre'],
  ['mosaic-upper', 'tiles', 252, 293, 'centre'],
  ['mosaic-lower', 'wheel', 252, 293, 'entropy'],
  ['strip-square', 'shelf', 134, 134, 'entropy'],
  ['checkout-header', 'pano', 750, 90, 'centre'],
  ['form-header', 'wheel', 1600, 400, 'centre'],
  ['class-header', 'wheel', 1120, 280, 'entropy'],
  ['page-cover', 'shelf', 851, 315, 'centre'],
  ['profile-banner', 'pano', 1584, 396, 'centre'],
  ['chat-avatar', 'kiln', 128, 128, 'entropy'],
  ['link-card', 'sill', 1200, 630, 'centre'],
];
for (const [slot, photo, width, height, position] of pictures)
  await sharp(join(root, `demo/pictures/${photo}.jpg`))
    .resize(width, height, { fit: 'cover', position })
    .jpeg({ quality: 78, mozjpeg: true })
    .toFile(join(to, `${slot}.jpg`));
for (const [slot, width, height] of [
  ['logo', 512, 512],
  ['site-header', 1280, 150],
])
  await sharp(join(root, 'demo/logos/ottermill.svg'), { density: 300 })
    .resize(width, height, { fit: 'contain', background: '#00000000' })
    .png({ compressionLevel: 9, palette: true })
    .toFile(join(to, `${slot}.png`));

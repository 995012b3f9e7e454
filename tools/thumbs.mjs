// Makes demo/thumbs and demo/shelf.json from demo/pictures and demo/logos.
import { readdir, stat, writeFile, mkdir } from 'node:fs/promises';
import sharp from 'sharp';

const titles = {
  'kiln.jpg': 'Kiln at night',
  'pano.jpg': 'Long shelves',
  'pots-tall.jpg': 'The drying rack',
  'shelf.jpg': 'Drying shelf',
  'sill.jpg': 'Jugs on the sill',
  'tiles.jpg': 'Glaze tests',
  'wheel.jpg': 'A bowl on the wheel',
  'cutout-bottle.png': 'Bottle, cut out',
  'cutout-bowl.png': 'Blue bowl, cut out',
  'cutout-bowls.png': 'Bowls, cut out',
  'cutout-brush.png': 'Brush, cut out',
  'cutout-jug-tall.png': 'Tall jug, cut out',
  'cutout-jug.png': 'Jug, cut out',
  'cutout-mug.png': 'Mug, cut out',
  'cutout-sponge.png': 'Sponge, cut out',
  'ottermill.svg': 'Logo',
  'ottermill-padded.png': 'Logo with white around it',
  'old-header.jpg': 'Old header, too tall',
};
await mkdir('demo/thumbs', { recursive: true });
const svg = 'demo/logos/ottermill.svg';
await sharp({ create: { width: 1400, height: 900, channels: 3, background: '#fff' } })
  .composite([{ input: await sharp(svg, { density: 120 }).resize(840).png().toBuffer() }])
  .png({ palette: true })
  .toFile('demo/logos/ottermill-padded.png');
await sharp({ create: { width: 940, height: 520, channels: 3, background: '#fff' } })
  .composite([{ input: await sharp('demo/pictures/wheel.jpg').resize(940, 300).toBuffer(), left: 0, top: 180 }])
  .jpeg({ quality: 88 })
  .toFile('demo/logos/old-header.jpg');

const shelf = [];
for (const folder of ['pictures', 'logos'])
  for (const file of (await readdir(`demo/${folder}`)).sort()) {
    const path = `demo/${folder}/${file}`;
    const { width, height } = await sharp(path).metadata();
    const role = folder === 'logos' && !file.endsWith('.jpg') ? 'logo' : file.startsWith('cutout') ? 'cutout' : 'photo';
    shelf.push({
      file,
      title: titles[file] ?? file,
      width,
      height,
      bytes: (await stat(path)).size,
      credit: 'Bright Slot, for Ottermill Pottery',
      licence: 'MIT, with this project',
      role,
    });
    await sharp(path)
      .resize(320, 214, { fit: role === 'photo' ? 'cover' : 'contain', background: '#f7f4ee' })
      .flatten({ background: '#f7f4ee' })
      .jpeg({ quality: 80 })
      .toFile(`demo/thumbs/${file}.jpg`);
  }
shelf.sort((a, b) => ['photo', 'cutout', 'logo'].indexOf(a.role) - ['photo', 'cutout', 'logo'].indexOf(b.role));
await writeFile('demo/shelf.json', JSON.stringify(shelf, null, 2) + '\n');

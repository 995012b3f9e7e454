import { GlobalFonts, createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { readdirSync } from 'node:fs';
import sharp from 'sharp';
import { random } from '../../testing/samples';
import type { Pixels } from '../reduce';
import { cleanedLogo } from './clean';
import { cutFlat } from './flat';

const TYPE = new URL('../../../../.cache/type/', import.meta.url);
beforeAll(() => {
  for (const f of readdirSync(TYPE))
    if (f.endsWith('.ttf')) GlobalFonts.registerFromPath(new URL(f, TYPE).pathname, f.replace('.ttf', ''));
});

const W = 640;
const H = 320;

interface Made {
  readonly name: string;
  readonly sheet: string;
  /** JPEG quality; none is a PNG. */
  readonly jpeg?: number;
  /** A soft shadow under it, which goes with the sheet or stays: it is not judged. */
  readonly shadow?: boolean;
  draw(c: SKRSContext2D): void;
}

const text = (c: SKRSContext2D, words: string, font: string, colour: string, x: number, y: number) => {
  c.font = font;
  c.fillStyle = colour;
  c.textAlign = 'center';
  c.textBaseline = 'middle';
  c.fillText(words, x, y);
};

const ring = (c: SKRSContext2D, x: number, y: number, r: number, wide: number, colour: string) => {
  c.strokeStyle = colour;
  c.lineWidth = wide;
  c.beginPath();
  c.arc(x, y, r, 0, 2 * Math.PI);
  c.stroke();
};

const disc = (c: SKRSContext2D, x: number, y: number, r: number, colour: string) => {
  c.fillStyle = colour;
  c.beginPath();
  c.arc(x, y, r, 0, 2 * Math.PI);
  c.fill();
};

const word = (words: string, size: number, family: string, colour: string) => (c: SKRSContext2D) =>
  text(c, words, `${size}px ${family}`, colour, W / 2, H / 2);

/** Twenty logos of our own making: letters with counters, thin ones, pale parts within and without, shadows, noise. */
const logos: readonly Made[] = [
  { name: 'letters on white', sheet: '#ffffff', draw: word('Ottermill', 120, 'lora', '#6b3a22') },
  { name: 'letters on white, JPEG 75', sheet: '#ffffff', jpeg: 75, draw: word('Ottermill', 120, 'lora', '#6b3a22') },
  { name: 'letters on white, JPEG 50', sheet: '#ffffff', jpeg: 50, draw: word('Oak & Ash', 110, 'lora', '#1f2a30') },
  { name: 'thin letters', sheet: '#ffffff', draw: word('glaze book', 64, 'public-sans', '#1f6f5c') },
  { name: 'thin letters, JPEG 85', sheet: '#fbf9f4', jpeg: 85, draw: word('glaze book', 64, 'public-sans', '#1f6f5c') },
  { name: 'small thin letters', sheet: '#ffffff', draw: word('a diary from the mill', 34, 'lora', '#1f2a30') },
  {
    name: 'a ring around a letter',
    sheet: '#ffffff',
    draw: (c) => {
      ring(c, 320, 160, 110, 14, '#a4512f');
      text(c, 'O', '150px lora', '#a4512f', 320, 160);
    },
  },
  {
    name: 'cream inside a badge',
    sheet: '#ffffff',
    draw: (c) => {
      disc(c, 320, 160, 120, '#5a7a6b');
      disc(c, 320, 160, 84, '#f4e7cb');
      text(c, 'B', '110px lora', '#5a7a6b', 320, 160);
    },
  },
  {
    name: 'cream inside a badge, JPEG 80',
    sheet: '#ffffff',
    jpeg: 80,
    draw: (c) => {
      disc(c, 320, 160, 120, '#5a7a6b');
      disc(c, 320, 160, 84, '#f4e7cb');
      text(c, 'B', '110px lora', '#5a7a6b', 320, 160);
    },
  },
  {
    name: 'a pale rim outside',
    sheet: '#ffffff',
    draw: (c) => {
      disc(c, 320, 160, 130, '#f6ead2');
      disc(c, 320, 160, 100, '#6b3a22');
      text(c, 'a', '120px lora', '#f6ead2', 320, 155);
    },
  },
  {
    name: 'a pale rim outside, JPEG 85',
    sheet: '#ffffff',
    jpeg: 85,
    draw: (c) => {
      disc(c, 320, 160, 130, '#f2e2c4');
      disc(c, 320, 160, 100, '#6b3a22');
    },
  },
  {
    name: 'palest blue within',
    sheet: '#ffffff',
    draw: (c) => {
      c.fillStyle = '#eef4fa';
      c.fillRect(210, 90, 220, 140);
      c.strokeStyle = '#1f3a5a';
      c.lineWidth = 10;
      c.strokeRect(210, 90, 220, 140);
      text(c, 'Mill', '80px lora', '#1f3a5a', 320, 160);
    },
  },
  { name: 'light on dark', sheet: '#1f2a30', draw: word('Ottermill', 120, 'lora', '#f4e7cb') },
  { name: 'light on dark, JPEG 75', sheet: '#1f2a30', jpeg: 75, draw: word('Ottermill', 120, 'lora', '#f4e7cb') },
  { name: 'on kraft paper’s brown', sheet: '#c9a77c', draw: word('Ottermill', 120, 'lora', '#3a2416') },
  {
    name: 'two colours',
    sheet: '#f0ead8',
    jpeg: 90,
    draw: (c) => {
      text(c, 'Otter', '120px lora', '#1f6f5c', 190, 160);
      text(c, 'mill', '120px lora', '#a4512f', 470, 160);
    },
  },
  { name: 'with a shadow', sheet: '#ffffff', shadow: true, draw: word('Ottermill', 120, 'lora', '#6b3a22') },
  {
    name: 'with a shadow, JPEG 80',
    sheet: '#ffffff',
    shadow: true,
    jpeg: 80,
    draw: word('Oak & Ash', 110, 'lora', '#1f2a30'),
  },
  {
    name: 'fine rings',
    sheet: '#ffffff',
    draw: (c) => [40, 60, 80, 100].forEach((r) => ring(c, 320, 160, r, 3, '#1f2a30')),
  },
  {
    name: 'fine rings, JPEG 85',
    sheet: '#ffffff',
    jpeg: 85,
    draw: (c) => [40, 60, 80, 100].forEach((r) => ring(c, 320, 160, r, 4, '#1f2a30')),
  },
];

async function made(logo: Made) {
  const { sheet, jpeg, shadow } = logo;
  const alone = createCanvas(W, H).getContext('2d');
  logo.draw(alone);
  const on = createCanvas(W, H).getContext('2d');
  on.fillStyle = sheet;
  on.fillRect(0, 0, W, H);
  if (shadow) {
    on.shadowColor = 'rgb(0 0 0 / 30%)';
    on.shadowBlur = 8;
    on.shadowOffsetY = 5;
  }
  on.drawImage(alone.canvas, 0, 0);
  const read = (c: SKRSContext2D): Pixels => ({
    width: W,
    height: H,
    data: new Uint8ClampedArray(c.getImageData(0, 0, W, H).data),
  });
  const truth = read(alone);
  if (!jpeg) return { truth, seen: read(on) };
  const file = await sharp(Buffer.from(on.canvas.toBuffer('image/png')))
    .jpeg({ quality: jpeg })
    .toBuffer();
  const { data } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { truth, seen: { width: W, height: H, data: new Uint8ClampedArray(data) } };
}

/** Px whose truth is clear and that lie off the mark by more than the shadow reaches, or in the mark's own counters. */
function judged(truth: Pixels, result: Pixels, shadow: boolean) {
  let [mark, kept, clear, gone] = [0, 0, 0, 0];
  const alpha = (i: number) => truth.data[i * 4 + 3]!;
  const nearMark = (i: number) => {
    if (!shadow) return false;
    for (let dy = -18; dy <= 10; dy += 2)
      for (let dx = -14; dx <= 14; dx += 2) {
        const [x, y] = [(i % W) + dx, Math.floor(i / W) + dy];
        if (x >= 0 && y >= 0 && x < W && y < H && alpha(y * W + x) > 128) return true;
      }
    return false;
  };
  for (let i = 0; i < W * H; i++) {
    const now = result.data[i * 4 + 3]!;
    if (alpha(i) >= 243) {
      mark++;
      if (now >= 128) kept++;
    } else if (alpha(i) <= 12 && !nearMark(i)) {
      clear++;
      if (now < 64) gone++;
    }
  }
  return { kept: kept / mark, gone: gone / clear };
}

// The truth is the mark as Skia drew it by itself; noise is libjpeg-turbo's, through sharp.
it('takes twenty logos off their sheets: counters gone, pale parts kept, trimmed', async () => {
  const found = [];
  for (const logo of logos) {
    const { truth, seen } = await made(logo);
    const clean = cleanedLogo(seen)!;
    const { kept, gone } = judged(truth, cutFlat(seen, clean.cutout), !!logo.shadow);
    let [left, right, top, bottom] = [W, 0, H, 0];
    for (let i = 0; i < W * H; i++)
      if (truth.data[i * 4 + 3]! > 128) {
        [left, right] = [Math.min(left, i % W), Math.max(right, (i % W) + 1)];
        [top, bottom] = [Math.min(top, Math.floor(i / W)), Math.max(bottom, Math.floor(i / W) + 1)];
      }
    const { box } = clean;
    const off = Math.max(left - box.x, box.x + box.width - right, top - box.y, box.y + box.height - bottom);
    const cut = Math.max(box.x - left, right - box.x - box.width, box.y - top, bottom - box.y - box.height);
    found.push({ name: logo.name, tolerance: clean.cutout.tolerance, kept, gone, off, cut });
  }
  console.log(
    found
      .map(
        (f) =>
          `${f.name}: tolerance ${f.tolerance}, kept ${f.kept.toFixed(4)}, gone ${f.gone.toFixed(4)}, box ${f.off} px wide of it, ${f.cut} px cut`,
      )
      .join('\n'),
  );
  for (const [i, f] of found.entries()) {
    expect([f.name, f.kept > 0.985]).toEqual([f.name, true]);
    expect([f.name, f.gone > 0.995]).toEqual([f.name, true]);
    expect([f.name, f.cut <= 1]).toEqual([f.name, true]);
    if (!logos[i]!.shadow) expect([f.name, f.off <= 3]).toEqual([f.name, true]);
  }
}, 120_000);

it('says so where there is nothing to take away', () => {
  const next = random(412);
  const data = Uint8ClampedArray.from({ length: 40 * 40 * 4 }, (_, i) =>
    i % 4 === 3 ? 255 : Math.floor(next() * 256),
  );
  expect(cleanedLogo({ width: 40, height: 40, data })).toBeNull();
  // Nor where it is clear already.
  expect(cleanedLogo({ width: 40, height: 40, data: new Uint8ClampedArray(40 * 40 * 4) })).toBeNull();
});

import { contrastOfLuminance, luminance } from '../colour/contrast';
import { contains, intersection, type Box } from '../geometry/box';
import { type Graphic, type WordsLayer } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import { seenEverywhere } from '../slot/shown';
import type { Pixels } from '../pixels/reduce';
import { blank, photo, random, slotOf, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { layoutOf, wordsBounds } from '../words/layout';
import { keptCentred } from '../words/centred';
import {
  groundMap,
  placedWords,
  placesWithin,
  roomFor,
  roomForLogo,
  takenBoxes,
  underBox,
  type GroundMap,
} from './room';
import type { Shaper } from '../words/shaper';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const plain = (light: number): GroundMap => ({
  across: 1,
  down: 1,
  low: [light],
  high: [light],
  busy: [0],
  subject: [0],
});
const boxOf = (l: WordsLayer): Box => wordsBounds(l, layoutOf(l, shaper));
const colourOf = (l: WordsLayer) => l.paragraphs[0]!.runs[0]!.colour;
const sizeOf = (l: WordsLayer) => l.paragraphs[0]!.runs[0]!.size;

describe('words on an empty canvas', () => {
  it('stand in the middle, dark on a pale ground and pale on a dark one', () => {
    const g = blank();
    for (const [light, colour] of [
      [0.9, '#1f2a30'],
      [0.02, '#ffffff'],
    ] as const) {
      const layer = placedWords(words('Your words', { id: 'n' }), g, frameOf(g), plain(light), shaper);
      const box = boxOf(layer);
      expect(box.x + box.width / 2).toBeCloseTo(470, 6);
      expect(box.y + box.height / 2).toBeCloseTo(99, 6);
      expect(colourOf(layer)).toBe(colour);
      expect(layer.paragraphs[0]!.align).toBe('centre');
    }
    // The house's own colour where it is read, and only there.
    expect(colourOf(placedWords(words('a'), g, frameOf(g), plain(0.9), shaper, ['#4a2617']))).toBe('#4a2617');
    expect(colourOf(placedWords(words('a'), g, frameOf(g), plain(0.02), shaper, ['#4a2617']))).toBe('#ffffff');
  });

  it('a second block falls in below the first, half its size or as small as a phone’s page allows, in its alignment and colour', () => {
    const first = placedWords(words('Autumn', {}, { size: 40 }), blank(), frameOf(blank()), plain(0.9), shaper);
    const g = withLayers(blank(), { ...first, id: 'a' });
    const second = placedWords(words('from Friday', { id: 'b' }), g, frameOf(g), plain(0.9), shaper);
    const [a, b] = [boxOf(first), boxOf(second)];
    // A phone shows 24 of 940 px as 9.
    expect(sizeOf(second)).toBe(24);
    expect(b.y).toBeGreaterThan(a.y + a.height);
    expect(b.y - a.y - a.height).toBeLessThan(20);
    expect(b.x + b.width / 2).toBeCloseTo(470, 6);
    expect(colourOf(second)).toBe(colourOf(first));
  });

  it('stay clear of what the page lays over the slot, and within its safe area', () => {
    const cover = blank('page-cover');
    const { slot } = frameOf(cover);
    const long = placedWords(words('Kiln opening, Saturday at four'), cover, frameOf(cover), plain(0.02), shaper);
    expect(slot.covered.some((c) => intersection(c, boxOf(long)))).toBe(false);
    expect(boxOf(long).x).toBeGreaterThanOrEqual(90 - 0.01);
    const round = placedWords(
      words('Ottermill'),
      blank('chat-avatar'),
      frameOf(blank('chat-avatar')),
      plain(0.9),
      shaper,
    );
    const box = boxOf(round);
    for (const x of [box.x, box.x + box.width])
      for (const y of [box.y, box.y + box.height]) expect(Math.hypot(x - 64, y - 64)).toBeLessThanOrEqual(64.01);
  });
});

it('words in the middle stay there when their size changes; others keep their anchor', () => {
  const canvas = { width: 940, height: 198 };
  const layer = placedWords(words('Your words'), blank(), frameOf(blank()), plain(0.9), shaper);
  const larger = keptCentred(
    layer,
    { ...layer, paragraphs: words('Your words', {}, { size: 90 }).paragraphs },
    canvas,
    shaper,
  );
  const box = boxOf(larger);
  expect([box.x + box.width / 2, box.y + box.height / 2]).toEqual([expect.closeTo(470, 6), expect.closeTo(99, 6)]);
  const aside = { ...layer, place: { x: 300, y: 20 } };
  const after = { ...aside, lineSpacing: 2 };
  expect(keptCentred(aside, after, canvas, shaper)).toBe(after);
});

/** A canvas of fields: calm ones of random tones, busy ones, and a subject. */
function scene(next: () => number, width: number, height: number): { pixels: Pixels; subject: Box } {
  const data = new Uint8ClampedArray(width * height * 4);
  const tone = () => Math.floor(next() * 256);
  const halves = [tone(), tone(), tone()];
  const busy = Math.floor(next() * 4);
  const w = Math.floor(width * (0.15 + 0.2 * next()));
  const h = Math.floor(height * (0.3 + 0.4 * next()));
  const subject = { x: Math.floor(next() * (width - w)), y: Math.floor(next() * (height - h)), width: w, height: h };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const third = Math.min(2, Math.floor((x * 3) / width));
      const noise = third === busy ? (next() - 0.5) * 180 : 0;
      const inside = x >= subject.x && x < subject.x + w && y >= subject.y && y < subject.y + h;
      const i = (y * width + x) * 4;
      const v = halves[third]! + noise;
      data.set(inside ? [200, 60, 20, 255] : [v, v, v, 255], i);
    }
  return { pixels: { data, width, height }, subject };
}

it('over 60 random scenes lands on nothing that is taken, and is read wherever a place for it is', () => {
  const seed = 1919;
  const next = random(seed);
  let missed = 0;
  const worst = { contrast: Infinity, n: -1 };
  for (let n = 0; n < 60; n++) {
    const slot = slotOf(['blog-header', 'form-header', 'link-card', 'page-cover'][n % 4]!);
    const canvas = { width: slot.width, height: slot.height };
    const by = 320 / Math.max(canvas.width, canvas.height);
    const { pixels } = scene(next, Math.round(canvas.width * by), Math.round(canvas.height * by));
    const map = groundMap(pixels, '#ffffff', pixels);
    const taken = Array.from({ length: Math.floor(next() * 3) }, () => ({
      x: next() * canvas.width * 0.7,
      y: next() * canvas.height * 0.7,
      width: canvas.width * 0.3 * next() + 20,
      height: canvas.height * 0.3 * next() + 10,
    }));
    const ask = {
      canvas,
      within: placesWithin({ slot, rect: { x: 0, y: 0, ...canvas } }),
      round: null,
      taken,
      apart: 4,
      size: { width: canvas.width * (0.15 + 0.3 * next()), height: canvas.height * (0.12 + 0.15 * next()) },
      least: 0.3,
      wanted: { x: canvas.width / 2, y: canvas.height / 2 },
      map,
      colours: ['#ffffff', '#1f2a30'],
      near: 1,
      below: -Infinity,
      needed: () => 3.5,
    };
    const room = roomFor(ask)!;
    expect([n, seed, room !== null]).toEqual([n, seed, true]);
    const size = { width: ask.size.width * room.by, height: ask.size.height * room.by };
    const box = { x: room.middle.x - size.width / 2, y: room.middle.y - size.height / 2, ...size };
    expect(taken.some((t) => intersection(t, box))).toBe(false);
    const on = underBox(map, canvas, box)!;
    const ink = luminance(room.colour!);
    const inside = ink > on.low && ink < on.high;
    const contrast = inside ? 1 : Math.min(contrastOfLuminance(ink, on.low), contrastOfLuminance(ink, on.high));
    if (contrast < worst.contrast) Object.assign(worst, { contrast, n });
    if (contrast >= 3.5 && on.subject < 0.02) continue;
    // The slow way: is there any place at this size at which nothing is wrong?
    missed++;
    for (let y = size.height / 2; y < canvas.height - size.height / 2; y += canvas.height / 40)
      for (let x = size.width / 2; x < canvas.width - size.width / 2; x += canvas.width / 60) {
        const other = { x: x - size.width / 2, y: y - size.height / 2, ...size };
        if (
          !ask.within.some(
            (w) =>
              w.x <= other.x &&
              w.y <= other.y &&
              w.x + w.width >= other.x + other.width &&
              w.y + w.height >= other.y + other.height,
          )
        )
          continue;
        if (
          taken.some((t) => intersection({ x: t.x - 4, y: t.y - 4, width: t.width + 8, height: t.height + 8 }, other))
        )
          continue;
        const under = underBox(map, canvas, other)!;
        const best = Math.max(
          under.high < 1 ? contrastOfLuminance(1, under.high) : 1,
          under.low > luminance('#1f2a30') ? contrastOfLuminance(luminance('#1f2a30'), under.low) : 1,
        );
        expect([n, seed, best >= 4 && under.subject === 0 && under.busy < on.busy]).toEqual([n, seed, false]);
      }
  }
  console.log(`60 scenes, seed ${seed}: ${missed} without a place where nothing is wrong; least contrast`, worst);
});

it('a logo alone stands in the middle; beside words it keeps off them', () => {
  const size = { width: 120, height: 120 };
  expect(roomForLogo(size, blank(), frameOf(blank()), plain(1), shaper)).toEqual({ x: 410, y: 39, ...size });
  // Too wide for what a phone shows of it, it is made to fit that.
  const cover = blank('page-cover');
  const seen = seenEverywhere(frameOf(cover).slot)!;
  const wide = roomForLogo({ width: 780, height: 100 }, cover, frameOf(cover), plain(1), shaper);
  expect(seen.width).toBeLessThan(780);
  expect(contains(seen, wide, 1e-6)).toBe(true);
  const g: Graphic = withLayers(blank(), words('Ottermill Pottery', {}, { size: 40 }));
  const box = roomForLogo(size, g, frameOf(g), plain(1), shaper);
  expect(takenBoxes(g, frameOf(g), shaper).some((t) => intersection(t, box))).toBe(false);
  // On a covering photo its subject is kept clear.
  const pixels = scene(random(7), 320, 67);
  const map = groundMap(pixels.pixels, '#ffffff', pixels.pixels);
  const over = roomForLogo({ width: 60, height: 60 }, withLayers(blank(), photo()), frameOf(blank()), map, shaper);
  expect(underBox(map, { width: 940, height: 198 }, over)!.subject).toBeLessThan(0.05);
});

import { type Graphic } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import { contrastOfLuminance, contrast } from '../colour/contrast';
import { turnedPoint, middleOf } from '../geometry/turn';
import type { Pixels } from '../pixels/reduce';
import { linearOf } from '../colour/srgb';
import { darkeningAt } from '../slot/darkening';
import { painted, readerOf } from '../testing/reader';
import { blank, random, shape, slotOf, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { itemInk, layoutOf, wordsExtent } from '../words/layout';
import { contrastOfLetter, faintestLetter } from './legibility';
import type { Shaper } from '../words/shaper';
import { readWords } from './ways';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

const on = (
  colour: string,
  slot: Partial<Graphic['frames'][0]['slot']> = {},
  size = { width: 940, height: 198 },
): Graphic => {
  const g = blank();
  return {
    ...g,
    canvas: size,
    backdrop: { kind: 'colour', colour },
    frames: [{ ...frameOf(g), rect: { x: 0, y: 0, ...size }, slot: { ...slotOf('blog-header'), ...size, ...slot } }],
  };
};

/** Reads the words of a graphic; the faintest of them all. */
async function read(graphic: Graphic, scale = 1) {
  const layer = graphic.layers.find((l) => l.role === 'words')!;
  const letters = await readWords(graphic, layer, readerOf(graphic, shaper, scale));
  return { letters, worst: faintestLetter({ letters }, 1) };
}

const rectangle = (box: { x: number; y: number; width: number; height: number }, colour: string, opacity = 1) =>
  shape({ place: { mode: 'box', box }, fill: { kind: 'colour', colour }, opacity });

describe('turned words', () => {
  it('are judged where they stand: a title turned upright on a tall skyscraper, of which two thirds lie on black', async () => {
    const size = { width: 120, height: 900 };
    const layer = words(
      'AUTUMN GLAZES AT THE MILL',
      { place: { x: 60, y: 426 }, turn: 90 },
      { size: 40, colour: '#000000' },
    );
    const graphic = withLayers(
      on('#ffffff', {}, size),
      rectangle({ x: 0, y: 0, width: 120, height: 324 }, '#000000'),
      rectangle({ x: 0, y: 576, width: 120, height: 324 }, '#000000'),
      layer,
    );
    const { letters, worst } = await read({
      ...graphic,
      layers: graphic.layers.map((l, i) => ({ ...l, id: `l${i}` })),
    });
    expect(letters).toHaveLength(21);
    expect(worst!.contrast).toBeLessThan(1.05);
    // Black on black: as many letters as have their middle there.
    const layout = layoutOf(layer, shaper);
    const about = middleOf(wordsExtent(layer, layout));
    const dark = layout.items.filter((item) => {
      const { y } = turnedPoint(middleOf(itemInk(item)!), 90, about);
      return y < 324 || y > 576;
    });
    const seen = letters.filter((l) => contrastOfLetter(l) < 1.5);
    expect(seen.length).toBeGreaterThanOrEqual(dark.length);
    expect(letters.filter((l) => contrastOfLetter(l) > 18).length).toBeGreaterThan(3);
  });

  it('off the canvas before they are turned, on it afterwards, are found', async () => {
    const tall = on('#808080', {}, { width: 100, height: 600 });
    const layer = words(
      'A LONG TITLE UP THE SIDE',
      { place: { x: 50, y: 280 }, turn: -90 },
      { size: 36, colour: '#8a8a8a' },
    );
    const { letters, worst } = await read(withLayers(tall, layer));
    expect(letters.length).toBe(19);
    expect(worst!.contrast).toBeCloseTo(contrast('#8a8a8a', '#808080'), 1);
  });
});

describe('outlines count by what they cover', () => {
  const white = (width: number) =>
    withLayers(on('#ffffff'), words('Glazes', { outline: { width, colour: '#000000' } }));
  it('a hairline of 0.1 px around white words on white leaves them unseen', async () => {
    expect((await read(white(0.1))).worst!.contrast).toBeLessThan(1.6);
  });
  it('one of 2 px makes them readable, by their letters or by it', async () => {
    expect((await read(white(2))).worst!.contrast).toBeGreaterThan(12);
  });
  it('is never said to be more than its darkest pixel: widths from 0.05 to 1.5 px at densities 1 to 3', async () => {
    for (const density of [1, 2, 3])
      for (const width of [0.05, 0.1, 0.2, 0.35, 0.5, 0.8, 1.5]) {
        const graphic = white(width);
        const { pixels } = painted(graphic, shaper, density);
        let darkest = 255;
        for (let i = 0; i < pixels.data.length; i += 4) darkest = Math.min(darkest, pixels.data[i]!);
        const { worst } = await read(graphic, density);
        expect(worst!.contrast).toBeLessThanOrEqual(contrastOfLuminance(linearOf[darkest]!, 1) * 1.12);
      }
  });
});

describe('what lies over words', () => {
  const title = words('Autumn glazes', {}, { colour: '#1f2a30' });
  const all = { x: 0, y: 0, width: 940, height: 198 };
  it('an opaque rectangle over them leaves nothing to read', async () => {
    const { worst } = await read(withLayers(on('#ffffff'), title, rectangle(all, '#a4512f')));
    expect(worst!.contrast).toBeCloseTo(1, 2);
  });
  it('a bar across one letter is found at that letter', async () => {
    const { items } = layoutOf(title, shaper);
    const g = itemInk(items[6]!)!;
    const bar = rectangle({ x: g.x - 4, y: 0, width: g.width / 2 + 4, height: 198 }, '#1f2a30');
    const { worst } = await read(withLayers(on('#ffffff'), title, bar));
    expect(worst!.letter.index).toBe(6);
    expect(worst!.contrast).toBeLessThan(1.5);
  });
  it('the page’s own darkening lies over them too: black words lose by it, and white ones on a pale ground gain', async () => {
    const darkening = { kind: 'all', strength: 0.5, switchable: false, on: true } as const;
    const pixel = (n: number) => linearOf[Math.round(n * 0.5)]!;
    const grey = words('Glazes', {}, { colour: '#767676' });
    const { worst } = await read(withLayers(on('#ffffff', { darkening }), grey));
    expect(worst!.contrast).toBeCloseTo(contrastOfLuminance(pixel(255), pixel(0x76)), 1);
    expect(worst!.contrast).toBeLessThan(contrast('#ffffff', '#767676') - 0.5);
  });
  it('rising from the foot it is what the page’s gradient is', () => {
    const slot = { darkening: { kind: 'foot', strength: 0.8, switchable: false, on: true } } as const;
    // CSS Images 3, section 3.4.2: straight between two stops.
    expect([0, 0.225, 0.45, 0.65, 0.85, 1].map((up) => Math.round(darkeningAt(slot, up) * 1000) / 1000)).toEqual([
      0.8, 0.58, 0.36, 0.18, 0, 0,
    ]);
  });
});

describe('against the painted file itself (Skia’s pixels, WCAG 2.2’s formula)', () => {
  const r = random(1204);
  const colour = () =>
    `#${Math.floor(r() * 0x1000000)
      .toString(16)
      .padStart(6, '0')}`;
  const luminanceAt = ({ data, width }: Pixels, x: number, y: number, darkness: number) => {
    const i = (y * width + x) * 4;
    const [red, green, blue] = [0, 1, 2].map((c) => linearOf[Math.round(data[i + c]! * (1 - darkness))]!);
    return 0.2126 * red! + 0.7152 * green! + 0.0722 * blue!;
  };

  it('60 random words, turned, covered by a random sheet, darkened by the page (seed 1204)', async () => {
    let worstCase = { off: 0, said: 0, seen: 0, number: 0 };
    for (let n = 0; n < 60; n++) {
      const own = words(
        'Ill',
        { place: { x: 470, y: 60 }, turn: n % 2 ? (r() - 0.5) * 360 : 0 },
        { size: 60 + r() * 30, colour: colour() },
      );
      const strength = n % 3 === 0 ? r() * 0.8 : 0;
      const darkening = { kind: 'all', strength, switchable: false, on: true } as const;
      const sheet = rectangle({ x: -10, y: -10, width: 960, height: 220 }, colour(), n % 4 === 0 ? 1 : r());
      const graphic = withLayers(on(colour(), { darkening }), own, ...(n % 5 ? [sheet] : []));
      const { letters } = await read(graphic);
      const whole = painted(graphic, shaper).pixels;
      const layout = layoutOf(own, shaper);
      const about = middleOf(wordsExtent(own, layout));
      // The middle of an l is ink through and through; a little beside it is ground.
      const l = layout.items[1]!;
      const ink = itemInk(l)!;
      const at = (x: number) => {
        const p = turnedPoint({ x, y: ink.y + ink.height / 2 }, own.turn, about);
        return luminanceAt(whole, Math.floor(p.x), Math.floor(p.y), strength);
      };
      const seen = contrastOfLuminance(at(ink.x + ink.width / 2), at(ink.x - Math.max(4, ink.width * 0.4)));
      const said = contrastOfLetter(letters.find((m) => m.index === 1)!);
      const off = Math.abs(said - seen) / seen;
      if (off > worstCase.off) worstCase = { off, said, seen, number: n };
    }
    console.info('worst of 60', worstCase);
    // Rounding to 8 bits at each sheet.
    expect(worstCase.off).toBeLessThan(0.04);
  });
});

it('of very many letters none is passed over: one pale letter among 2 000', async () => {
  const text = Array.from({ length: 50 }, (_, i) =>
    Array.from({ length: 40 }, (_l, k) => 'abcdefgh'[(i + k) % 8]).join(''),
  ).join('\n');
  const layer = words(text, { place: { x: 300, y: 10 } }, { size: 16, colour: '#1f2a30' });
  const size = { width: 600, height: 1000 };
  const { items } = layoutOf(layer, shaper);
  for (const index of [1801, 1999]) {
    const box = itemInk(items[index]!)!;
    const { letters, worst } = await read(
      withLayers(
        on('#ffffff', {}, size),
        rectangle({ x: box.x - 2, y: box.y - 2, width: box.width + 4, height: box.height + 4 }, '#1f2a30'),
        layer,
      ),
    );
    expect(letters).toHaveLength(2000);
    expect([index - 1, index, index + 1]).toContain(worst!.letter.index);
    expect(worst!.contrast).toBeLessThan(1.5);
  }
});

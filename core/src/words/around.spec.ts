import { createCanvas } from '@napi-rs/canvas';
import { scaledWords } from '../graphic/arrange';
import { type WordsLayer } from '../graphic/graphic';
import { frameOf } from '../graphic/frame';
import type { PaintContext } from '../paint/context';
import { paint } from '../paint/paint';
import { plan } from '../paint/plan';
import { blank, withLayers, words } from '../testing/samples';
import { realShaper } from '../testing/type';
import { groundBox, layoutWords, textAs, wordsBounds, wordsExtent } from './layout';
import type { Shaper } from './shaper';

let shaper: Shaper;
beforeAll(async () => {
  shaper = await realShaper();
});

/** A layer painted alone on a white blog header, RGBA. */
function painted(layer: WordsLayer, options: Parameters<typeof plan>[4] = {}) {
  const graphic = { ...withLayers(blank(), layer), backdrop: { kind: 'colour' as const, colour: '#ffffff' } };
  const p = plan(graphic, frameOf(graphic), 1, shaper, options);
  const context = createCanvas(p.width, p.height).getContext('2d');
  paint(p, { exact: () => undefined, rough: () => undefined }, context as unknown as PaintContext<never>);
  const { data } = context.getImageData(0, 0, p.width, p.height);
  return {
    data,
    width: p.width,
    at: (x: number, y: number) => [...data.subarray((y * p.width + x) * 4, (y * p.width + x) * 4 + 3)],
  };
}
const inked = (data: Uint8ClampedArray, is: (r: number, g: number, b: number) => boolean) => {
  let n = 0;
  for (let i = 0; i < data.length; i += 4) if (is(data[i]!, data[i + 1]!, data[i + 2]!)) n++;
  return n;
};

describe('letter spacing', () => {
  it('adds its share of the size after each letter, the last one too (CSS Text 3, section 8.2)', () => {
    const plain = layoutWords(words('Kiln diary'), shaper).box.width;
    const spaced = layoutWords(words('Kiln diary', {}, { tracking: 0.1 }), shaper).box.width;
    expect(spaced - plain).toBeCloseTo(10 * 52 * 0.1, 6);
  });

  it('parts ligatures: "fi" spaced out is two letters', () => {
    const face = { family: 'Lora', weight: 500, italic: false };
    const letters = (tracking: number) =>
      layoutWords(words('fire office', {}, { tracking, face }), shaper).items.length;
    expect(letters(0.05)).toBe(10);
    expect(letters(0)).toBeLessThanOrEqual(10);
  });

  it('goes with the size', () => {
    const a = layoutWords(words('Wheel', {}, { tracking: 0.2 }), shaper);
    const b = layoutWords(words('Wheel', {}, { tracking: 0.2, size: 104 }), shaper);
    expect(b.box.width).toBeCloseTo(2 * a.box.width, 6);
  });
});

describe('case', () => {
  it.each([
    ['typed', 'the Kiln’s straße', 'the Kiln’s straße'],
    ['upper', 'the Kiln’s straße', 'THE KILN’S STRASSE'],
    ['lower', 'The KILN', 'the kiln'],
    ['title', 'notes from the wheel, it’s open', 'Notes From The Wheel, It’s Open'],
  ] as const)('%s: %s becomes %s', (kind, text, want) => {
    expect(textAs({ text, case: kind })).toBe(want);
  });

  it('is how words are set: what was typed stays', () => {
    const layer = words('kiln', {}, { case: 'upper' });
    expect(layer.paragraphs[0]!.runs[0]!.text).toBe('kiln');
    expect(layoutWords(layer, shaper).box.width).toBeCloseTo(layoutWords(words('KILN'), shaper).box.width, 6);
  });
});

describe('what is around letters', () => {
  const base = words('Kiln', { place: { x: 470, y: 50 } }, { colour: '#000000' });

  it('an outline lies outside the letters: they keep their own pixels', () => {
    const bare = painted(base);
    const lined = painted({ ...base, outline: { width: 4, colour: '#ff0000' } });
    for (let i = 0; i < bare.data.length; i += 4)
      if (bare.data[i] === 0) expect([lined.data[i], lined.data[i + 1]]).toEqual([0, 0]);
    expect(inked(lined.data, (r, g) => r > 200 && g < 60)).toBeGreaterThan(600);
  });

  it('a ground lies behind the lines, as far as asked, its corners round, its opacity its own', () => {
    const layer = { ...base, ground: { colour: '#00ff00', opacity: 1, across: 20, down: 5, radius: 10 } };
    const box = groundBox(layer, layoutWords(layer, shaper))!;
    const { at } = painted(layer);
    expect(at(Math.ceil(box.x) + 1, Math.round(box.y + box.height / 2))).toEqual([0, 255, 0]);
    expect(at(Math.floor(box.x) - 1, Math.round(box.y + box.height / 2))).toEqual([255, 255, 255]);
    expect(at(Math.ceil(box.x), Math.ceil(box.y))).toEqual([255, 255, 255]);
    const half = painted({ ...layer, ground: { ...layer.ground, opacity: 0.5 } });
    expect(half.at(Math.ceil(box.x) + 3, Math.round(box.y + box.height / 2))[0]).toBeCloseTo(128, -0.5);
  });

  it('a shadow falls as a 2D canvas lets it fall', () => {
    const shadow = { distance: 10, angle: 0, blur: 8, colour: '#0000ff', strength: 1 };
    const { data } = painted({ ...base, shadow });
    const graphic = { ...withLayers(blank(), base), backdrop: { kind: 'none' as const } };
    const p = plan(graphic, frameOf(graphic), 1, shaper);
    const letters = createCanvas(p.width, p.height);
    paint(
      p,
      { exact: () => undefined, rough: () => undefined },
      letters.getContext('2d') as unknown as PaintContext<never>,
    );
    const c = createCanvas(p.width, p.height).getContext('2d');
    c.fillStyle = '#ffffff';
    c.fillRect(0, 0, p.width, p.height);
    c.shadowColor = '#0000ff';
    c.shadowBlur = 8;
    c.shadowOffsetX = 10;
    c.drawImage(letters, 0, 0);
    const want = c.getImageData(0, 0, p.width, p.height).data;
    let worst = 0;
    for (let i = 0; i < data.length; i++) worst = Math.max(worst, Math.abs(data[i]! - want[i]!));
    expect(worst).toBeLessThanOrEqual(6);
  });

  it('under the letters there are ground, shadow and outline, and no letter', () => {
    const layer = {
      ...base,
      ground: { colour: '#00ff00', opacity: 1, across: 20, down: 5, radius: 0 },
      shadow: { distance: 0, angle: 0, blur: 4, colour: '#0000ff', strength: 1 },
    };
    const { data } = painted(layer, { below: layer.id, withGround: true });
    expect(inked(data, (r, g, b) => r === 0 && g === 255 && b === 0)).toBeGreaterThan(2000);
    expect(inked(data, (_r, _g, b) => b > 200)).toBeGreaterThan(0);
    expect(inked(data, (r, g, b) => r < 20 && g < 20 && b < 20)).toBe(0);
  });

  it('the selection encloses all of it, turned too', () => {
    const layer = {
      ...base,
      outline: { width: 6, colour: '#ff0000' },
      ground: { colour: '#00ff00', opacity: 1, across: 20, down: 5, radius: 0 },
      turn: 30,
    };
    const layout = layoutWords(layer, shaper);
    const bounds = wordsBounds(layer, layout);
    const { data, width } = painted(layer);
    for (let i = 0; i < data.length; i += 4) {
      if (data[i] === 255 && data[i + 1] === 255) continue;
      const [x, y] = [(i / 4) % width, Math.floor(i / 4 / width)];
      expect(x + 1).toBeGreaterThan(bounds.x - 1);
      expect(x).toBeLessThan(bounds.x + bounds.width + 1);
      expect(y + 1).toBeGreaterThan(bounds.y - 1);
      expect(y).toBeLessThan(bounds.y + bounds.height + 1);
    }
    const flat = wordsExtent({ ...layer, turn: 0 }, layout);
    expect(bounds.x + bounds.width / 2).toBeCloseTo(flat.x + flat.width / 2);
  });

  it('grows with the words when they are made larger', () => {
    const layer = scaledWords({ ...base, outline: { width: 2, colour: '#ff0000' } }, 1.5);
    expect(layer.outline!.width).toBe(3);
  });
});

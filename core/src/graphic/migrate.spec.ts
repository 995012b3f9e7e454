import { readFileSync } from 'node:fs';
import { plainAppearance } from '../pixels/appearance';
import { GRAPHIC_VERSION, Graphic, newGraphic } from './graphic';
import { pictureGeometry } from './picture-geometry';
import { slotOf } from '../testing/samples';
import { plainBlock } from '../words/words';
import { plainWordsAppearance } from '../words/appearance';

const fixture = (version: number) =>
  JSON.parse(readFileSync(new URL(`./fixtures/graphic-v${version}.json`, import.meta.url), 'utf8')) as {
    layers: object[];
  };
const [old, three, four] = [fixture(2), fixture(3), fixture(4)];
const frames = newGraphic({ id: 'x', name: 'x', created: '', slot: slotOf('blog-header') }).frames;
const read = () => Graphic.parse({ ...old, frames });

describe('a graphic of version 2', () => {
  it('is read with pictures as they came, nothing done to them', () => {
    const graphic = read();
    expect(graphic.version).toBe(GRAPHIC_VERSION);
    const [photo, logo] = graphic.layers;
    expect(logo).toMatchObject({ ...plainAppearance, place: { mode: 'free', x: 20, y: 30, width: 240 } });
    expect(photo).toMatchObject({ ...plainAppearance, focus: { x: 0.4, y: 1 } });
  });

  it('lies where it lay', () => {
    const [photo, logo] = read().layers;
    if (photo?.role !== 'photo' || logo?.role !== 'logo') throw new Error('other layers');
    const canvas = { width: 940, height: 198 };
    // Cover: 940 / 3500 of its own px, as far down as the focus below its edge asks.
    const scale = 940 / 3500;
    expect(pictureGeometry(photo, canvas).image).toEqual({
      x: 0,
      y: 198 - 2332 * scale,
      width: 940,
      height: 2332 * scale,
    });
    expect(pictureGeometry(logo, canvas).shown).toEqual({ x: 20, y: 30, width: 240, height: 160 });
  });

  it('leaves what is no graphic as it came', () => {
    expect(Graphic.safeParse({ version: 2, layers: 'none' }).success).toBe(false);
    expect(Graphic.safeParse(null).success).toBe(false);
  });
});

describe('a graphic of version 3', () => {
  it('is read with words as they were written, nothing around them, pictures as they were', () => {
    const graphic = Graphic.parse({ ...three, frames });
    const words = graphic.layers[2]!;
    expect(words).toMatchObject(plainWordsAppearance);
    expect(words.role === 'words' && words.paragraphs[0]!.runs[0]).toMatchObject({
      tracking: 0,
      case: 'typed',
      size: 52,
    });
    expect(graphic.layers[0]).toMatchObject(three.layers[0]!);
  });
});

describe('a graphic of version 4', () => {
  const graphic = Graphic.parse({ ...four, frames, canvas: { width: 940, height: 198 } });
  it('is read with words that grow as they are written and hold no fields', () => {
    const words = graphic.layers.find((l) => l.role === 'words')!;
    expect(words).toMatchObject(plainBlock);
    expect(words.role === 'words' && words.paragraphs[0]!.runs[0]).toMatchObject({ tracking: 0.02, case: 'upper' });
  });
  it('has its gradient from side to side as its angle said, nothing showing through', () => {
    expect(graphic.backdrop).toEqual({
      kind: 'gradient',
      form: 'linear',
      from: { x: 0, y: 0.5 },
      to: { x: 1, y: 0.5 },
      stops: [
        { at: 0, colour: '#1f6f5c', opacity: 1 },
        { at: 1, colour: '#f4e7cb', opacity: 1 },
      ],
    });
  });
});

it('a graphic of version 5: what its file is to be, and its description, come to its frame', () => {
  const five = fixture(5);
  const graphic = Graphic.parse(five);
  expect(graphic).not.toHaveProperty('export');
  expect(graphic.frames).toHaveLength(1);
  expect(graphic.frames[0]!.export).toEqual((five as unknown as { export: object }).export);
  expect(graphic.layers).toEqual(five.layers);
  expect(Graphic.parse(graphic)).toEqual(graphic);
});

it('a graphic of version 6: none of its findings was left', () => {
  const six = fixture(6) as { layers: object[]; frames: object[] };
  const graphic = Graphic.parse(six);
  expect(graphic.version).toBe(GRAPHIC_VERSION);
  expect(graphic.frames).toEqual(six.frames.map((f) => ({ ...f, left: [] })));
  expect(graphic.layers).toEqual(six.layers);
  expect(Graphic.parse(graphic)).toEqual(graphic);
});

it('a graphic of version 7: its layers are in no groups', () => {
  const seven = fixture(7);
  const graphic = Graphic.parse(seven);
  expect(graphic).toEqual({ ...seven, version: GRAPHIC_VERSION });
  expect(graphic.layers.every((l) => l.group === undefined)).toBe(true);
});

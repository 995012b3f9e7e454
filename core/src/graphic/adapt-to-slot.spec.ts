import { blank, photo, slotOf, words } from '../testing/samples';
import { applyEdit } from './edit';
import { adaptToSlot, slotChanges } from './adapt-to-slot';
import { Graphic, type PictureLayer, type WordsLayer } from './graphic';
import { frameOf } from './frame';
import { pictureGeometry } from './picture-geometry';

const slot = slotOf('blog-header');

describe('what changed in a slot', () => {
  it('is said as far as it matters to a graphic', () => {
    expect(slotChanges(slot, slot)).toEqual([]);
    expect(slotChanges(slot, { ...slot, name: 'Other', source: 'measured', dated: '2026-12', site: 'x' })).toEqual([]);
    expect(slotChanges(slot, { ...slot, width: 960, height: 200 })).toEqual(['960 × 200 instead of 940 × 198']);
    expect(slotChanges(slot, { ...slot, shape: { kind: 'ellipse' }, densities: [1, 2] })).toEqual([
      'round instead of straight',
      'wanted at 2×',
    ]);
    expect(slotChanges(slot, { ...slot, ground: '#000000' })).toEqual(['what the page does around it']);
  });
});

describe('following a slot', () => {
  const made = {
    ...blank(),
    layers: [
      photo(),
      photo({ id: 'logo', role: 'logo', place: { mode: 'free', x: 370, y: 49, width: 200 } }),
      words('Hello', { place: { x: 470, y: 99 } }, { size: 40 }),
    ],
  };
  const wide = { ...slot, width: 1880, height: 198 };
  const after = adaptToSlot(made, 'main', wide);
  it('gives the canvas its size, and stays a valid graphic', () => {
    expect(after.canvas).toEqual({ width: 1880, height: 198 });
    expect(frameOf(after)).toMatchObject({ slot: wide, rect: { x: 0, y: 0, width: 1880, height: 198 } });
    expect(Graphic.parse(after)).toEqual(after);
  });
  it('keeps places in proportion and lets nothing outgrow the tighter side', () => {
    const [covering, logo, text] = after.layers as [PictureLayer, PictureLayer, WordsLayer];
    expect(covering).toBe(made.layers[0]);
    const before = pictureGeometry(made.layers[1] as PictureLayer, made.canvas).shown;
    const now = pictureGeometry(logo, after.canvas).shown;
    expect(now.width).toBeCloseTo(before.width, 9);
    expect((now.x + now.width / 2) / 1880).toBeCloseTo((before.x + before.width / 2) / 940, 9);
    expect(text.place).toEqual({ x: 940, y: 99 });
    expect(text.paragraphs[0]!.runs[0]!.size).toBe(40);
    const small = adaptToSlot(made, 'main', { ...slot, width: 470, height: 99 });
    expect((small.layers[2] as WordsLayer).paragraphs[0]!.runs[0]!.size).toBe(20);
  });
  it('changes the format where the slot takes it no longer, and is one edit', () => {
    const edited = applyEdit(made, {
      type: 'adapt-to-slot',
      frame: 'main',
      name: 'Slot',
      slot: { ...slot, formats: ['webp'] },
    });
    expect(frameOf(edited).export.format).toBe('webp');
    expect(edited.layers).toBe(made.layers);
  });
});

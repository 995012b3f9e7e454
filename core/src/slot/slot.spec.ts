import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Graphic } from '../graphic/graphic';
import { blank } from '../testing/samples';
import { SLOT_VERSION, Slot, figure, filePixels, sizeText, topDensity } from './slot';
import { everySlot } from '../testing/samples';
import { slotsToStart, typedSlot } from './slots-to-start';

const fixture: unknown = JSON.parse(readFileSync(join(import.meta.dirname, 'fixtures/slot-v1.json'), 'utf8'));

describe('filePixels', () => {
  it.each([
    [940, 198, 1, 940, 198],
    [940, 198, 2, 1880, 396],
    [517.5, 600, 1, 518, 600],
    [251.25, 292.5, 2, 503, 585],
    [333.14, 100, 1, 334, 100],
  ])('%d × %d at %d× needs %d × %d', (width, height, density, w, h) => {
    expect(filePixels({ width, height }, density)).toEqual({ width: w, height: h });
  });
  it('adds no pixel for float noise', () => {
    expect(filePixels({ width: 0.1 * 3 * 1000, height: 1 }, 1).width).toBe(300);
  });
});

describe('a slot of version 1', () => {
  it('comes up to date with all it knew', () => {
    const slot = Slot.parse(fixture);
    expect(slot).toMatchObject({
      version: SLOT_VERSION,
      width: 128,
      densities: [2],
      shape: { kind: 'ellipse' },
      page: 'chat',
      ground: '#f3f1ec',
      fit: 'fills-centre',
      darkening: null,
      tablet: { mode: 'scales' },
    });
    expect(topDensity(slot)).toBe(2);
    expect(Slot.parse(JSON.parse(JSON.stringify(slot)))).toEqual(slot);
  });
  it('is migrated where a graphic of version 1 holds it', () => {
    const now = blank('chat-avatar');
    const old = { ...now, version: 1, frames: [{ ...now.frames[0]!, slot: fixture }] };
    expect(Graphic.parse(old).frames[0]!.slot.shape).toEqual({ kind: 'ellipse' });
    expect(Graphic.safeParse({ ...old, frames: 'none' }).success).toBe(false);
  });
  it.each([null, 7, 'slot', { version: 1 }, { version: 99, id: 'a' }])('%j is refused, not repaired', (value) => {
    expect(Slot.safeParse(value).success).toBe(false);
  });
});

describe('slots to start from', () => {
  it('are valid, dated and told where they come from', () => {
    for (const slot of everySlot) {
      expect(Slot.parse(slot)).toEqual(slot);
      expect(slot.source).toMatch(/check with your|ottermill\.example/);
    }
    expect(new Set(everySlot.map((s) => s.id)).size).toBe(everySlot.length);
    expect(slotsToStart.length).toBe(18);
  });
  // The sizes themselves: common practice, no source.
  it.each([
    ['common-blog-940x198', '940 × 198'],
    ['common-blog-940x175', '940 × 175'],
    ['common-blog-960x100', '960 × 100'],
    ['common-blog-1000x288', '1000 × 288'],
    ['common-cover-851x315', '851 × 315'],
    ['common-banner-1584x396', '1584 × 396'],
    ['common-avatar-128', '128 × 128'],
    ['common-form-1600x400', '1600 × 400'],
    ['common-class-1600x400', '1600 × 400'],
    ['common-checkout-750x90', '750 × 90'],
    ['common-tile-320x200', '320 × 200'],
    ['common-mosaic-1050x600', '1050 × 600'],
    ['common-square-134', '134 × 134'],
    ['common-logo-512', '512 × 512'],
    ['common-card-1200x630', '1200 × 630'],
    ['blog-header', '940 × 198'],
    ['profile-banner', '1584 × 396'],
  ])('%s is %s', (id, size) => expect(sizeText(everySlot.find((s) => s.id === id)!)).toBe(size));
  it('know what their pages do', () => {
    const of = (id: string) => everySlot.find((s) => s.id === id)!;
    expect(of('common-form-1600x400').darkening).toBeNull();
    expect(of('common-class-1600x400').darkening).toMatchObject({ switchable: false, on: true });
    expect(of('common-landing-1600x600').darkening).toMatchObject({ switchable: true });
    expect(of('common-checkout-750x90')).toMatchObject({ wants: 'address', border: { width: 1 } });
    expect(of('common-checkout-750x90').source).toContain('from memory');
    expect(of('common-tile-320x200').rowShows).toBe(7);
    expect(of('common-square-134').rowShows).toBe(5);
    expect(of('common-site-150')).toMatchObject({ height: 150, anyWidth: true, formats: ['png'] });
    expect(of('common-blog-1000x288').oneOfSeveral).toBe(true);
    expect(of('common-avatar-128').shape.kind).toBe('ellipse');
  });
});

describe('a typed slot', () => {
  it('takes a width and a height', () => {
    const typed = typedSlot(666, 134);
    expect(typed.ok && sizeText(typed.value)).toBe('666 × 134');
    expect(typed.ok && Slot.parse(typed.value)).toEqual(typed.ok && typed.value);
  });
  it.each([
    [0, 10, 'width'],
    [-5, 10, 'width'],
    [10, NaN, 'height'],
    [10, Infinity, 'height'],
    [9000, 10, '8192'],
  ])('refuses %d × %d in words', (w, h, word) => {
    const typed = typedSlot(w, h);
    expect(!typed.ok && typed.problem.message).toContain(word);
  });
});

it.each([
  [333.1374, 2, '333.14'],
  [-0.675, 2, '-0.68'],
  [16.66666, 3, '16.667'],
  [600, 2, '600'],
])('the figure %d to %d places is %s', (n, places, text) => expect(figure(n, places)).toBe(text));

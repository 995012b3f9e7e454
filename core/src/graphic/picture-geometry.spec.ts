import { photo } from '../testing/samples';
import { cropFor, pictureGeometry, pictureScale, placeFor } from './picture-geometry';

const canvas = { width: 940, height: 198 };

it('a dragged cover stays a cover while it covers, and says so in its intent', () => {
  const { shown } = pictureGeometry(photo(), canvas);
  const lower = { ...shown, y: shown.y + 50 };
  const place = placeFor(photo(), lower, canvas);
  expect(place.mode).toBe('cover');
  expect(pictureGeometry(photo({ place }), canvas).shown.y).toBeCloseTo(lower.y, 9);
});

it('becomes free once it leaves a gap, exactly where it was put', () => {
  const { shown } = pictureGeometry(photo(), canvas);
  const place = placeFor(photo(), { ...shown, x: 2 }, canvas);
  expect(place).toEqual({ mode: 'free', x: 2, y: shown.y, width: 940 });
});

it('a crop shows its part alone, in proportion', () => {
  const layer = photo({
    place: { mode: 'free', x: 10, y: 20, width: 300 },
    crop: { x: 500, y: 100, width: 1500, height: 1000 },
  });
  const g = pictureGeometry(layer, canvas);
  expect(g.shown).toEqual({ x: 10, y: 20, width: 300, height: 200 });
  expect(g.image.width).toBeCloseTo(700, 9);
  expect(g.image.x).toBeCloseTo(10 - 100, 9);
  expect(pictureScale(layer, canvas)).toBeCloseTo(0.2, 9);
});

it('cropFor is the inverse: the same image through the same window', () => {
  const window = { x: 10, y: 20, width: 300, height: 200 };
  const image = { x: -90, y: 0, width: 700, height: 466.4 };
  const change = cropFor(photo(), image, window)!;
  const g = pictureGeometry(photo(change), canvas);
  for (const k of ['x', 'y', 'width', 'height'] as const) {
    expect(g.shown[k]).toBeCloseTo(window[k], 6);
    expect(g.image[k]).toBeCloseTo(image[k], 6);
  }
  expect(cropFor(photo(), image, { x: 5000, y: 0, width: 10, height: 10 })).toBeNull();
});

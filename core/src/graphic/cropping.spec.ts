import { photo, random } from '../testing/samples';
import { pictureGeometry } from './picture-geometry';
import {
  cropPart,
  cropWindow,
  uncropped,
  windowZoom,
  withImageAt,
  withPart,
  withWindow,
  zoomedInWindow,
} from './cropping';

const canvas = { width: 940, height: 198 };
const free = photo({ place: { mode: 'free', x: 100, y: 20, width: 350 }, natural: { width: 3500, height: 2332 } });

describe('cropping a covering photo', () => {
  it('has the canvas as its window, and shows just the part that lies in it', () => {
    const part = cropPart(photo(), canvas);
    expect(cropWindow(photo(), canvas)).toEqual({ x: 0, y: 0, ...canvas });
    expect(part.width).toBeCloseTo(3500, 6);
    expect(part.height).toBeCloseTo((198 / 940) * 3500, 6);
  });
  it('shows exactly the part that is typed, and stays a covering photo', () => {
    const layer = withPart(photo(), { x: 700, y: 400, width: 1400, height: 0 }, canvas);
    const part = cropPart(layer, canvas);
    expect(layer.place.mode).toBe('cover');
    expect([part.x, part.y, part.width]).toEqual([
      expect.closeTo(700, 6),
      expect.closeTo(400, 6),
      expect.closeTo(1400, 6),
    ]);
  });
  it('never leaves the canvas bare, wherever it is dragged or zoomed (200 random tries)', () => {
    const next = random(7);
    let layer = photo();
    for (let i = 0; i < 200; i++) {
      const { image } = pictureGeometry(layer, canvas);
      layer =
        next() < 0.5
          ? withImageAt(
              layer,
              { ...image, x: image.x + (next() - 0.5) * 4000, y: image.y + (next() - 0.5) * 4000 },
              canvas,
            )
          : zoomedInWindow(layer, 0.3 + next() * 2, canvas);
      const { shown } = pictureGeometry(layer, canvas);
      expect(shown.x).toBeLessThanOrEqual(1e-6);
      expect(shown.y).toBeLessThanOrEqual(1e-6);
      expect(shown.x + shown.width).toBeGreaterThanOrEqual(940 - 1e-6);
      expect(shown.y + shown.height).toBeGreaterThanOrEqual(198 - 1e-6);
      expect(shown.width / shown.height).toBeCloseTo(3500 / 2332, 6);
      expect(windowZoom(layer, canvas)).toBeGreaterThanOrEqual(1 - 1e-9);
    }
  });
});

describe('cropping a picture in a frame of its own', () => {
  it('keeps the frame while the photo moves and zooms under it', () => {
    const cropped = withPart(free, { x: 1000, y: 1000, width: 800, height: 500 }, canvas);
    const window = cropWindow(cropped, canvas);
    expect(window).toEqual({ x: 100, y: 20, width: 80, height: expect.closeTo(50, 9) as number });
    const { image } = pictureGeometry(cropped, canvas);
    for (const moved of [
      withImageAt(cropped, { ...image, x: image.x - 30 }, canvas),
      zoomedInWindow(cropped, 2, canvas),
    ]) {
      const now = cropWindow(moved, canvas);
      for (const side of ['x', 'y', 'width', 'height'] as const) expect(now[side]).toBeCloseTo(window[side], 6);
    }
    expect(cropPart(withImageAt(cropped, { ...image, x: image.x - 30 }, canvas), canvas).x).toBeCloseTo(1300, 6);
    expect(cropPart(zoomedInWindow(cropped, 2, canvas), canvas).width).toBeCloseTo(400, 6);
  });
  it('takes another window within the photo, and the photo under it stays where it is', () => {
    const layer = withWindow(free, { x: 150, y: 60, width: 100, height: 80 }, canvas);
    expect(pictureGeometry(layer, canvas).image).toEqual({
      x: expect.closeTo(100, 6) as number,
      y: expect.closeTo(20, 6) as number,
      width: expect.closeTo(350, 6) as number,
      height: expect.closeTo(233.2, 6) as number,
    });
    expect(cropPart(layer, canvas)).toMatchObject({
      x: expect.closeTo(500, 6) as number,
      width: expect.closeTo(1000, 6) as number,
    });
    expect(cropPart(withWindow(free, { x: 0, y: 0, width: 5000, height: 5000 }, canvas), canvas)).toMatchObject({
      x: 0,
      y: 0,
      width: expect.closeTo(3500, 6) as number,
    });
  });
  it('gives the whole photo back at the same place and scale', () => {
    const layer = withWindow(free, { x: 150, y: 60, width: 100, height: 80 }, canvas);
    const whole = uncropped(layer, canvas);
    expect(whole.crop).toBeNull();
    expect(whole.place).toMatchObject({ x: expect.closeTo(100, 6) as number, width: expect.closeTo(350, 6) as number });
  });
});

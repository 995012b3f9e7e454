import { contains, type Box } from '../geometry/box';
import { turnedPoint } from '../geometry/turn';
import { photo, random } from '../testing/samples';
import { atEnd, flippedLayer, movedLayer, stretchedLayer, turnedLayer } from './arrange';
import {
  cropPart,
  cropWindow,
  uncropped,
  withFrameSize,
  withImageAt,
  withOwnFrame,
  withPart,
  withRatio,
  withWindow,
} from './cropping';
import type { PictureLayer } from './graphic';
import {
  canvasPoint,
  ownPoint,
  pictureBounds,
  pictureGeometry,
  pictureScale,
  placeFor,
  placedBox,
} from './picture-geometry';

const canvas = { width: 940, height: 198 };
const free = (own: Partial<PictureLayer> = {}) =>
  photo({ place: { mode: 'free', x: 100, y: 20, width: 350 }, natural: { width: 700, height: 400 }, ...own });
const close = (a: Box, b: Box, within = 1e-6) => {
  for (const k of ['x', 'y', 'width', 'height'] as const) expect(Math.abs(a[k] - b[k])).toBeLessThan(within);
};

describe('turning', () => {
  it('turns about the middle of what shows, and 90° swap its sides', () => {
    const turned = turnedLayer(free(), 90);
    // 350 × 200 about (275, 120).
    expect(pictureBounds(turned, canvas)).toEqual({ x: 175, y: -55, width: 200, height: 350 });
    expect(placedBox(turned, canvas)).toEqual(placedBox(free(), canvas));
  });

  it('goes by the plain angle: 450° is 90°, 270° is -90°', () => {
    expect(turnedLayer(free(), 450).turn).toBe(90);
    expect(turnedLayer(free(), 270).turn).toBe(-90);
  });

  it('covering covers, whatever the angle, the focus, the zoom and the mirror (300 random pictures)', () => {
    const r = random(7);
    for (let i = 0; i < 300; i++) {
      const layer = photo({
        natural: { width: 50 + r() * 4000, height: 50 + r() * 4000 },
        place: { mode: 'cover', focus: { x: r() * 2 - 0.5, y: r() * 2 - 0.5 }, zoom: 1 + r() * 3 },
        turn: Math.round(r() * 3600) / 10 - 180,
        flip: { across: r() < 0.5, down: r() < 0.5 },
      });
      const size = { width: 20 + r() * 1600, height: 20 + r() * 1600 };
      const { image, pivot } = pictureGeometry(layer, size);
      for (const corner of [
        { x: 0, y: 0 },
        { x: size.width, y: 0 },
        { x: 0, y: size.height },
        { x: size.width, y: size.height },
      ]) {
        // Each corner of the canvas, seen from the picture, lies within it.
        const p = turnedPoint(corner, -layer.turn, pivot);
        expect(contains(image, { ...p, width: 0, height: 0 }, 1e-6)).toBe(true);
      }
    }
  });

  it('a turned covering photo that is moved goes on covering where it can, and is free where it cannot', () => {
    const layer = photo({ turn: 12, place: { mode: 'cover', focus: { x: 0.5, y: 0.5 }, zoom: 1.5 } });
    expect(movedLayer(layer, { x: 5, y: 3 }, canvas).place.mode).toBe('cover');
    const far = movedLayer(layer, { x: 900, y: 0 }, canvas);
    expect(far.place.mode).toBe('free');
    close(placedBox(far, canvas), { ...placedBox(layer, canvas), x: placedBox(layer, canvas).x + 900 });
  });
});

describe('mirroring', () => {
  it('keeps the box and shows the same part the other way round', () => {
    const layer = free({ crop: { x: 100, y: 0, width: 200, height: 400 } });
    const flipped = flippedLayer(layer, 'across');
    expect(pictureGeometry(flipped, canvas).shown).toEqual(pictureGeometry(layer, canvas).shown);
    close(cropPart(flipped, canvas), cropPart(layer, canvas));
    // What was at the left of the part is at its right now.
    expect(ownPoint(flipped, canvas, { x: 100, y: 20 }).x).toBeCloseTo(300);
    expect(ownPoint(layer, canvas, { x: 100, y: 20 }).x).toBeCloseTo(100);
  });

  it('twice is as before, and a slant leans the other way', () => {
    const layer = free({ turn: 10 });
    expect(flippedLayer(layer, 'down').turn).toBe(-10);
    expect(flippedLayer(flippedLayer(layer, 'down'), 'down')).toEqual(layer);
  });

  it('a covering photo keeps its middle in the middle', () => {
    const layer = photo({ place: { mode: 'cover', focus: { x: 0.3, y: 0.3 }, zoom: 2 } });
    for (const axis of ['across', 'down'] as const)
      close(cropPart(flippedLayer(layer, axis), canvas), cropPart(layer, canvas));
  });
});

describe('contain and stretch', () => {
  it('contain shows all of it, as large as the canvas allows, turned too', () => {
    const layer = free({ place: { mode: 'contain' } });
    expect(pictureBounds(layer, canvas)).toEqual({ x: (940 - 346.5) / 2, y: 0, width: 346.5, height: 198 });
    const turned = pictureBounds({ ...layer, turn: 30 }, canvas);
    expect(turned.height).toBeCloseTo(198);
    expect(turned.width).toBeLessThan(940);
  });

  it('a stretch is how much wider than true, and going back is exact', () => {
    const wide = stretchedLayer(free(), 1.036, canvas);
    const { width, height } = placedBox(wide, canvas);
    expect(width / height / (700 / 400)).toBeCloseTo(1.036, 9);
    expect(stretchedLayer(wide, 1, canvas)).toEqual(free());
    // The larger way counts for sharpness.
    expect(pictureScale(wide, canvas)).toBeCloseTo(0.5);
  });

  it('survives being moved, cropped and uncropped', () => {
    const wide = stretchedLayer(free(), 1.25, canvas);
    const moved = movedLayer(wide, { x: 7, y: 0 }, canvas);
    expect(moved.place).toMatchObject({ stretch: 1.25, x: 107 });
    const cropped = withWindow(wide, { x: 150, y: 40, width: 100, height: 80 }, canvas);
    close(placedBox(cropped, canvas), { x: 150, y: 40, width: 100, height: 80 });
    close(pictureGeometry(uncropped(cropped, canvas), canvas).image, pictureGeometry(wide, canvas).image);
  });
});

describe('cropping', () => {
  it('crop first or scale first leave the same part in the same place (200 random ones, turned and mirrored)', () => {
    const r = random(3);
    for (let i = 0; i < 200; i++) {
      const layer = free({ turn: Math.round(r() * 300), flip: { across: r() < 0.5, down: r() < 0.5 } });
      const part = {
        x: Math.floor(r() * 300),
        y: Math.floor(r() * 200),
        width: 100 + Math.floor(r() * 200),
        height: 80 + Math.floor(r() * 100),
      };
      const by = 0.3 + r() * 3;
      const scaledTo = (l: PictureLayer) => {
        if (l.place.mode !== 'free') throw new Error('not free');
        return { ...l, place: { ...l.place, width: l.place.width * by } };
      };
      const cropFirst = scaledTo(withPart(layer, part, canvas));
      const scaleFirst = withPart(scaledTo(layer), part, canvas);
      close(pictureGeometry(cropFirst, canvas).image, pictureGeometry(scaleFirst, canvas).image);
      close(pictureGeometry(cropFirst, canvas).shown, pictureGeometry(scaleFirst, canvas).shown);
      close(cropPart(cropFirst, canvas), part);
    }
  });

  it('by a ratio cuts the side that is too long, about the middle', () => {
    close(placedBox(withRatio(free(), 1, canvas), canvas), { x: 175, y: 20, width: 200, height: 200 });
    close(placedBox(withRatio(free(), 3.5, canvas), canvas), { x: 100, y: 70, width: 350, height: 100 });
  });

  it('by the canvas’s px gives exactly those, in proportion, its corner kept', () => {
    const layer = withFrameSize(free(), { width: 120, height: 60 }, canvas);
    close(placedBox(layer, canvas), { x: 100, y: 20, width: 120, height: 60 });
    const { width, height } = cropPart(layer, canvas);
    expect(width / height).toBeCloseTo(2);
  });

  it('a covering photo gets a frame of its own that shows what it showed', () => {
    const layer = photo({ place: { mode: 'cover', focus: { x: 0.3, y: 0.6 }, zoom: 1.4 } });
    const own = withOwnFrame(layer, canvas);
    close(placedBox(own, canvas), { x: 0, y: 0, ...canvas });
    close(cropPart(own, canvas), cropPart(layer, canvas));
    close(pictureGeometry(own, canvas).image, pictureGeometry(layer, canvas).image);
  });

  it('a turned picture’s window moves by its own directions and leaves the picture where it is', () => {
    const layer = free({ turn: 30 });
    const window = cropWindow(layer, canvas);
    const smaller = withWindow(layer, { ...window, width: window.width / 2 }, canvas);
    // A point of the picture is where it was.
    const p = canvasPoint(layer, canvas, { x: 100, y: 100 });
    const q = canvasPoint(smaller, canvas, { x: 100, y: 100 });
    expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-6);
  });

  it('own points and canvas points are each other’s inverse', () => {
    const layer = free({
      turn: -37,
      flip: { across: true, down: false },
      crop: { x: 50, y: 20, width: 300, height: 200 },
    });
    const p = ownPoint(layer, canvas, canvasPoint(layer, canvas, { x: 123, y: 45 }));
    expect(p.x).toBeCloseTo(123);
    expect(p.y).toBeCloseTo(45);
  });

  it('dragging under the window never leaves it bare', () => {
    const layer = withOwnFrame(photo({ turn: 20 }), canvas);
    const { image } = pictureGeometry(layer, canvas);
    const dragged = withImageAt(layer, { ...image, x: image.x + 5000, y: image.y - 5000 }, canvas);
    const now = pictureGeometry(dragged, canvas);
    expect(contains(now.image, now.shown, 1e-6)).toBe(true);
  });

  it('placeFor gives cover back while an uncropped photo covers', () => {
    const layer = photo({ turn: 90 });
    const again = { ...layer, place: placeFor(layer, placedBox(layer, canvas), canvas) };
    expect(again.place.mode).toBe('cover');
    close(pictureGeometry(again, canvas).image, pictureGeometry(layer, canvas).image);
  });
});

describe('a picture let go at an end of a wide canvas', () => {
  const canvas = { width: 1600, height: 400 };
  const covering = photo();
  it('stands there as high as the canvas, where it is a photo', () => {
    expect(atEnd(covering, { x: 1500, y: 200 }, canvas).place).toEqual({
      mode: 'free',
      x: 1600 - (3500 * 400) / 2332,
      y: 0,
      width: (3500 * 400) / 2332,
    });
    expect(atEnd(covering, { x: 40, y: 10 }, canvas).place).toMatchObject({ mode: 'free', x: 0, y: 0 });
  });
  it('stays as it was in the middle, beside the canvas, and on one that has no ends', () => {
    expect(atEnd(covering, { x: 800, y: 200 }, canvas)).toBe(covering);
    expect(atEnd(covering, { x: 1700, y: 200 }, canvas)).toBe(covering);
    expect(atEnd(covering, { x: 10, y: 20 }, { width: 640, height: 480 })).toBe(covering);
  });
  it('a logo keeps its size, off the edge by what is above it', () => {
    const mark = photo({ role: 'logo', place: { mode: 'free', x: 700, y: 100, width: 300 } });
    const high = (300 * 2332) / 3500;
    expect(atEnd(mark, { x: 30, y: 200 }, canvas).place).toEqual({
      mode: 'free',
      x: (400 - high) / 2,
      y: (400 - high) / 2,
      width: 300,
    });
  });
});

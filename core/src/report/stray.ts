import { bottom, right, type Box, type Point, type Size } from '../geometry/box';
import type { PictureLayer } from '../graphic/graphic';
import { canvasPoint } from '../graphic/picture-geometry';
import type { Margins } from '../pixels/margins';
import { factsKey } from './asset-facts';
import { defineRule, fixable, type Finding, type Fix } from './rule';
import { uncoveredParts, visiblePictures } from './uncovered';

type Side = keyof Margins;
const sides = ['top', 'right', 'bottom', 'left'] as const satisfies readonly Side[];
const at: Record<Side, string> = {
  top: 'at the top',
  right: 'at the right',
  bottom: 'at the bottom',
  left: 'at the left',
};

/** The strip of a picture, its own px, that stray lines along a side take. */
function strip({ width, height }: Size, side: Side, lines: number): Box {
  const across = side === 'top' || side === 'bottom';
  return {
    x: side === 'right' ? width - lines : 0,
    y: side === 'bottom' ? height - lines : 0,
    width: across ? width : lines,
    height: across ? lines : height,
  };
}

/** Whether the middle line of a strip is to be seen within a frame: not cropped away, not beyond its edge. */
function isSeen(layer: PictureLayer, canvas: Size, own: Box, rect: Box): boolean {
  const { crop } = layer;
  const middle = { x: own.x + own.width / 2, y: own.y + own.height / 2 };
  if (crop && (middle.x < crop.x || middle.x > right(crop) || middle.y < crop.y || middle.y > bottom(crop)))
    return false;
  const within = (p: Point) =>
    p.x >= rect.x - 1e-6 && p.x <= right(rect) + 1e-6 && p.y >= rect.y - 1e-6 && p.y <= bottom(rect) + 1e-6;
  // A strip of which any of a hundred places lies within.
  return Array.from({ length: 101 }, (_, i) => i / 100).some((k) =>
    within(
      canvasPoint(layer, canvas, {
        x: own.width > own.height ? own.x + own.width * k : middle.x,
        y: own.width > own.height ? middle.y : own.y + own.height * k,
      }),
    ),
  );
}

/** A layer with its stray lines cropped away, no smaller than it was: it still covers what it covered. */
function croppedOff(layer: PictureLayer, stray: Margins): PictureLayer {
  const { width, height } = layer.natural;
  const own = layer.crop ?? { x: 0, y: 0, width, height };
  const from = { x: Math.max(own.x, stray.left), y: Math.max(own.y, stray.top) };
  const crop = {
    ...from,
    width: Math.min(right(own), width - stray.right) - from.x,
    height: Math.min(bottom(own), height - stray.bottom) - from.y,
  };
  return { ...layer, crop };
}

/** A thin line along a photo's side that is no part of it: left by a screenshot, a scan or another program. */
export const stray = defineRule({
  id: 'stray',
  about: 'Cover and cut',
  what: 'A thin line of another colour, or half transparent, along the side of a photo.',
  by: [],
  mends: 'The line cropped off.',
  passed: 'No photo has a stray line along its side',
  needs: ['layers', 'backdrop', 'canvas', 'rect', 'assets'],
  judge({ layers, backdrop, canvas, rect, assets }): Finding[] {
    return visiblePictures(layers).flatMap((layer): Finding[] => {
      const lines = layer.role === 'photo' && !layer.cutout ? assets.get(factsKey(layer))?.stray : undefined;
      if (!lines || layer.vector) return [];
      // What fades away at a side is not seen there.
      const fades = (s: Side) => layer.fades.some((f) => f.kind === 'side' && f.side === s);
      const seen = sides.filter(
        (s) => lines[s] > 0 && !fades(s) && isSeen(layer, canvas, strip(layer.natural, s, lines[s]), rect),
      );
      if (!seen.length) return [];
      const most = Math.max(...seen.map((s) => lines[s]));
      const fixes = (): Fix[] => {
        if (layer.locked) return [];
        const bare = (l: PictureLayer) =>
          uncoveredParts(
            layers.map((o) => (o.id === l.id ? l : o)),
            backdrop,
            canvas,
            rect,
          ).reduce((sum, b) => sum + b.width * b.height, 0);
        const cropped = layer.place.mode === 'cover' ? zoomedPast(layer, lines, canvas) : croppedOff(layer, lines);
        if (!cropped || bare(cropped) > bare(layer) + 0.01) return [];
        return [
          {
            label: 'Crop the line off',
            edit: { type: 'replace-layer', name: `${layer.name} without its stray line`, layer: cropped },
          },
        ];
      };
      return [
        fixable(
          {
            id: `stray:${layer.id}`,
            group: 'time',
            title: `${layer.name} has a stray line ${seen.map((s) => at[s]).join(' and ')}`,
            detail: `${most === 1 ? 'One row' : `${most} rows`} of its pixels there ${most === 1 ? 'is' : 'are'} of another colour than the picture, as other programs leave them.`,
            at: null,
            layer: layer.id,
            figures: [seen.length, most],
          },
          fixes,
        ),
      ];
    });
  },
});

/** A photo that covers, a little larger, so that its stray lines lie beyond the canvas; null where none is large enough. */
function zoomedPast(layer: PictureLayer, lines: Margins, canvas: Size): PictureLayer | null {
  if (layer.place.mode !== 'cover') return null;
  const { place } = layer;
  const rect = { x: 0, y: 0, ...canvas };
  const { x, y } = place.focus;
  for (let k = 1; k <= 60; k++)
    // What is centred on its very edge has to move in a little as well.
    for (const inwards of [0, 0.1, 0.3, 1]) {
      const focus = { x: x + (0.5 - x) * inwards, y: y + (0.5 - y) * inwards };
      const larger = { ...layer, place: { ...place, focus, zoom: place.zoom * (1 + k / 400) } };
      const inView = (s: Side) =>
        [1, 2].some((deep) => isSeen(larger, canvas, strip(layer.natural, s, deep * lines[s]), rect));
      if (!sides.some((s) => lines[s] > 0 && inView(s))) return larger;
    }
  return null;
}

import { polygonHull } from 'd3-polygon';
import { enclosing, type Box, type Point, type Size } from '../geometry/box';
import { middleOf, turnedPoint } from '../geometry/turn';
import type { PictureLayer, WordsLayer } from '../graphic/graphic';
import { scaledLayer, movedLayer } from '../graphic/arrange';
import { pictureGeometry, placedBox } from '../graphic/picture-geometry';
import type { Slot } from '../slot/slot';
import { silhouettePoints } from '../pixels/silhouette';
import { groundBox, itemInk, layoutOf, wordsExtent, type WordsLayout } from '../words/layout';
import type { Outline } from '../words/outline';
import { polygonsOf } from '../words/stroke';
import type { Shaper } from '../words/shaper';
import { factsKey, type AssetFacts } from './asset-facts';
import { defineRule, type Finding, type Fix } from './rule';

/** Less than this over the edge is not to be seen, px. */
const SLACK = 0.5;

type Shape = Slot['shape'];
type Subject = WordsLayer | PictureLayer;

const cornersOf = (b: Box): Point[] => [
  { x: b.x, y: b.y },
  { x: b.x + b.width, y: b.y },
  { x: b.x, y: b.y + b.height },
  { x: b.x + b.width, y: b.y + b.height },
];

/** Corners of the convex hull around an outline's own points, in its units; kept as long as the outline is. */
const hulls = new WeakMap<Outline, Point[]>();
function hullOf(outline: Outline): Point[] {
  let hull = hulls.get(outline);
  if (!hull) {
    const points = polygonsOf(outline).flatMap((p) => p.map(({ x, y }): [number, number] => [x, y]));
    hull = (polygonHull(points) ?? points).map(([x, y]) => ({ x, y }));
    hulls.set(outline, hull);
  }
  return hull;
}

/** The convex hull around all letters of a layout, canvas px. */
const outer = new WeakMap<WordsLayout, Point[]>();
function letterHull(layout: WordsLayout): Point[] {
  let hull = outer.get(layout);
  if (!hull) {
    const points = layout.items.flatMap((item) =>
      item.kind === 'fallback'
        ? cornersOf(itemInk(item)!)
        : hullOf(item.outline).map((p) => ({ x: item.x + p.x * item.scale, y: item.y + p.y * item.scale })),
    );
    hull = polygonHull(points.map(({ x, y }) => [x, y]))?.map(([x, y]) => ({ x, y })) ?? points;
    outer.set(layout, hull);
  }
  return hull;
}

/** Points that enclose words with the line around them and their ground, turned. Canvas px. */
function wordsPoints(layer: WordsLayer, layout: WordsLayout): Point[] {
  const hull = letterHull(layout);
  const w = layer.outline?.width ?? 0;
  const around = w
    ? hull.flatMap((p) => [0, 1, 2, 3, 4, 5, 6, 7].map((k) => turnedPoint({ x: p.x + w, y: p.y }, k * 45, p)))
    : hull;
  const ground = groundBox(layer, layout);
  const points = ground ? [...around, ...cornersOf(ground)] : around;
  if (layer.turn === 0) return points;
  const about = middleOf(wordsExtent(layer, layout));
  return points.map((p) => turnedPoint(p, layer.turn, about));
}

/** Points that enclose what a layer really draws, canvas px. */
function extremes(layer: Subject, canvas: Size, shaper: Shaper, assets: ReadonlyMap<string, AssetFacts>): Point[] {
  if (layer.role === 'words') return wordsPoints(layer, layoutOf(layer, shaper));
  const { image, shown, pivot } = pictureGeometry(layer, canvas);
  const turned = (points: Point[]) => points.map((p) => turnedPoint(p, layer.turn, pivot));
  const silhouette = assets.get(factsKey(layer))?.silhouette;
  if (!silhouette) return turned(cornersOf(shown));
  const { across, down } = layer.flip;
  const mirror = (p: Point) => ({
    x: across ? 2 * image.x + image.width - p.x : p.x,
    y: down ? 2 * image.y + image.height - p.y : p.y,
  });
  const within = (p: Point) =>
    p.x >= shown.x && p.x <= shown.x + shown.width && p.y >= shown.y && p.y <= shown.y + shown.height;
  return turned(silhouettePoints(silhouette, image).map(mirror).filter(within));
}

/** How far a point lies outside a slot's shape, px; 0 and less is within. */
function over(p: Point, canvas: Size, shape: Shape): number {
  const x = p.x - canvas.width / 2;
  const y = p.y - canvas.height / 2;
  if (shape.kind === 'rectangle') return Math.max(Math.abs(x) - canvas.width / 2, Math.abs(y) - canvas.height / 2);
  if (shape.kind === 'rounded') {
    // The distance to a box shrunk by the radius, less the radius.
    const r = Math.min(shape.radius, canvas.width / 2, canvas.height / 2);
    const dx = Math.abs(x) - canvas.width / 2 + r;
    const dy = Math.abs(y) - canvas.height / 2 + r;
    return Math.hypot(Math.max(0, dx), Math.max(0, dy)) + Math.min(0, Math.max(dx, dy)) - r;
  }
  // Along the ray from the middle: near the rim of an ellipse that is close enough to the true distance.
  const share = Math.hypot(x / (canvas.width / 2), y / (canvas.height / 2));
  return share <= 1 ? 0 : Math.hypot(x, y) * (1 - 1 / share);
}

const depth = (points: readonly Point[], canvas: Size, shape: Shape) =>
  points.reduce((most, p) => Math.max(most, over(p, canvas, shape)), 0);

const boxOf = (points: readonly Point[]): Box => {
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
};

const shifted = (points: readonly Point[], by: Point) => points.map((p) => ({ x: p.x + by.x, y: p.y + by.y }));

/** Moves a layer towards the middle, only as far as it takes, and makes it smaller only if moving is not enough. */
function inside(layer: Subject, points: Point[], canvas: Size, shape: Shape): Subject {
  const middle = { x: canvas.width / 2, y: canvas.height / 2 };
  const toMiddle = (b: Box) => ({ x: middle.x - b.x - b.width / 2, y: middle.y - b.y - b.height / 2 });
  const box = boxOf(points);
  if (shape.kind === 'rectangle' && box.width <= canvas.width && box.height <= canvas.height) {
    const shift = (from: number, length: number, room: number) =>
      from < 0 ? -from : Math.min(0, room - (from + length));
    const by = { x: shift(box.x, box.width, canvas.width), y: shift(box.y, box.height, canvas.height) };
    return movedLayer(layer, by, canvas);
  }
  if (shape.kind !== 'rectangle')
    for (let share = 0.05; share <= 1.001; share += 0.05) {
      const by = { x: toMiddle(box).x * share, y: toMiddle(box).y * share };
      if (depth(shifted(points, by), canvas, shape) <= 0) return movedLayer(layer, by, canvas);
    }
  const centred = shifted(points, toMiddle(box));
  const fitting = (by: number) =>
    depth(
      centred.map((p) => ({ x: middle.x + (p.x - middle.x) * by, y: middle.y + (p.y - middle.y) * by })),
      canvas,
      shape,
    ) <= 0;
  let scale = 1;
  while (scale > 0.05 && !fitting(scale)) scale -= 0.01;
  // A hundredth less, since sizes of type come in tenths of a px.
  const by = scale * 0.99;
  const shown = layer.role === 'words' ? null : placedBox(layer, canvas);
  const anchor = shown ? { x: shown.x + shown.width / 2, y: shown.y + shown.height / 2 } : (layer as WordsLayer).place;
  const small = points.map((p) => ({ x: anchor.x + (p.x - anchor.x) * by, y: anchor.y + (p.y - anchor.y) * by }));
  return movedLayer(scaledLayer(layer, by, canvas), toMiddle(boxOf(small)), canvas);
}

/** Words and logos over the canvas's edge, or outside the shape the page cuts the picture to, will be cut. */
export const outside = defineRule({
  id: 'outside',
  passed: 'Words and logos lie wholly within the slot',
  needs: ['layers', 'canvas', 'slot', 'shaper', 'assets'],
  judge({ layers, canvas, slot, shaper, assets }): Finding[] {
    return layers
      .filter((l): l is Subject => l.visible && (l.role === 'logo' || l.role === 'words'))
      .flatMap((layer: Subject): Finding[] => {
        const points = extremes(layer, canvas, shaper, assets);
        const px = depth(points, canvas, slot.shape);
        if (px <= SLACK) return [];
        const out = points.filter((p) => over(p, canvas, slot.shape) > 0);
        const where = {
          ellipse: 'outside the round slot',
          rounded: 'outside the rounded slot',
          rectangle: 'over the canvas’s edge',
        }[slot.shape.kind];
        const fixed = inside(layer, points, canvas, slot.shape);
        const fixes: Fix[] = layer.locked
          ? []
          : [
              {
                label: 'Move it inside',
                edit: { type: 'replace-layer', name: `${layer.name} moved inside`, layer: fixed },
              },
            ];
        return [
          {
            id: `outside:${layer.id}`,
            group: 'before',
            title: `${layer.role === 'words' ? `“${layer.name}”` : layer.name} reaches ${Math.max(1, Math.round(px))} px ${where}`,
            detail: 'The page will cut off what lies there.',
            at: enclosing(out.map((p) => ({ ...p, width: 1, height: 1 }))),
            layer: layer.id,
            fixes,
          },
        ];
      });
  },
});

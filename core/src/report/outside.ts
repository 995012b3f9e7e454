import { polygonContains, polygonHull } from 'd3-polygon';
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
import { concernsFrame } from '../graphic/frame';
import { defineRule, fixable, type Finding, type Fix } from './rule';

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

type Pair = [number, number];

/** The convex hull of points; the points themselves where they enclose nothing. */
const hullAround = (points: Pair[]): Pair[] => polygonHull(points) ?? points;

/** Corners of the convex hull around an outline's own points, in its units; kept as long as the outline is. */
const hulls = new WeakMap<Outline, Pair[]>();
function hullOf(outline: Outline): Pair[] {
  let hull = hulls.get(outline);
  if (!hull) {
    hull = hullAround(polygonsOf(outline).flatMap((p) => p.map(({ x, y }): Pair => [x, y])));
    hulls.set(outline, hull);
  }
  return hull;
}

type Letter = WordsLayout['items'][number];

/** The corners of a letter's own hull, canvas px. */
function letterPoints(item: Letter): Pair[] {
  if (item.kind === 'fallback') return cornersOf(itemInk(item)!).map(({ x, y }) => [x, y]);
  return hullOf(item.outline).map(([x, y]) => [item.x + x * item.scale, item.y + y * item.scale]);
}

/** So many ways round are looked at for the letters furthest out. */
const WAYS = 16;

/**
 * Of very many letters those that can reach the hull around all: the furthest each way, by their boxes, and what is
 * not wholly within the hull of those. After Akl and Toussaint, "A fast convex hull algorithm", Information
 * Processing Letters 7 (1978).
 */
function outermost(letters: readonly Letter[]): Letter[] {
  const seen = letters.flatMap((letter) => {
    const ink = itemInk(letter);
    return ink ? [{ letter, corners: cornersOf(ink) }] : [];
  });
  const furthest = new Set<Letter>();
  for (let way = 0; way < WAYS; way++) {
    const [dx, dy] = [Math.cos((way / WAYS) * 2 * Math.PI), Math.sin((way / WAYS) * 2 * Math.PI)];
    let [best, most]: [Letter | null, number] = [null, -Infinity];
    for (const { letter, corners } of seen)
      for (const p of corners) {
        const far = p.x * dx + p.y * dy;
        if (far > most) [best, most] = [letter, far];
      }
    if (best) furthest.add(best);
  }
  const within = polygonHull([...furthest].flatMap(letterPoints));
  if (!within) return [...letters];
  const reaches = seen.filter(
    (s) => furthest.has(s.letter) || !s.corners.every((p) => polygonContains(within, [p.x, p.y])),
  );
  return reaches.map((s) => s.letter);
}

/** The convex hull around all letters of a layout, canvas px. */
const outer = new WeakMap<WordsLayout, Point[]>();
function letterHull(layout: WordsLayout): Point[] {
  let hull = outer.get(layout);
  if (!hull) {
    const { items } = layout;
    const points = (items.length > 4 * WAYS ? outermost(items) : items).flatMap(letterPoints);
    hull = hullAround(points).map(([x, y]) => ({ x, y }));
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

/** Moves a layer (its points from the frame's corner) towards the frame's middle, only as far as it takes, and makes it smaller only if moving is not enough. */
function inside(layer: Subject, points: Point[], canvas: Size, rect: Box, shape: Shape): Subject {
  const middle = { x: rect.width / 2, y: rect.height / 2 };
  const toMiddle = (b: Box) => ({ x: middle.x - b.x - b.width / 2, y: middle.y - b.y - b.height / 2 });
  const box = boxOf(points);
  if (shape.kind === 'rectangle' && box.width <= rect.width && box.height <= rect.height) {
    const shift = (from: number, length: number, room: number) =>
      from < 0 ? -from : Math.min(0, room - (from + length));
    const by = { x: shift(box.x, box.width, rect.width), y: shift(box.y, box.height, rect.height) };
    return movedLayer(layer, by, canvas);
  }
  if (shape.kind !== 'rectangle')
    for (let share = 0.05; share <= 1.001; share += 0.05) {
      const by = { x: toMiddle(box).x * share, y: toMiddle(box).y * share };
      if (depth(shifted(points, by), rect, shape) <= 0) return movedLayer(layer, by, canvas);
    }
  const centred = shifted(points, toMiddle(box));
  const fitting = (by: number) =>
    depth(
      centred.map((p) => ({ x: middle.x + (p.x - middle.x) * by, y: middle.y + (p.y - middle.y) * by })),
      rect,
      shape,
    ) <= 0;
  let scale = 1;
  while (scale > 0.05 && !fitting(scale)) scale -= 0.01;
  // A hundredth less, since sizes of type come in tenths of a px.
  const by = scale * 0.99;
  const shown = layer.role === 'words' ? null : placedBox(layer, canvas);
  const own = shown ? middleOf(shown) : (layer as WordsLayer).place;
  const anchor = { x: own.x - rect.x, y: own.y - rect.y };
  const small = points.map((p) => ({ x: anchor.x + (p.x - anchor.x) * by, y: anchor.y + (p.y - anchor.y) * by }));
  return movedLayer(scaledLayer(layer, by, canvas), toMiddle(boxOf(small)), canvas);
}

/** Words and logos over the canvas's edge, or outside the shape the page cuts the picture to, will be cut. */
export const outside = defineRule({
  id: 'outside',
  passed: 'Words and logos lie wholly within the slot',
  needs: ['layers', 'canvas', 'rect', 'frames', 'slot', 'shaper', 'assets'],
  judge({ layers, canvas, rect, frames, slot, shaper, assets }): Finding[] {
    return layers
      .filter((l): l is Subject => l.visible && (l.role === 'logo' || l.role === 'words'))
      .flatMap((layer: Subject): Finding[] => {
        const onCanvas = extremes(layer, canvas, shaper, assets);
        if (!onCanvas.length || !concernsFrame(boxOf(onCanvas), rect, frames)) return [];
        // From the frame's corner: it is what the page cuts.
        const points = shifted(onCanvas, { x: -rect.x, y: -rect.y });
        const px = depth(points, rect, slot.shape);
        if (px <= SLACK) return [];
        const out = points.filter((p) => over(p, rect, slot.shape) > 0);
        const where = {
          ellipse: 'outside the round slot',
          rounded: 'outside the rounded slot',
          rectangle: 'over the canvas’s edge',
        }[slot.shape.kind];
        const fixes = (): Fix[] => {
          if (layer.locked) return [];
          const moved = inside(layer, points, canvas, rect, slot.shape);
          const edit = { type: 'replace-layer', name: `${layer.name} moved inside`, layer: moved } as const;
          return [{ label: 'Move it inside', edit }];
        };
        return [
          fixable(
            {
              id: `outside:${layer.id}`,
              group: 'before',
              title: `${layer.role === 'words' ? `“${layer.name}”` : layer.name} reaches ${Math.max(1, Math.round(px))} px ${where}`,
              detail: 'The page will cut off what lies there.',
              at: enclosing(shifted(out, rect).map((p) => ({ ...p, width: 1, height: 1 }))),
              layer: layer.id,
            },
            fixes,
          ),
        ];
      });
  },
});

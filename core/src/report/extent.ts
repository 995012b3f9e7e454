import { polygonContains, polygonHull } from 'd3-polygon';
import { cornersOf, bottom, grown, intersection, right, type Box, type Point, type Size } from '../geometry/box';
import { middleOf, turnedPoint } from '../geometry/turn';
import type { PictureLayer, WordsLayer } from '../graphic/graphic';
import { pictureGeometry } from '../graphic/picture-geometry';
import { silhouetteRuns, type Silhouette } from '../pixels/silhouette';
import { groundBox, itemInk, layoutOf, wordsExtent, type WordsLayout } from '../words/layout';
import type { Outline } from '../words/outline';
import { polygonsOf } from '../words/stroke';
import type { Shaper } from '../words/shaper';
import { factsKey, type AssetFacts } from './asset-facts';

/** What must not be cut or covered: words, and pictures of a kind that says something. */
export type Subject = WordsLayer | PictureLayer;

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

/** Where a picture's own pixels lie: its silhouette's cells in what is shown of it, mirrored as it is. */
function silhouetteIn(layer: PictureLayer, canvas: Size, silhouette: Silhouette) {
  const { image, shown, pivot } = pictureGeometry(layer, canvas);
  const { across, down } = layer.flip;
  const mirror = (p: Point): Point => ({
    x: across ? 2 * image.x + image.width - p.x : p.x,
    y: down ? 2 * image.y + image.height - p.y : p.y,
  });
  const corner = mirror({ x: across ? right(shown) : shown.x, y: down ? bottom(shown) : shown.y });
  const runs = silhouetteRuns(silhouette, image, { ...corner, width: shown.width, height: shown.height });
  const placed = (p: Point) => turnedPoint(mirror(p), layer.turn, pivot);
  return { runs, placed };
}

/** What was found of a layer last, and of what: several rules ask for the same. */
const found = new WeakMap<
  Subject,
  { canvas: Size; shaper: Shaper; assets: ReadonlyMap<string, AssetFacts>; points: Point[] }
>();

/** Points that enclose what a layer really draws, canvas px; none where it draws nothing. */
export function extremes(
  layer: Subject,
  canvas: Size,
  shaper: Shaper,
  assets: ReadonlyMap<string, AssetFacts>,
): Point[] {
  const known = found.get(layer);
  if (known?.canvas === canvas && known.shaper === shaper && known.assets === assets) return known.points;
  const points = pointsOf(layer, canvas, shaper, assets);
  found.set(layer, { canvas, shaper, assets, points });
  return points;
}

function pointsOf(layer: Subject, canvas: Size, shaper: Shaper, assets: ReadonlyMap<string, AssetFacts>): Point[] {
  if (layer.role === 'words') return wordsPoints(layer, layoutOf(layer, shaper));
  const silhouette = assets.get(factsKey(layer))?.silhouette;
  if (silhouette) {
    const { runs, placed } = silhouetteIn(layer, canvas, silhouette);
    // The middles of the outermost cells: they enclose everything to be seen to within half a cell.
    return runs.flatMap(({ x, y, width, height }) => [
      placed({ x, y: y + height / 2 }),
      placed({ x: x + width, y: y + height / 2 }),
    ]);
  }
  const { shown, pivot } = pictureGeometry(layer, canvas);
  return cornersOf(shown).map((p) => turnedPoint(p, layer.turn, pivot));
}

/** Corners of a box in the order they lie around it. */
const around = (b: Box): Point[] => [
  { x: b.x, y: b.y },
  { x: right(b), y: b.y },
  { x: right(b), y: bottom(b) },
  { x: b.x, y: bottom(b) },
];

/**
 * What a layer really draws as convex parts, canvas px, as far as they may reach into a box: letters with the line around
 * them, the ground behind them, a picture's own pixels row by row.
 */
export function partsNear(
  layer: Subject,
  near: Box,
  canvas: Size,
  shaper: Shaper,
  assets: ReadonlyMap<string, AssetFacts>,
): Point[][] {
  const touches = (points: readonly Point[]) => intersection(boxOf(points), near) !== null;
  if (layer.role !== 'words') {
    const silhouette = assets.get(factsKey(layer))?.silhouette;
    if (!silhouette) return [extremes(layer, canvas, shaper, assets)].map(hullPoints).filter(touches);
    const { runs, placed } = silhouetteIn(layer, canvas, silhouette);
    return runs.map((r) => around(r).map(placed)).filter(touches);
  }
  const layout = layoutOf(layer, shaper);
  const about = middleOf(wordsExtent(layer, layout));
  const placed = (p: Point) => (layer.turn === 0 ? p : turnedPoint(p, layer.turn, about));
  const line = layer.outline?.width ?? 0;
  const ground = groundBox(layer, layout);
  const parts = ground ? [around(ground).map(placed)] : [];
  for (const item of layout.items) {
    const ink = itemInk(item);
    // Its box first: of thousands of letters few reach into it.
    if (!ink || !touches(around(grown(ink, line)).map(placed))) continue;
    const own = line ? around(grown(ink, line)) : letterPoints(item).map(([x, y]) => ({ x, y }));
    parts.push(hullPoints(own.map(placed)));
  }
  return parts.filter((part) => part.length > 2 && touches(part));
}

/** The hull around points, in the order they lie around it. */
const hullPoints = (points: readonly Point[]): Point[] =>
  hullAround(points.map(({ x, y }): Pair => [x, y])).map(([x, y]) => ({ x, y }));

/** The upright box around points. */
export const boxOf = (points: readonly Point[]): Box => {
  let [left, top, most, low] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x, y } of points) {
    left = Math.min(left, x);
    top = Math.min(top, y);
    most = Math.max(most, x);
    low = Math.max(low, y);
  }
  return { x: left, y: top, width: most - left, height: low - top };
};

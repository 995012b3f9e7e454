import type { Box, Point, Size } from '../geometry/box';
import { enclosing } from '../geometry/box';
import type { Layer, PictureLayer, WordsLayer } from '../graphic/graphic';
import { scaledLayer, movedLayer } from '../graphic/arrange';
import { pictureGeometry } from '../graphic/picture-geometry';
import type { Slot } from '../slot/slot';
import { layoutOf } from '../paint/plan';
import { silhouettePoints } from '../pixels/silhouette';
import { itemInk } from '../words/layout';
import { polygonsOf } from '../words/stroke';
import type { Shaper } from '../words/shaper';
import type { AssetFacts } from './asset-facts';
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

/** Points on the outermost of what a layer really draws, canvas px. */
function extremes(layer: Subject, canvas: Size, shaper: Shaper, assets: ReadonlyMap<string, AssetFacts>): Point[] {
  if (layer.role === 'words')
    return layoutOf(layer, shaper).items.flatMap((item) => {
      if (item.kind === 'fallback') return cornersOf(itemInk(item)!);
      return polygonsOf(item.outline).flatMap((polygon) =>
        polygon.map((p) => ({ x: item.x + p.x * item.scale, y: item.y + p.y * item.scale })),
      );
    });
  const { image, shown } = pictureGeometry(layer, canvas);
  const silhouette = assets.get(layer.asset)?.silhouette;
  if (!silhouette) return cornersOf(shown);
  const within = (p: Point) =>
    p.x >= shown.x && p.x <= shown.x + shown.width && p.y >= shown.y && p.y <= shown.y + shown.height;
  return silhouettePoints(silhouette, image).filter(within);
}

/** How far a point lies outside a slot's shape, px; 0 and less is within. */
function over(p: Point, canvas: Size, shape: Shape): number {
  const x = p.x - canvas.width / 2;
  const y = p.y - canvas.height / 2;
  if (shape === 'rectangle') return Math.max(Math.abs(x) - canvas.width / 2, Math.abs(y) - canvas.height / 2);
  // Along the ray from the middle: near the rim of an ellipse that is close enough to the true distance.
  const share = Math.hypot(x / (canvas.width / 2), y / (canvas.height / 2));
  return share <= 1 ? 0 : Math.hypot(x, y) * (1 - 1 / share);
}

const depth = (points: readonly Point[], canvas: Size, shape: Shape) =>
  points.reduce((most, p) => Math.max(most, over(p, canvas, shape)), 0);

/** Moves a layer towards the middle, only as far as it takes, and makes it smaller only if moving is not enough. */
function inside(layer: Subject, canvas: Size, shape: Shape, pointsOf: (l: Subject) => Point[]): Subject {
  const middle = (l: Subject) => {
    const b = enclosing(pointsOf(l).map((p) => ({ ...p, width: 0, height: 0 })))!;
    return { x: b.x + b.width / 2, y: b.y + b.height / 2, box: b };
  };
  const fits = (l: Subject) => depth(pointsOf(l), canvas, shape) <= 0.01;
  const toward = (l: Subject, share: number): Subject => {
    const m = middle(l);
    return movedLayer(l, { x: (canvas.width / 2 - m.x) * share, y: (canvas.height / 2 - m.y) * share }, canvas);
  };
  if (shape === 'rectangle') {
    const { box } = middle(layer);
    if (box.width <= canvas.width && box.height <= canvas.height) {
      const shift = (from: number, length: number, room: number) =>
        from < 0 ? -from : Math.min(0, room - (from + length));
      return movedLayer(
        layer,
        { x: shift(box.x, box.width, canvas.width), y: shift(box.y, box.height, canvas.height) },
        canvas,
      );
    }
  } else
    for (let share = 0.05; share <= 1.001; share += 0.05) {
      const moved = toward(layer, share);
      if (fits(moved)) return moved;
    }
  let small = toward(layer, 1);
  for (let k = 0; k < 60 && !fits(small); k++) small = toward(scaledLayer(small, 0.96, canvas), 1);
  return small;
}

/** Words and logos over the canvas's edge, or outside the shape the page cuts the picture to, will be cut. */
export const outside = defineRule({
  id: 'outside',
  passed: 'Words and logos lie wholly within the slot',
  needs: ['layers', 'canvas', 'slot', 'shaper', 'assets'],
  judge({ layers, canvas, slot, shaper, assets }): Finding[] {
    return layers
      .filter((l): l is Subject => l.visible && l.role !== 'photo')
      .flatMap((layer: Subject): Finding[] => {
        const pointsOf = (l: Layer) => extremes(l as Subject, canvas, shaper, assets);
        const points = pointsOf(layer);
        const px = depth(points, canvas, slot.shape);
        if (px <= SLACK) return [];
        const out = points.filter((p) => over(p, canvas, slot.shape) > 0);
        const where = slot.shape === 'ellipse' ? 'outside the round slot' : 'over the canvas’s edge';
        const fixed = inside(layer, canvas, slot.shape, pointsOf);
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

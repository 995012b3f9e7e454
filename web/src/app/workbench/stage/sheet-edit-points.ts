import {
  clamp,
  middleOf,
  shapeBox,
  turnedPoint,
  type Box,
  type Gradient,
  type Graphic,
  type Point,
  type ShapeLayer,
  type Shaper,
  type Size,
  type VeilLayer,
} from '@bright-slot/core';
import type { EditPointOn } from './edit-point';

const tenth = (n: number) => Math.round(n * 10) / 10;
const held = (n: number) => clamp(n, -10, 11);

/** The two ends of a gradient over a box. */
function gradientPoints(
  gradient: Gradient,
  box: Box,
  place: { out(p: Point): Point; in(p: Point): Point },
  to: (g: Gradient) => ReturnType<EditPointOn['to']>,
): EditPointOn[] {
  return (['from', 'to'] as const).map((end) => ({
    id: `gradient-${end}`,
    label:
      gradient.form === 'radial'
        ? end === 'from'
          ? 'Middle of the rings'
          : 'Last ring of the gradient'
        : end === 'from'
          ? 'Where the gradient begins'
          : 'Where the gradient ends',
    shape: end === 'from' ? 'dot' : 'ring',
    at: place.out({ x: box.x + gradient[end].x * box.width, y: box.y + gradient[end].y * box.height }),
    to: (p) => {
      const at = place.in(p);
      return to({
        ...gradient,
        [end]: { x: held((at.x - box.x) / box.width), y: held((at.y - box.y) / box.height) },
      });
    },
  }));
}

const asItIs = { out: (p: Point) => p, in: (p: Point) => p };

export function backdropPoints({ backdrop, canvas }: Graphic): EditPointOn[] {
  if (backdrop.kind !== 'gradient') return [];
  return gradientPoints(backdrop, { x: 0, y: 0, ...canvas }, asItIs, (g) => ({
    type: 'set-backdrop',
    backdrop: g,
    name: 'Backdrop: gradient moved',
    merge: 'backdrop:ends',
  }));
}

/** A line's ends, a bubble's tip, and the ends of its gradient while its fill is being seen to. */
export function shapePoints(layer: ShapeLayer, graphic: Graphic, shaper: Shaper, section: string): EditPointOn[] {
  const replace = (next: ShapeLayer, what: string): ReturnType<EditPointOn['to']> => ({
    type: 'replace-layer',
    layer: next,
    name: `${layer.name}: ${what} moved`,
    merge: `${what}:${layer.id}`,
  });
  const { place, form, fill, turn } = layer;
  if (place.mode === 'line')
    return (['from', 'to'] as const).map((end) => ({
      id: `line-${end}`,
      label: end === 'from' ? 'One end of the line' : 'The other end of the line',
      shape: 'dot',
      at: place[end],
      to: (p) => {
        const other = place[end === 'from' ? 'to' : 'from'];
        // Nearly level or upright is meant so.
        const near = (n: number, m: number) => (Math.abs(n - m) < 2 ? m : tenth(n));
        return replace(
          { ...layer, place: { ...place, [end]: { x: near(p.x, other.x), y: near(p.y, other.y) } } },
          'end',
        );
      },
    }));
  const box = shapeBox(layer, graphic, shaper);
  const about = middleOf(box);
  const turned = {
    out: (p: Point) => turnedPoint(p, turn, about),
    in: (p: Point) => turnedPoint(p, -turn, about),
  };
  const points: EditPointOn[] = [];
  if (form.kind === 'bubble')
    points.push({
      id: 'tip',
      label: 'Tip of the bubble',
      shape: 'dot',
      at: turned.out({ x: box.x + form.tip.x * box.width, y: box.y + form.tip.y * box.height }),
      to: (p) => {
        const at = turned.in(p);
        const tip = { x: (at.x - box.x) / box.width, y: (at.y - box.y) / box.height };
        return replace({ ...layer, form: { ...form, tip } }, 'tip');
      },
    });
  if (fill.kind === 'gradient' && section === 'fill')
    points.push(...gradientPoints(fill, box, turned, (g) => replace({ ...layer, fill: g }, 'gradient')));
  return points;
}

/** The edges of a band, the reach of a veil from a side. */
export function veilPoints(layer: VeilLayer, { width, height }: Size): EditPointOn[] {
  const { form } = layer;
  const replace = (next: VeilLayer['form'], what: string): ReturnType<EditPointOn['to']> => ({
    type: 'replace-layer',
    layer: { ...layer, form: next },
    name: `${layer.name}: ${what} moved`,
    merge: `${what}:${layer.id}`,
  });
  if (form.kind === 'band') {
    const across = form.way === 'across';
    const at = (n: number): Point => (across ? { x: width / 2, y: n } : { x: n, y: height / 2 });
    const along = (p: Point) => Math.round(across ? p.y : p.x);
    const end = form.at + form.size;
    return [
      {
        id: 'band-from',
        label: 'Where the band begins',
        shape: across ? 'bar-y' : 'bar-x',
        at: at(form.at),
        to: (p) => {
          const begin = Math.min(along(p), end - 1);
          return replace({ ...form, at: begin, size: end - begin }, 'edge');
        },
      },
      {
        id: 'band-to',
        label: 'Where the band ends',
        shape: across ? 'bar-y' : 'bar-x',
        at: at(end),
        to: (p) => replace({ ...form, size: Math.max(1, along(p) - form.at) }, 'edge'),
      },
    ];
  }
  if (form.kind !== 'side') return [];
  const { side, reach } = form;
  const far = { left: reach, right: width - reach, top: reach, bottom: height - reach }[side];
  const across = side === 'left' || side === 'right';
  return [
    {
      id: 'reach',
      label: 'How far the veil reaches',
      shape: across ? 'bar-x' : 'bar-y',
      at: across ? { x: far, y: height / 2 } : { x: width / 2, y: far },
      to: (p) => {
        const next = { left: p.x, right: width - p.x, top: p.y, bottom: height - p.y }[side];
        return replace({ ...form, reach: Math.max(1, Math.round(next)) }, 'reach');
      },
    },
  ];
}

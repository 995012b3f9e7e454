import type { Box } from '../../geometry/box';
import { apart, offsetOf, type Raster } from './raster';

/** Differences below this many of 255 may be noise: common practice, no source. */
const NOISE = 8;
/** How much the restlessness beside a step counts against it. */
const TEXTURE = 1.1;

/**
 * How much like the edge of a box it is where a line crosses from outside to
 * inside, 0 to 1: a step in colour, large against what changes on either side.
 * `(x, y)` is the crossing, device px; `(nx, ny)` points inwards, of length 1.
 */
export function stepAt(raster: Raster, x: number, y: number, nx: number, ny: number): number {
  const o1 = offsetOf(raster, x - nx * 0.5, y - ny * 0.5);
  const i1 = offsetOf(raster, x + nx * 0.5, y + ny * 0.5);
  const step = apart(raster, o1, i1);
  if (step === 0) return 0;
  const o2 = offsetOf(raster, x - nx * 1.5, y - ny * 1.5);
  const i2 = offsetOf(raster, x + nx * 1.5, y + ny * 1.5);
  const beside = apart(raster, o2, o1) + apart(raster, i1, i2);
  return step / (step + TEXTURE * beside + NOISE);
}

/** A point of an outline with the direction inwards. */
export interface Crossing {
  readonly x: number;
  readonly y: number;
  readonly nx: number;
  readonly ny: number;
}

/** Mean of `stepAt` over crossings; 0 for none. */
export function meanStep(raster: Raster, crossings: readonly Crossing[]): number {
  if (!crossings.length) return 0;
  let sum = 0;
  for (const c of crossings) sum += stepAt(raster, c.x, c.y, c.nx, c.ny);
  return sum / crossings.length;
}

export type Side = 'left' | 'right' | 'top' | 'bottom';
export const sides: readonly Side[] = ['left', 'right', 'top', 'bottom'];

/** Where a box's side lies. */
export function sideOf(box: Box, side: Side): number {
  return side === 'left' ? box.x : side === 'right' ? box.x + box.width : side === 'top' ? box.y : box.y + box.height;
}

/**
 * Mean of `stepAt` along one side of a box, leaving `inset` px out at both ends:
 * the same as over `sideCrossings` where the side lies on a whole px, but many
 * times as fast, for the lines that a search looks at.
 */
export function sideStep(raster: Raster, box: Box, side: Side, inset: number, most = 240): number {
  const { data, width, height } = raster;
  const upright = side === 'left' || side === 'right';
  const [from, length] = upright ? [box.y, box.height] : [box.x, box.width];
  const start = from + Math.min(inset, length * 0.45);
  const end = from + length - Math.min(inset, length * 0.45);
  const pace = Math.max(1, (end - start) / most);
  const [size, limit] = upright ? [width, height] : [height, width];
  const at = Math.round(sideOf(box, side));
  const inwards = side === 'left' || side === 'top' ? 1 : -1;
  const kept = (n: number) => (n < 0 ? 0 : n >= size ? size - 1 : n);
  // Pixels left and right of the line, from the outside in.
  const pixel = (d: number) => kept(at + (inwards > 0 ? d : -1 - d)) * (upright ? 4 : 4 * width);
  const [o2, o1, i1, i2] = [pixel(-2), pixel(-1), pixel(0), pixel(1)] as const;
  const stride = upright ? 4 * width : 4;
  let sum = 0;
  let count = 0;
  // The same as if the first line of px inside were a border: what changes behind it is the picture's.
  let bordered = 0;
  const total = [0, 0, 0];
  const squares = [0, 0, 0];
  for (let s = start + 0.5; s < end; s += pace) {
    count++;
    const along = Math.floor(s);
    if (along < 0 || along >= limit) continue;
    const line = along * stride;
    for (let k = 0; k < 3; k++) {
      const b = data[line + i1 + k]!;
      total[k]! += b;
      squares[k]! += b * b;
    }
    let step = 0;
    let outer = 0;
    let inner = 0;
    for (let k = 0; k < 3; k++) {
      const a = data[line + o1 + k]!;
      const b = data[line + i1 + k]!;
      const d0 = Math.abs(a - b);
      const d1 = Math.abs(data[line + o2 + k]! - a);
      const d2 = Math.abs(b - data[line + i2 + k]!);
      if (d0 > step) step = d0;
      if (d1 > outer) outer = d1;
      if (d2 > inner) inner = d2;
    }
    if (!step) continue;
    sum += step / (step + TEXTURE * (outer + inner) + NOISE);
    bordered += step / (step + TEXTURE * outer + NOISE);
  }
  if (!count) return 0;
  const even = count >= LEAST_LINE && total.every((t, k) => squares[k]! / count - (t / count) ** 2 < EVEN);
  return (even ? bordered : sum) / count;
}

/** A line of so many px and more whose colours vary by no more (of 255, squared) is drawn, and no part of a picture. */
const LEAST_LINE = 24;
const EVEN = 4;

/** Crossings along one side of a box, leaving `inset` px out at both ends; about `most` of them at most. */
export function sideCrossings(box: Box, side: Side, inset: number, most = 240): Crossing[] {
  const upright = side === 'left' || side === 'right';
  const [from, length] = upright ? [box.y, box.height] : [box.x, box.width];
  const start = from + Math.min(inset, length * 0.45);
  const end = from + length - Math.min(inset, length * 0.45);
  const step = Math.max(1, (end - start) / most);
  const out: Crossing[] = [];
  for (let s = start + 0.5; s < end; s += step) {
    const along = Math.floor(s) + 0.5;
    if (side === 'left') out.push({ x: box.x, y: along, nx: 1, ny: 0 });
    else if (side === 'right') out.push({ x: box.x + box.width, y: along, nx: -1, ny: 0 });
    else if (side === 'top') out.push({ x: along, y: box.y, nx: 0, ny: 1 });
    else out.push({ x: along, y: box.y + box.height, nx: 0, ny: -1 });
  }
  return out;
}

/** Crossings along the arcs of a box's rounded corners and what is straight of the corner squares of side `reach`. */
export function cornerCrossings(box: Box, radius: number, reach: number): Crossing[] {
  const out: Crossing[] = [];
  const r = Math.min(radius, box.width / 2, box.height / 2);
  for (const [sx, sy] of [
    [1, 1],
    [-1, 1],
    [1, -1],
    [-1, -1],
  ] as const) {
    const cx = sx > 0 ? box.x : box.x + box.width;
    const cy = sy > 0 ? box.y : box.y + box.height;
    for (let s = r + 0.5; s < reach; s++) {
      out.push({ x: cx, y: cy + sy * s, nx: sx, ny: 0 });
      out.push({ x: cx + sx * s, y: cy, nx: 0, ny: sy });
    }
    const steps = Math.ceil((r * Math.PI) / 2);
    for (let k = 0; k < steps; k++) {
      const a = ((k + 0.5) / steps) * (Math.PI / 2);
      const [nx, ny] = [sx * Math.cos(a), sy * Math.sin(a)];
      out.push({ x: cx + sx * r - nx * r, y: cy + sy * r - ny * r, nx, ny });
    }
  }
  return out;
}

/** Crossings all around the ellipse that fills a box. */
export function ellipseCrossings(box: Box, count = 240): Crossing[] {
  const [a, b] = [box.width / 2, box.height / 2];
  const [cx, cy] = [box.x + a, box.y + b];
  return Array.from({ length: count }, (_, i) => {
    const t = ((i + 0.5) / count) * 2 * Math.PI;
    const [x, y] = [Math.cos(t), Math.sin(t)];
    // The normal of an ellipse is (x / a², y / b²).
    const [nx, ny] = [-x / a, -y / b];
    const l = Math.hypot(nx, ny);
    return { x: cx + x * a, y: cy + y * b, nx: nx / l, ny: ny / l };
  });
}

import { drawnStops } from '../colour/gradient';
import type { Box } from '../geometry/box';
import type { Fill } from '../colour/fill';
import { fadeAt } from '../pixels/mask';
import { channelsOf } from '../colour/srgb';
import type { PathTarget } from '../words/outline';
import type { FadeLine, Finish, ShadowFinish } from '../pixels/finishing';
import type { SurfaceNeed } from './plan';

interface GradientTarget {
  addColorStop(at: number, colour: string): void;
}

/** The part of a 2D context that painting uses; browser, worker and Node contexts all have it. */
export interface PaintContext<Image> extends PathTarget {
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineJoin: unknown;
  lineCap: unknown;
  globalAlpha: number;
  globalCompositeOperation: unknown;
  shadowColor: string;
  shadowBlur: number;
  shadowOffsetX: number;
  shadowOffsetY: number;
  font: string;
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: unknown;
  save(): void;
  restore(): void;
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  clearRect(x: number, y: number, w: number, h: number): void;
  fillRect(x: number, y: number, w: number, h: number): void;
  beginPath(): void;
  rect(x: number, y: number, w: number, h: number): void;
  ellipse(x: number, y: number, rx: number, ry: number, rotation: number, from: number, to: number): void;
  roundRect(x: number, y: number, w: number, h: number, radii: number[]): void;
  translate(x: number, y: number): void;
  rotate(angle: number): void;
  scale(x: number, y: number): void;
  createLinearGradient(x0: number, y0: number, x1: number, y1: number): GradientTarget;
  createRadialGradient(x0: number, y0: number, r0: number, x1: number, y1: number, r1: number): GradientTarget;
  setLineDash(lengths: number[]): void;
  clip(): void;
  fill(): void;
  stroke(): void;
  fillText(text: string, x: number, y: number): void;
  strokeText(text: string, x: number, y: number): void;
  drawImage(image: Image, x: number, y: number, w: number, h: number): void;
}

/** Where painting finds its surfaces. */
export interface Surfaces<Image> {
  /** The exact surface for a need, whole pixel for whole pixel. */
  exact(need: SurfaceNeed): Image | undefined;
  /** The latest surface of the same reduction, finished otherwise: what was seen before a slider moved. */
  recent?(need: SurfaceNeed): { readonly image: Image; readonly place: Box } | undefined;
  /** A whole, roughly scaled picture for first sight and dragging; never used for a file. */
  rough(need: SurfaceNeed): Image | undefined;
  /** An empty sheet for what a rough picture needs beside the canvas. */
  scratch?(width: number, height: number): { readonly context: PaintContext<Image>; readonly image: Image } | undefined;
}

/** A fill as a context takes it, over a box in the context's own unit; null for none. */
export function fillStyle<Image>(fill: Fill, context: PaintContext<Image>, box: Box): unknown {
  if (fill.kind === 'none') return null;
  if (fill.kind === 'colour') return fill.colour;
  const at = (p: { x: number; y: number }) => ({ x: box.x + p.x * box.width, y: box.y + p.y * box.height });
  const [from, to] = [at(fill.from), at(fill.to)];
  const gradient =
    fill.form === 'linear'
      ? context.createLinearGradient(from.x, from.y, to.x, to.y)
      : context.createRadialGradient(from.x, from.y, 0, from.x, from.y, Math.hypot(to.x - from.x, to.y - from.y));
  for (const { at: share, css } of drawnStops(fill.stops)) gradient.addColorStop(share, css);
  return gradient;
}

/** Sets a shadow for what is drawn next; it falls by device px, whatever the transform. */
export function setShadow<Image>(context: PaintContext<Image>, shadow: ShadowFinish): void {
  const [r, g, b] = channelsOf(shadow.colour);
  context.shadowColor = `rgba(${r}, ${g}, ${b}, ${shadow.strength})`;
  context.shadowBlur = shadow.blur;
  context.shadowOffsetX = shadow.x;
  context.shadowOffsetY = shadow.y;
}

const FADE_STOPS = 12;

/**
 * A fade along a line as a gradient of one colour's opacity: coming up over the first share of the way (`rise`), whole,
 * giving way over the last (`fall`).
 */
export function fadeStyle<Image>(
  context: PaintContext<Image>,
  { from, to }: FadeLine,
  colour = '#000000',
  { rise, fall }: { readonly rise: number; readonly fall: number } = { rise: 0, fall: 1 },
): unknown {
  const [r, g, b] = channelsOf(colour);
  const gradient = context.createLinearGradient(from.x, from.y, to.x, to.y);
  const stop = (at: number, opacity: number) => gradient.addColorStop(at, `rgba(${r}, ${g}, ${b}, ${opacity})`);
  const gone = (t: number) => fadeAt({ from: { x: 0, y: 0 }, to: { x: 1, y: 0 } }, t, 0);
  if (rise > 0) for (let i = 0; i <= FADE_STOPS; i++) stop((rise * i) / FADE_STOPS, gone(1 - i / FADE_STOPS));
  for (let i = 0; i <= FADE_STOPS; i++) stop(1 - fall + (fall * i) / FADE_STOPS, gone(i / FADE_STOPS));
  return gradient;
}

/** The outline of what shows, as the current path. */
export function frameOutline<Image>(context: PaintContext<Image>, b: Box, corners: Finish['corners']): void {
  context.beginPath();
  if (corners === 'round')
    context.ellipse(b.x + b.width / 2, b.y + b.height / 2, b.width / 2, b.height / 2, 0, 0, 2 * Math.PI);
  else if (corners) context.roundRect(b.x, b.y, b.width, b.height, [...corners]);
  else context.rect(b.x, b.y, b.width, b.height);
}

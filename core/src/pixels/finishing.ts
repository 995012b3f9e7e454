import type { Beyond, Fade, Look, Shadow, SideName, Tint } from './appearance';
import { plainLook } from './appearance';
import { right, bottom, type Box, type Point } from '../geometry/box';

/** A fade as a line: whole at `from`, gone at `to`. */
export interface FadeLine {
  readonly from: Point;
  readonly to: Point;
}

/** Shadow in device px; `colour` is `#rrggbb`. */
export interface ShadowFinish {
  readonly x: number;
  readonly y: number;
  readonly blur: number;
  readonly colour: string;
  readonly strength: number;
}

/** What is done to a reduced picture before it is painted. Lengths and places in device px, in the surface's own directions. */
export interface Finish {
  /** What shows of the picture, before what is left of its turn. */
  readonly frame: Box;
  readonly look: Look | null;
  readonly tint: Tint | null;
  /** Top left, top right, bottom right, bottom left; or an ellipse. */
  readonly corners: readonly [number, number, number, number] | 'round' | null;
  readonly border: { readonly width: number; readonly colour: string } | null;
  readonly fades: readonly FadeLine[];
  readonly beyond: { readonly style: Beyond['style']; readonly box: Box } | null;
  readonly turn: { readonly degrees: number; readonly about: Point } | null;
  readonly shadow: ShadowFinish | null;
}

const sideLine: Record<SideName, (b: Box, share: number) => FadeLine> = {
  left: (b, s) => ({ from: { x: b.x + b.width * s, y: b.y }, to: { x: b.x, y: b.y } }),
  right: (b, s) => ({ from: { x: right(b) - b.width * s, y: b.y }, to: { x: right(b), y: b.y } }),
  top: (b, s) => ({ from: { x: b.x, y: b.y + b.height * s }, to: { x: b.x, y: b.y } }),
  bottom: (b, s) => ({ from: { x: b.x, y: bottom(b) - b.height * s }, to: { x: b.x, y: bottom(b) } }),
};

/** A fade's line over the box it belongs to, in that box's units. */
export function fadeLine(fade: Fade, box: Box): FadeLine {
  if (fade.kind === 'side') return sideLine[fade.side](box, fade.length);
  const at = (p: Point) => ({ x: box.x + p.x * box.width, y: box.y + p.y * box.height });
  return { from: at(fade.from), to: at(fade.to) };
}

/** Whether a look changes anything. */
export const isPlainLook = (look: Look): boolean =>
  (Object.keys(plainLook) as (keyof Look)[]).every((k) => look[k] === plainLook[k]);

/** How far a shadow reaches past what casts it, device px: three σ, a σ being half the blur. */
export const shadowReach = (s: ShadowFinish): number => Math.ceil(s.blur * 1.5) + 1;

/** A layer's shadow in device px. */
export function shadowOf(layer: { readonly shadow: Shadow | null }, scale: number): ShadowFinish | null {
  const { shadow } = layer;
  if (!shadow || shadow.strength === 0) return null;
  const angle = (shadow.angle * Math.PI) / 180;
  return {
    x: Math.cos(angle) * shadow.distance * scale,
    y: Math.sin(angle) * shadow.distance * scale,
    blur: shadow.blur * scale,
    colour: shadow.colour,
    strength: shadow.strength,
  };
}
